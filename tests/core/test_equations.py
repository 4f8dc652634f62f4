"""1RM equations and the rep table against their published sources, quoted from memory."""

import pytest

from jarvok.core.equations import BY_KEY, EPLEY, EQUATIONS, spread_kg
from jarvok.core.errors import CoachError
from jarvok.core.marks.rep_table import PERCENT_BY_REPS, percent_for_reps

# 100 kg for r repetitions, worked by hand from the published form of each equation
PUBLISHED = [
    # Epley 1985, quoted from memory: w (1 + r/30)
    ("epley", 3, 110.0),
    ("epley", 10, 133.3333),
    # Brzycki 1993, quoted from memory: 36 w / (37 - r)
    ("brzycki", 5, 112.5),
    ("brzycki", 10, 133.3333),
    # Lander 1985, quoted from memory: 100 w / (101.3 - 2.67123 r)
    ("lander", 5, 113.7094),
    ("lander", 10, 134.0738),
    # Lombardi 1989, quoted from memory: w r^0.10
    ("lombardi", 5, 117.4619),
    ("lombardi", 10, 125.8925),
    # Mayhew et al. 1992, quoted from memory: 100 w / (52.2 + 41.9 e^(-0.055 r))
    ("mayhew", 5, 119.0131),
    ("mayhew", 10, 130.9343),
    # O'Conner et al. 1989, quoted from memory: w (1 + 0.025 r)
    ("oconner", 5, 112.5),
    ("oconner", 10, 125.0),
    # Wathan 1994, quoted from memory: 100 w / (48.8 + 53.8 e^(-0.075 r))
    ("wathan", 5, 116.5837),
    ("wathan", 10, 134.7488),
]


@pytest.mark.parametrize(("key", "reps", "one_rm_kg"), PUBLISHED)
def test_equation_against_published_form(key: str, reps: int, one_rm_kg: float) -> None:
    assert BY_KEY[key].one_rm_kg(100.0, reps) == pytest.approx(one_rm_kg, abs=0.01)


@pytest.mark.parametrize("equation", EQUATIONS, ids=lambda e: e.key)
def test_a_single_is_itself(equation) -> None:
    assert equation.one_rm_kg(87.5, 1) == 87.5


@pytest.mark.parametrize("equation", EQUATIONS, ids=lambda e: e.key)
@pytest.mark.parametrize("reps", [1, 1.5, 2, 5, 8, 12, 15])
def test_the_relation_is_one_in_both_directions(equation, reps: float) -> None:
    load = equation.load_kg(120.0, reps)
    assert equation.one_rm_kg(load, reps) == pytest.approx(120.0, abs=1e-9)


@pytest.mark.parametrize("equation", EQUATIONS, ids=lambda e: e.key)
def test_more_repetitions_mean_a_higher_max(equation) -> None:
    values = [equation.one_rm_kg(100, r) for r in range(1, 16)]
    assert values == sorted(values)
    assert len(set(values)) == len(values)


@pytest.mark.parametrize("reps", [0, 0.5, 16, 37])
def test_repetitions_out_of_range_are_refused_in_words(reps: float) -> None:
    with pytest.raises(CoachError, match="1 to 15"):
        EPLEY.one_rm_kg(100, reps)


def test_the_spread_holds_every_equation() -> None:
    low, high = spread_kg(100, 8)
    assert low == pytest.approx(120.0)  # O'Conner is lowest here
    assert low < EPLEY.one_rm_kg(100, 8) < high


# Haff & Triplett, Essentials of Strength Training and Conditioning, 4th ed., 2016, quoted from memory
TEXTBOOK = {1: 100, 2: 95, 3: 93, 4: 90, 5: 87, 6: 85, 7: 83, 8: 80, 9: 77, 10: 75, 11: 70, 12: 67, 15: 65}


@pytest.mark.parametrize(("reps", "percent"), TEXTBOOK.items())
def test_rep_table_row(reps: int, percent: float) -> None:
    assert percent_for_reps(reps) == percent


def test_rep_table_has_no_other_rows_and_fills_the_gap_by_a_line() -> None:
    assert set(PERCENT_BY_REPS) == set(TEXTBOOK)
    assert percent_for_reps(13) == pytest.approx(66.333, abs=0.001)
    with pytest.raises(CoachError):
        percent_for_reps(16)

"""Every row of the tables of the loading methods, typed again from the handbook and held against the data files."""

from __future__ import annotations

import pytest

from jarvok.core.library.exercises import exercise
from jarvok.core.loading.methods.apre import adjustment
from jarvok.core.loading.state import LiftState
from jarvok.core.loading.tables import apre_protocols, increments, intensity_words

SQUAT = LiftState(exercise("back_squat"))


# Haff & Triplett, Essentials of Strength Training and Conditioning, 4th ed., 2016, quoted from memory
@pytest.mark.parametrize(("group", "region", "least_kg", "most_kg"), [
    ("smaller", "upper", 1, 2), ("smaller", "lower", 2, 4), ("larger", "upper", 2, 4), ("larger", "lower", 4, 7),
])  # fmt: skip
def test_increments(group: str, region: str, least_kg: float, most_kg: float) -> None:
    assert increments().steps_kg[group, region] == (least_kg, most_kg)
    assert increments().source.text == "Haff & Triplett 2016"


# DeWeese, Stone et al.; Suchomel et al. 2021, quoted from memory
@pytest.mark.parametrize(("word", "low", "high"), [
    ("very light", 65, 70), ("light", 70, 75), ("moderately light", 75, 80), ("moderate", 80, 85),
    ("moderately heavy", 85, 90), ("heavy", 90, 95), ("very heavy", 95, 100),
])  # fmt: skip
def test_intensity_words(word: str, low: float, high: float) -> None:
    assert (intensity_words()[word].low_pct, intensity_words()[word].high_pct) == (low, high)


# Mann et al. 2010, table from memory
@pytest.mark.parametrize(("rm", "warm"), [(10, ((12, 50), (10, 75))), (6, ((10, 50), (6, 75))), (3, ((6, 50), (3, 75)))])
def test_apre_warm_sets(rm: int, warm: tuple[tuple[int, int], ...]) -> None:
    assert apre_protocols()[rm].warm_sets == warm


# Mann et al. 2010, table from memory: (protocol, repetitions, change in kg at that edge); the load is heavy enough that
# no cap by share comes in (200 kg: 5 % is 10 kg)
@pytest.mark.parametrize(("rm", "reps", "change_kg"), [
    (10, 4, -5), (10, 6, -2.5), (10, 7, -2.5), (10, 8, 0), (10, 9, 0), (10, 11, 0), (10, 12, 2.5), (10, 16, 5), (10, 17, 5),
    (10, 21, 7.5), (10, 30, 7.5),
    (6, 0, -5), (6, 2, -2.5), (6, 3, -2.5), (6, 4, 0), (6, 5, 0), (6, 7, 0), (6, 8, 2.5), (6, 12, 5), (6, 13, 5), (6, 17, 7.5),
    (3, 1, -5), (3, 2, -2.5), (3, 3, 0), (3, 4, 0), (3, 5, 2.5), (3, 6, 5), (3, 7, 5), (3, 11, 7.5),
])  # fmt: skip
def test_apre_adjustments(rm: int, reps: int, change_kg: float) -> None:
    found = adjustment(apre_protocols()[rm], reps, 200.0, SQUAT)
    assert found.kg == pytest.approx(change_kg)
    assert found.asks is False


@pytest.mark.parametrize("rm", [3, 10])
def test_a_count_below_the_table_acts_like_its_first_row_and_asks(rm: int) -> None:
    found = adjustment(apre_protocols()[rm], 0, 200.0, SQUAT)
    assert found.kg == -5
    assert found.asks is True


@pytest.mark.parametrize(("reps", "load_kg", "change_kg"), [(12, 40.0, 2.0), (13, 40.0, 3.0), (17, 40.0, 3.0), (0, 40.0, -2.0)])
def test_a_change_is_capped_by_a_share_of_a_small_load(reps: int, load_kg: float, change_kg: float) -> None:
    # 5 % of 40 kg is 2 kg; for the last row 7.5 % is 3 kg
    assert adjustment(apre_protocols()[6], reps, load_kg, SQUAT).kg == pytest.approx(change_kg)

"""A count of repetitions in reserve is read as the athlete's own sets to failure say: cases worked out by hand."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

import pytest

from jarvok.core.equations import DEFAULT_EQUATION
from jarvok.core.marks.mark import Mark, MarkKind
from jarvok.core.marks.own_count import OwnCount, own_count
from jarvok.core.marks.relation import reps_at
from jarvok.core.marks.working_max import current_max
from jarvok.core.rules import DEFAULT_RULES

DAY = date(2026, 11, 24)
MAX_KG = 100.0


def load_kg(reps: float) -> float:
    """What somebody of 100 kg lifts so often."""
    return DEFAULT_EQUATION.load_kg(MAX_KG, reps)


def to_failure(count: int, reps: int = 6, days_ago: int = 10) -> list[Mark]:
    return [Mark(f"f{n}", DAY - timedelta(days=days_ago), MarkKind.AMRAP, load_kg(reps), reps) for n in range(count)]


def counted(count: int, short_by: float, reps: int = 5, left: float = 2, days_ago: int = 8) -> list[Mark]:
    """Sets with `left` more in them, said to be `short_by` fewer."""
    load = load_kg(reps + left)
    day = DAY - timedelta(days=days_ago)
    return [Mark(f"s{n}", day, MarkKind.SET_RIR, load, reps, left - short_by) for n in range(count)]


def short_by_of(marks: list[Mark]) -> float:
    found = own_count(marks, DEFAULT_EQUATION, DEFAULT_RULES)
    assert found is not None
    return found.short_by


def test_it_is_what_the_sets_say_leaning_on_a_count_that_is_right() -> None:
    # 12 sets, two of them worth one, scatter of half a repetition: 2 × 0.25 / 12; 4 to failure: 0.5625 / 4; spread 1
    assert short_by_of([*to_failure(4), *counted(12, 1)]) == pytest.approx(1 / (1 + 0.0417 + 0.1406), abs=0.001)
    assert short_by_of([*to_failure(4), *counted(12, -1, left=1)]) == pytest.approx(-0.846, abs=0.001)
    assert short_by_of([*to_failure(4), *counted(12, 0)]) == pytest.approx(0, abs=0.001)


def test_more_sets_to_failure_say_it_more_surely() -> None:
    few, many = short_by_of([*to_failure(3), *counted(4, 1)]), short_by_of([*to_failure(12), *counted(30, 1)])
    assert few < many < 1
    assert few == pytest.approx(1 / (1 + 2 * 0.25 / 4 + 0.5625 / 3), abs=0.001)


@pytest.mark.parametrize(("fails", "sets", "is_known"), [(3, 3, True), (2, 3, False), (3, 2, False)])
def test_it_takes_three_of_either_kind(fails: int, sets: int, is_known: bool) -> None:
    assert (own_count([*to_failure(fails), *counted(sets, 1)], DEFAULT_EQUATION, DEFAULT_RULES) is not None) == is_known


@pytest.mark.parametrize(("apart", "is_known"), [(28, True), (29, False)])
def test_sets_of_other_weeks_are_not_held_against_each_other(apart: int, is_known: bool) -> None:
    marks = [*to_failure(4, days_ago=8 + apart), *counted(6, 1, days_ago=8)]
    assert (own_count(marks, DEFAULT_EQUATION, DEFAULT_RULES) is not None) == is_known


@pytest.mark.parametrize(("off", "read_as"), [(2.1, 2.0), (-2.1, -2.0)])
def test_further_off_than_two_it_is_no_count(off: float, read_as: float) -> None:
    marks = [*to_failure(30), *counted(60, off * 1.1, reps=3, left=4 if off > 0 else 1)]
    assert short_by_of(marks) == read_as


@pytest.mark.parametrize(("reps", "left", "is_known"), [(6, 4, True), (6, 4.5, False), (7, 4, False)])
def test_sets_too_far_from_failure_are_left_out(reps: int, left: float, is_known: bool) -> None:
    marks = [*to_failure(4), *counted(6, 0, reps=reps, left=left)]
    assert (own_count(marks, DEFAULT_EQUATION, DEFAULT_RULES) is not None) == is_known


@pytest.mark.parametrize(("reps", "is_known"), [(10, True), (11, False), (1, False)])
def test_so_are_open_sets_that_say_little_of_repetitions(reps: int, is_known: bool) -> None:
    marks = [*to_failure(4, reps=reps), *counted(6, 1)]
    assert (own_count(marks, DEFAULT_EQUATION, DEFAULT_RULES) is not None) == is_known


def test_the_max_is_read_so_and_says_so() -> None:
    marks = [*to_failure(4), *counted(12, 1)]
    found = current_max(marks, DAY, training_age_years=3)
    alone = current_max(counted(12, 1), DAY, training_age_years=3)
    assert found is not None
    assert alone is not None
    assert alone.value_kg == pytest.approx(97.3, abs=0.1), "a repetition too few"
    by_count = next(e for e in found.evidence if e.mark.kind is MarkKind.SET_RIR)
    assert by_count.max_kg == pytest.approx(99.6, abs=0.1)
    said = {i.name: i.text for i in found.working.inputs}
    assert said["own count in reserve"] == "read as 0.8 repetitions more: own 12 sets against 4 to failure of the same weeks"
    assert "own count in reserve" not in {i.name for i in alone.working.inputs}


@pytest.mark.parametrize(
    ("short_by", "words"), [(0.06, "read as 0.1 repetitions more"), (-0.3, "read as 0.3 repetitions fewer"), (0.04, "right")]
)
def test_how_it_is_said(short_by: float, words: str) -> None:
    assert OwnCount(short_by, 5, 3).words.startswith(f"{words}: own 5 sets against 3 to failure")


def test_a_beginners_count_says_nothing_of_the_max_however_it_reads() -> None:
    found = current_max([*to_failure(4), *counted(12, 1)], DAY, training_age_years=0.5)
    assert found is not None
    assert {e.mark.kind for e in found.evidence} == {MarkKind.AMRAP}


def test_with_bodyweight_it_is_of_both_together() -> None:
    body_kg = 80.0
    lifted = [
        Mark(m.ref, m.day, m.kind, m.load_kg - body_kg, m.reps, m.rir) for m in [*to_failure(4, reps=4), *counted(12, 1, 4, 1)]
    ]
    found = own_count(lifted, DEFAULT_EQUATION, DEFAULT_RULES, body_kg)
    assert found is not None
    assert found.short_by == pytest.approx(0.846, abs=0.001)


def test_sets_with_nothing_on_say_nothing() -> None:
    bare = [replace(m, load_kg=0.0) for m in [*to_failure(4), *counted(6, 1)]]
    assert own_count(bare, DEFAULT_EQUATION, DEFAULT_RULES) is None
    assert short_by_of([*bare, *to_failure(4), *counted(12, 1)]) == pytest.approx(0.846, abs=0.001)


@pytest.mark.parametrize("reps", [1, 1.5, 6, 14.9, 15])
def test_repetitions_of_a_ratio_are_those_that_gave_it(reps: float) -> None:
    assert reps_at(DEFAULT_EQUATION, DEFAULT_EQUATION.ratio(reps)) == pytest.approx(reps, abs=0.02)


def test_ratios_that_nobody_has_are_the_nearest() -> None:
    assert reps_at(DEFAULT_EQUATION, 0.9) == pytest.approx(1)
    assert reps_at(DEFAULT_EQUATION, 3.0) == pytest.approx(15)

"""Pain on the floor: what falls away, what may stand in, what is said. Common practice; no source."""

from __future__ import annotations

from datetime import date

import pytest

from jarvok.core.errors import CoachError
from jarvok.core.floor.pain import (
    Felt,
    check_felt,
    ended_by,
    falls_away,
    instead,
    instead_text,
    loads,
    sentence,
    told_words,
)
from jarvok.core.floor.readiness import AREAS, REFERRAL, UNWELL, Arrival, Plan, suggest
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.library.substitutes import Limits
from jarvok.core.loading.shorthand import parse

SESSION = [exercise(e) for e in ("back_squat", "bench_press", "split_squat", "prone_row", "trap_bar_deadlift", "suitcase_carry")]
TRAINED = Limits(skill=3)


@pytest.mark.parametrize(
    ("area", "at", "away"),
    [
        ("knee", 0, (0, 2, 4)),
        ("knee", 1, (0, 1, 2, 4)),  # the one it was felt in, whatever it loads
        ("shoulder", 1, (1,)),
        ("lower_back", 4, (0, 4, 5)),
        ("elsewhere", 3, (3,)),
        ("unwell", 3, (0, 1, 2, 3, 4, 5)),
    ],
)
def test_what_loads_the_place_falls_away(area: str, at: int, away: tuple[int, ...]) -> None:
    assert falls_away(area, at, SESSION) == away


def test_what_is_carried_on_ends_nothing() -> None:
    assert ended_by([Felt("knee", 0, "the physiotherapist is here")], SESSION) == {}
    assert ended_by([Felt("knee", 0), Felt("shoulder", 1)], SESSION) == {0: "knee", 2: "knee", 4: "knee", 1: "shoulder"}


def test_pulls_from_the_floor_bend_the_knee_and_hinges_from_the_hang_do_not() -> None:
    assert loads("knee", exercise("deadlift"))
    assert not loads("knee", exercise("romanian_deadlift"))


@pytest.mark.parametrize("area", [a for a in AREAS if a != "unwell"])
@pytest.mark.parametrize("lift", ["back_squat", "bench_press", "trap_bar_deadlift", "prone_row", "snatch"])
def test_nothing_that_stands_in_loads_the_place(area: str, lift: str) -> None:
    found = instead(exercise(lift), [area], TRAINED)
    assert all(not loads(area, exercise(e)) for e in found)
    assert lift not in found
    for e in found:
        parse(instead_text(exercise(e), 3))


def test_a_sore_knee_leaves_something_for_the_legs_and_illness_nothing() -> None:
    assert any(exercise(e).region == "lower" for e in instead(exercise("back_squat"), ["knee"], TRAINED))
    assert instead(exercise("back_squat"), ["unwell"], TRAINED) == ()
    home = instead(exercise("back_squat"), ["knee"], Limits(frozenset({"lower"}), skill=3))
    assert all(exercise(e).region != "lower" for e in home), "what is off stays off"


def test_the_sentence_names_the_lifts_and_who_looks() -> None:
    both = sentence("knee", ["A1 Back squat", "B2 Split squat"])
    assert both == f"Pain, knee. Today without: A1 Back squat; B2 Split squat. {REFERRAL}"
    assert sentence("knee", []) == f"Pain, knee. {REFERRAL}"
    assert sentence("unwell", ["Back squat"]) == UNWELL
    said = told_words("knee", date(2026, 12, 1), "Back squat", 3)
    assert said == "Knee, Tuesday 1 December: Back squat, after 3 repetitions"
    assert told_words("knee", date(2026, 12, 1), "Back squat", 0).endswith("before the first repetition")
    assert told_words("knee", date(2026, 12, 1), "Back squat", 1).endswith("after 1 repetition")


@pytest.mark.parametrize(
    ("area", "reason", "carries_on", "words"),
    [
        ("", "", False, "Where does it hurt?"),
        ("soul", "", False, "Where does it hurt?"),
        ("knee", " ", True, "wants a reason"),
        ("knee", "x" * 201, True, "too long"),
        ("unwell", "he wants to", True, "No training while unwell"),
    ],
)
def test_what_cannot_be_told(area: str, reason: str, carries_on: bool, words: str) -> None:
    with pytest.raises(CoachError, match=words):
        check_felt(area, reason, carries_on)


def test_what_can_be_told() -> None:
    check_felt("knee", "", False)
    check_felt("knee", "x" * 200, True)


@pytest.mark.parametrize("area", list(AREAS))
def test_no_pain_suggests_plan_a(area: str) -> None:
    assert suggest(Arrival(5, 5, 5, 5, pain=(area,))).plan in (Plan.B, Plan.C)
    assert suggest(Arrival(5, 5, 5, 5)).plan is Plan.A


def test_every_area_meets_some_exercise() -> None:
    for key, (_, tags) in AREAS.items():
        assert not tags or any(loads(key, e) for e in exercises().values())

"""Readiness and plan A, B, C: a table of cases, what pain takes out, what each plan makes of a session."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from jarvok.core.errors import CoachError
from jarvok.core.floor.day_plan import Less, Written, day_lines
from jarvok.core.floor.readiness import (
    AREAS,
    LEFT_OUT_WORDS,
    REFERRAL,
    UNWELL,
    Arrival,
    Plan,
    SportSince,
    checked,
    sport_points,
    suggest,
    usual_low_cm,
)
from jarvok.core.library.exercises import exercise
from jarvok.core.library.kit import implement_for
from jarvok.core.loading.resolve import resolve
from jarvok.core.loading.shorthand import parse
from jarvok.core.loading.state import LiftState
from jarvok.core.marks.mark import Mark, MarkKind
from jarvok.core.marks.working_max import current_max
from jarvok.core.rules import Rules

MATCH = SportSince("match", 60, 9, 19)

# common practice: fresh goes as written, an ordinary day too; tired does less; spent does movement
CASES = [
    (Arrival(5, 5, 5, 5), "A"),
    (Arrival(4, 4, 4, 4), "A"),
    (Arrival(3, 3, 3, 3), "A"),
    (Arrival(3, 2, 3, 2), "B"),
    (Arrival(4, 3, 3, 3, sport=(SportSince("practice", 90, 6, 20),)), "B"),
    (Arrival(2, 2, 3, 3), "B"),
    (Arrival(1, 4, 4, 4), "B"),  # one answer at the bottom is never plan A
    (Arrival(2, 2, 2, 2), "C"),
    (Arrival(1, 1, 5, 5), "C"),  # two at the bottom
    (Arrival(2, 2, 3, 3, sport=(MATCH,)), "C"),  # slept badly, legs sore, hard match yesterday
    (Arrival(4, 4, 4, 4, sport=(SportSince("match", 60, 9, 66),)), "A"),  # three days later it is gone
    (Arrival(), "A"),  # nothing was said: as written
    (Arrival(5, 5, 5, 5, pain=("unwell",)), "C"),
]


@pytest.mark.parametrize(("arrival", "plan"), CASES)
def test_the_plan_that_answers_suggest(arrival: Arrival, plan: str) -> None:
    assert suggest(arrival).plan == plan


def test_reasons_come_heaviest_first_and_the_weights_are_in_the_working() -> None:
    found = suggest(Arrival(2, 1, 3, 4, sport=(MATCH,)))
    assert found.reasons[0].startswith("soreness 1 of 5")
    assert any("match 19 h ago, 60 min, RPE 9" in r for r in found.reasons)
    assert [i.name for i in found.working.inputs][:4] == ["sleep", "soreness", "stress", "energy"]
    assert "weight 1.5" in found.working.inputs[1].text


def test_the_load_of_the_sport_halves_in_a_day_and_is_bounded() -> None:
    # session RPE times minutes, common practice; the half-life and the scale are Jarvok's choice
    assert sport_points([SportSince("match", 60, 5, 24)]) == pytest.approx(60 * 5 / 2 / 10)
    assert sport_points([SportSince("match", 90, 10, 1)]) == 35


def test_a_weight_in_the_settings_counts() -> None:
    tired = Arrival(1, 5, 5, 5)
    light = suggest(tired, Rules(changed={"readiness.sleep": 0.0}))
    assert light.points == 100
    assert suggest(tired).points == 75


@given(st.tuples(*[st.one_of(st.none(), st.integers(1, 5))] * 4), st.integers(0, 3))
def test_a_worse_answer_never_suggests_more(answers: tuple[int | None, ...], which: int) -> None:
    value = answers[which]
    if value is None or value == 1:
        return
    worse = tuple(value - 1 if i == which else a for i, a in enumerate(answers))
    assert suggest(Arrival(*worse)).plan >= suggest(Arrival(*answers)).plan


@pytest.mark.parametrize("area", [a for a in AREAS if a not in ("unwell", "elsewhere")])
def test_pain_takes_patterns_out_and_refers(area: str) -> None:
    found = suggest(Arrival(5, 5, 5, 5, pain=(area,)))
    assert found.removed
    assert found.referral == REFERRAL
    assert found.plan == Plan.B, "of the rest there is less, until somebody has looked"


def test_pain_somewhere_else_takes_nothing_out_and_suggests_less_until_somebody_has_looked() -> None:
    found = suggest(Arrival(5, 5, 5, 5, pain=("elsewhere",)))
    assert (found.removed, found.referral, found.plan) == (frozenset(), REFERRAL, Plan.B)
    assert suggest(Arrival(1, 1, 3, 3, pain=("elsewhere",))).plan == Plan.C, "never more than the answers say"


def test_unwell_is_sent_to_be_seen() -> None:
    assert suggest(Arrival(pain=("unwell",))).referral == UNWELL


@pytest.mark.parametrize(("arrival", "where"), [
    (Arrival(sleep=0), "sleep"), (Arrival(energy=6), "energy"), (Arrival(pain=("soul",)), "pain"),
    (Arrival(sport=(SportSince("match", 700, 5, 1),)), "minutes"), (Arrival(sport=(SportSince("match", 60, 11, 1),)), "srpe"),
    (Arrival(sport=(SportSince("match", 60, 5, 100),)), "hours_ago"), (Arrival(jumps_cm=(2.0,)), "jumps_cm"),
])  # fmt: skip
def test_an_answer_that_cannot_be_is_refused(arrival: Arrival, where: str) -> None:
    with pytest.raises(CoachError) as refused:
        checked(arrival)
    assert refused.value.where == where


def test_jumps_on_normal_days_seldom_cost_points() -> None:
    rng = np.random.default_rng(11)
    alarms = 0
    for _ in range(2000):
        usual = tuple(rng.normal(40, 1.2, 8))
        alarms += suggest(Arrival(jumps_cm=(float(rng.normal(40, 1.2)),), usual_jumps_cm=usual)).points != 100
    assert alarms / 2000 < 0.08  # one-sided 95 %


def test_too_few_days_say_nothing_of_the_usual_jump() -> None:
    assert usual_low_cm([40, 41, 40]) is None
    assert suggest(Arrival(jumps_cm=(30.0,), usual_jumps_cm=(40.0, 41.0))).points == 100


def written(exercise_id: str, text: str, is_main: bool = False, max_kg: float | None = None) -> Written:
    from datetime import date

    lift = exercise(exercise_id)
    implement = implement_for(lift)
    today = date(2026, 11, 24)
    mark = Mark("m", date(2026, 11, 20), MarkKind.ONE_RM, max_kg or 100, 1)
    state = LiftState(lift, implement, current_max([mark], today) if max_kg else None)
    return Written(lift, implement, resolve(parse(text), state), is_main, max_kg)


SESSION = (
    written("countermovement_jump", "4 × 3"),
    written("back_squat", "5 × 3 @ 85 %", True, 150),
    written("bench_press", "4 × 5 @ 80 %", True, 100),
    written("dumbbell_row", "3 × 8, 2 in reserve"),
    written("neck_hold", "3 × 30 s"),
)


class TestTheDay:
    def test_plan_a_is_as_written(self) -> None:
        assert [d.sets for d in day_lines(SESSION, Plan.A)] == [w.sets for w in SESSION]

    def test_plan_b_cuts_a_third_and_keeps_the_loads(self) -> None:
        found = day_lines(SESSION, Plan.B)
        assert [len(d.sets) for d in found] == [3, 3, 3, 2, 2]
        assert found[1].sets[0].load_kg == SESSION[1].sets[0].load_kg
        assert found[1].change == "3 of 5 sets"

    def test_plan_b_by_feel_keeps_the_sets(self) -> None:
        assert [len(d.sets) for d in day_lines(SESSION, Plan.B, Less.BY_FEEL)] == [4, 5, 4, 3, 3]

    def test_plan_c_is_movement_technique_and_easy_trunk(self) -> None:
        jump, squat, bench, row, plank = day_lines(SESSION, Plan.C)
        assert jump.left_out
        assert row.left_out
        assert not plank.left_out
        assert len(plank.sets) == 2
        for day, max_kg in ((squat, 150), (bench, 100)):
            assert len(day.sets) == 3
            assert all(s.load_kg is not None and s.load_kg <= 0.6 * max_kg for s in day.sets)
            assert all(s.target_mps is None and not s.or_more for s in day.sets)

    def test_pain_removes_lines_in_every_plan(self) -> None:
        for plan in Plan:
            found = day_lines(SESSION, plan, removed=AREAS["knee"][1])
            assert found[0].left_out
            assert found[1].left_out
            assert not found[2].left_out

    def test_unwell_leaves_nothing(self) -> None:
        assert all(d.left_out for d in day_lines(SESSION, Plan.A, unwell=True))


def test_everything_that_an_area_takes_out_has_words() -> None:
    assert frozenset().union(*(parts for _, parts in AREAS.values())) == LEFT_OUT_WORDS.keys()

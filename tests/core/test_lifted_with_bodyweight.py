"""Pull-ups and dips lift bodyweight with what is added: repetitions and shares hang on both together.

The figures are the equations' own, worked out by hand for bodyweight and load together: common practice, no source.
"""

from __future__ import annotations

from datetime import date, timedelta

import pytest

from jarvok.core.equations import BRZYCKI, EPLEY
from jarvok.core.floor.what_next import DoneSet, what_next
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.loading.resolve import resolve
from jarvok.core.loading.shorthand import parse
from jarvok.core.loading.state import LiftState
from jarvok.core.loading.typing_error import written_far_over_kg
from jarvok.core.marks.mark import Mark, MarkKind
from jarvok.core.marks.readings import max_from_mark
from jarvok.core.marks.relation import WithBody
from jarvok.core.marks.sweep import own_relation_of
from jarvok.core.marks.working_max import current_max, max_trend
from jarvok.core.rules import Rules

TODAY = date(2026, 11, 24)
BODY_KG = 80.0


def mark(kg: float, reps: int, back: int = 3, kind: MarkKind = MarkKind.REP_MAX, rir: float = 0.0) -> Mark:
    return Mark(f"m{back}:{kg}", TODAY - timedelta(days=back), kind, kg, reps, rir)


def pull_up(*marks: Mark, body_kg: float = BODY_KG, **more) -> LiftState:
    known = current_max(marks or (mark(20, 5),), TODAY, body_kg=body_kg)
    return LiftState(exercise("pull_up"), max=known, body_kg=body_kg, **more)


def load(text: str, state: LiftState) -> float | None:
    return resolve(parse(text), state)[0].wanted_kg


def test_pull_ups_and_dips_carry_the_body_and_nothing_else_does() -> None:
    assert {e.id for e in exercises().values() if e.carries_body} == {"pull_up", "chin_up", "neutral_pull_up", "dip"}


@pytest.mark.parametrize("equation", [EPLEY, BRZYCKI])
def test_a_relation_of_both_together_reads_both_ways(equation) -> None:
    both = WithBody(equation, BODY_KG)
    assert both.one_rm_kg(20, 5) == pytest.approx(equation.one_rm_kg(100, 5) - BODY_KG)
    assert both.load_kg(both.one_rm_kg(20, 5), 5) == pytest.approx(20)
    assert both.load_kg(10, 12) < 0


class TestMax:
    def test_twenty_added_for_five_at_eighty_kg_is_thirty_seven_for_one(self) -> None:
        """(80 + 20) × (1 + 5/30) − 80 = 36.7 kg added; of the added load alone it would be 23.3."""
        found = current_max([mark(20, 5)], TODAY, body_kg=BODY_KG)
        assert found is not None
        assert found.value_kg == pytest.approx(36.7, abs=0.05)
        assert found.evidence[0].max_kg == pytest.approx(36.7, abs=0.05)
        assert "80 kg of bodyweight" in found.working.rule
        assert found.working.result.startswith("36.7 kg")
        assert max_from_mark(mark(20, 5), body_kg=BODY_KG) == pytest.approx(36.7, abs=0.05)

    def test_a_tested_single_is_what_it_is(self) -> None:
        found = current_max([mark(40, 1, kind=MarkKind.ONE_RM)], TODAY, body_kg=BODY_KG)
        assert found is not None
        assert found.value_kg == 40
        assert [p.value_kg for p in max_trend([mark(40, 1, kind=MarkKind.ONE_RM)], [TODAY], body_kg=BODY_KG)] == [40]

    @pytest.mark.parametrize(("reps", "has_max"), [(1, False), (2, True)])
    def test_bodyweight_once_and_no_more_leaves_nothing_to_add(self, reps: int, has_max: bool) -> None:
        sets = [mark(0, reps, kind=MarkKind.SET_RIR)]
        assert (current_max(sets, TODAY, body_kg=BODY_KG) is not None) == has_max
        assert bool(max_trend(sets, [TODAY], body_kg=BODY_KG)) == has_max

    def test_a_set_with_little_added_is_heavy_enough_to_say_something(self) -> None:
        """Twenty added of forty is half of the load and over four fifths of what is lifted."""
        known = [mark(40, 1, 20, MarkKind.ONE_RM), mark(20, 4, 2, MarkKind.SET_RIR, 1)]
        found = current_max(known, TODAY, body_kg=BODY_KG)
        alone = current_max(known, TODAY)
        assert found is not None
        assert alone is not None
        assert {e.mark.kind for e in found.evidence} == {MarkKind.ONE_RM, MarkKind.SET_RIR}
        assert {e.mark.kind for e in alone.evidence} == {MarkKind.ONE_RM}

    def test_a_leap_is_judged_by_both_together(self) -> None:
        """From 20 to 24 added is a fifth of the load and 4 % of what is lifted: no leap; to 30 it is one."""
        tested = mark(20, 1, 14, MarkKind.ONE_RM)
        small = current_max([tested, mark(24, 1, 1, MarkKind.ONE_RM)], TODAY, body_kg=BODY_KG)
        large = current_max([tested, mark(30, 1, 1, MarkKind.ONE_RM)], TODAY, body_kg=BODY_KG)
        assert small is not None
        assert large is not None
        assert small.proposal is None
        assert large.proposal is not None
        assert (large.proposal.from_kg, large.proposal.says_kg) == (pytest.approx(20), pytest.approx(30))

    def test_the_own_relation_is_that_of_both_together(self) -> None:
        marks = [mark(EPLEY.load_kg(116.7, n) - BODY_KG, n, back) for back, n in ((40, 2), (30, 4), (20, 6), (10, 8), (5, 10))]
        rules = Rules({})
        both = own_relation_of(marks, TODAY, rules, BODY_KG)
        assert both is not None
        assert both.ratio(6) == pytest.approx(EPLEY.ratio(6), rel=0.04)


class TestLoads:
    def test_a_percentage_is_of_both_together(self) -> None:
        """80 % of 80 + 36.7 is 93.3: 13.3 kg are added, not 29.3."""
        assert load("3 × 5 @ 80 %", pull_up()) == pytest.approx(13.3, abs=0.05)
        found = resolve(parse("3 × 5 @ 80 %"), pull_up())[0]
        assert found.working is not None
        assert "80 kg of it bodyweight" in found.working.rule
        assert found.share_of_max == pytest.approx(0.8, abs=0.02)

    def test_a_share_below_bodyweight_is_done_with_bodyweight(self) -> None:
        found = resolve(parse("3 × 8 @ 65 %"), pull_up())[0]
        assert found.load_kg is None
        assert found.working is not None
        assert "bodyweight alone is more" in str(found.working)

    def test_reps_in_reserve_and_rm_zones_are_of_both_together(self) -> None:
        """Eight with two left are a 10RM: 116.7 / (1 + 10/30) is 87.5, 7.5 kg added."""
        assert load("3 × 8, 2 in reserve", pull_up()) == pytest.approx(7.5, abs=0.05)
        assert load("3 × 5RM", pull_up()) == pytest.approx(20, abs=0.05)

    def test_without_a_body_mass_it_is_as_for_any_lift(self) -> None:
        assert load("3 × 5 @ 80 %", pull_up(body_kg=0.0)) == pytest.approx(0.8 * 20 * EPLEY.ratio(5))

    def test_a_training_max_and_a_way_back_are_of_both_together(self) -> None:
        back = pull_up(return_pct=90.0)
        assert back.max_kg == pytest.approx(0.9 * 116.67 - 80, abs=0.05)
        rules = Rules({"max.training_pct": 90})
        assert load("1 × 1 @ 100 %", pull_up(rules=rules)) == pytest.approx(0.9 * 116.67 - 80, abs=0.05)

    def test_a_typing_error_is_one_by_both_together(self) -> None:
        assert written_far_over_kg(parse("3 × 5 @ 45 kg"), pull_up()) is None
        assert written_far_over_kg(parse("3 × 5 @ 145 kg"), pull_up()) == 145

    @pytest.mark.parametrize(("rir", "wanted"), [(4.0, 5.9), (0.0, -6.0)])
    def test_the_next_set_is_corrected_by_both_together(self, rir: float, wanted: float) -> None:
        """Five done at 100 kg in all with two planned: four left are a 9RM where a 7RM was meant, and the reverse."""
        state = pull_up()
        planned = resolve(parse("3 × 5, 2 in reserve"), state)[0]._replace(load_kg=20.0)
        advice = what_next(planned, [DoneSet(20.0, 5, rir=rir, planned_reps=5)], 2, state)
        assert advice.load_kg is not None
        assert advice.load_kg - 20 == pytest.approx(wanted, abs=1.3)

"""Time lost: a block without a date is pushed on, phases before a fixed date are divided anew from the return."""

from __future__ import annotations

from datetime import date, timedelta

import pytest

from jarvok.core.season.arrangements import ARRANGEMENTS, arrangement
from jarvok.core.season.calendar import Span, SpanKind
from jarvok.core.season.facts import SeasonFacts
from jarvok.core.season.model import BlockWay, Rank, SeasonPlan, Target, TrainingBlock
from jarvok.core.season.planner import plan_year
from jarvok.core.season.time_lost import lost_weeks, pushed_on

MONDAY = date(2026, 11, 23)


def off(first_week: int, weeks: int, kind: SpanKind = SpanKind.AWAY, spare_days: int = 0) -> Span:
    start = MONDAY + timedelta(weeks=first_week)
    return Span(kind, start, start + timedelta(weeks=weeks, days=spare_days - 1))


def season(weeks: int, *spans: Span, key: str = "force_velocity", pins: tuple[tuple[str, int], ...] = ()) -> SeasonPlan:
    target = Target("Bay Cup", MONDAY + timedelta(weeks=weeks - 1, days=5), pins=pins)
    return plan_year(SeasonFacts(MONDAY, (target,), arrangement(key), spans=spans))


def lengths(plan: SeasonPlan) -> dict[str, int]:
    return {p.id: p.weeks for p in plan.phases}


class TestWhichWeeksAreLost:
    @pytest.mark.parametrize(
        ("days", "first", "lost"),
        [
            (7, 0, 0),  # a week off is made good by the week it lies in
            (8, 0, 1),
            (14, 0, 2),
            (12, 0, 2),  # five days of the second week
            (11, 0, 1),  # four of them
            (10, 3, 1),  # Thursday to the Saturday of the next: four days and six
            (9, 2, 2),  # Wednesday on: five days, and four: only the first is lost
        ],
    )
    def test_edges(self, days: int, first: int, lost: int) -> None:
        span = Span(SpanKind.AWAY, MONDAY + timedelta(days=first), MONDAY + timedelta(days=first + days - 1))
        found = lost_weeks(MONDAY, MONDAY + timedelta(weeks=4), [span])
        assert len(found) == (1 if (days, first) == (9, 2) else lost)

    @pytest.mark.parametrize(("kind", "lost"), [(k, k in ("holiday", "unavailable", "ill")) for k in SpanKind])
    def test_camps_travel_and_exams_are_trained_through(self, kind: SpanKind, lost: bool) -> None:
        assert bool(lost_weeks(MONDAY, MONDAY + timedelta(weeks=4), [off(1, 2, kind)])) is lost

    def test_two_kinds_in_a_row_are_one_run(self) -> None:
        spans = [off(0, 0, SpanKind.ILL, 5), Span(SpanKind.AWAY, MONDAY + timedelta(days=5), MONDAY + timedelta(days=7))]
        assert lost_weeks(MONDAY, MONDAY + timedelta(weeks=4), spans) == (MONDAY,)


class TestBeforeAFixedDate:
    def test_what_was_done_stays_and_what_is_behind_is_divided_anew(self) -> None:
        before, after = season(18), season(18, off(10, 3))
        assert lengths(before) != lengths(after)
        assert [w.phase_id for w in after.weeks[:10]] == [w.phase_id for w in before.weeks[:10]]
        assert sum(lengths(after).values()) == sum(lengths(before).values()) == 18
        assert lengths(after)["taper"] == lengths(before)["taper"]
        note = next(n for n in after.notes if n.id == "divided-anew")
        assert note.title == "3 weeks lost: the phases are divided anew."

    @pytest.mark.parametrize("key", [a.key for a in ARRANGEMENTS])
    @pytest.mark.parametrize(
        ("weeks", "first", "count"),
        [
            (weeks, first, count)
            for weeks in (8, 12, 16, 24, 40)
            for first, count in ((0, 2), (2, 3), (5, 2), (6, 5))
            if first + count + 2 <= weeks  # else the break would be the season
        ],
    )
    def test_in_every_model_weeks_add_up_and_the_base_is_kept_or_its_loss_said(
        self, key: str, weeks: int, first: int, count: int
    ) -> None:
        span = off(first, count)
        plan = season(weeks, span, key=key)
        assert sum(p.weeks for p in plan.phases) == len(plan.weeks) == weeks
        assert [w.start for w in plan.weeks] == [MONDAY + timedelta(weeks=i) for i in range(weeks)]
        lost = lost_weeks(MONDAY, plan.weeks[-1].end, [span])
        style = arrangement(key)
        base = next(r for r in style.phases_for(weeks) if r.id == style.base)
        trained = sum(1 for w in plan.weeks if w.phase_id == base.id and w.start not in lost)
        if trained < base.least_weeks:
            assert any(n.id == "short-base" for n in plan.notes)
        for monday in lost:
            week = plan.week_of(monday)
            assert week is not None
            assert week.taper is not None or week.volume == 0

    def test_lengths_set_by_hand_stay(self) -> None:
        pins = (("base", 6),) if any(p.id == "base" for p in season(18).phases) else ((season(18).phases[0].id, 6),)
        plan = season(18, off(2, 3), pins=pins)
        assert lengths(plan)[pins[0][0]] == 6
        assert not any(n.id == "divided-anew" for n in plan.notes)

    def test_a_week_off_changes_no_phase(self) -> None:
        assert lengths(season(18, off(4, 1))) == lengths(season(18))

    def test_the_sum_of_training_weeks_is_what_is_left(self) -> None:
        plan = season(18, off(4, 3))
        empty = [w for w in plan.weeks if w.volume == 0]
        assert len(empty) == 3
        assert all(w.phase_id == plan.weeks[3].phase_id for w in empty)


class TestABlockWithoutADate:
    def block(self, way: BlockWay, weeks: int, *spans: Span, tests: bool = False) -> SeasonPlan:
        day = pushed_on(MONDAY, MONDAY + timedelta(weeks=weeks, days=-1), spans)
        target = Target("Autumn", day, Rank.BLOCK, block=TrainingBlock(way, tests))
        return plan_year(SeasonFacts(MONDAY, (target,), arrangement("linear"), spans=spans))

    @pytest.mark.parametrize(("count", "more"), [(1, 0), (2, 2), (3, 3)])
    def test_it_ends_so_much_later(self, count: int, more: int) -> None:
        day = MONDAY + timedelta(weeks=5, days=-1)
        assert pushed_on(MONDAY, day, [off(1, count)]) == day + timedelta(weeks=more)

    def test_time_lost_while_it_is_pushed_on_pushes_it_on_again(self) -> None:
        day = MONDAY + timedelta(weeks=5, days=-1)
        assert pushed_on(MONDAY, day, [off(1, 2), off(6, 2)]) == day + timedelta(weeks=4)
        assert pushed_on(MONDAY, day, [off(1, 2), off(7, 2)]) == day + timedelta(weeks=2)

    def test_five_rising_weeks_go_on_where_they_stopped(self) -> None:
        whole, cut = self.block(BlockWay.RISING, 5), self.block(BlockWay.RISING, 5, off(2, 2))
        trained = [w for w in cut.weeks if w.volume]
        assert len(cut.weeks) == 7
        assert [w.is_easy for w in trained] == [w.is_easy for w in whole.weeks]
        pct = [w.intensity_pct for w in trained if not w.is_back]
        assert pct == [w.intensity_pct for w, t in zip(whole.weeks, trained, strict=True) if not t.is_back]
        assert any(n.id == "pushed-on" for n in cut.notes)

    def test_tests_stay_at_its_end(self) -> None:
        cut = self.block(BlockWay.RISING, 6, off(2, 2), tests=True)
        assert cut.weeks[-1].phase_id == self.block(BlockWay.RISING, 6, tests=True).weeks[-1].phase_id == "test"
        assert len(cut.weeks) == 8

    def test_by_the_model_each_phase_keeps_its_training_weeks(self) -> None:
        span = off(3, 2)
        whole, cut = self.block(BlockWay.MODEL, 10), self.block(BlockWay.MODEL, 10, span)
        for phase in whole.phases:
            weeks = [
                w for w in cut.weeks if w.phase_id == phase.id and w.start not in lost_weeks(MONDAY, cut.weeks[-1].end, [span])
            ]
            assert len(weeks) == phase.weeks

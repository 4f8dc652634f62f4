"""The way back after days off and after a final; what an in-season week holds by the day's label. Common practice."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta
from itertools import pairwise

import pytest

from jarvok.core.library.exercises import exercise
from jarvok.core.library.substitutes import Limits
from jarvok.core.season.arrangements import ARRANGEMENTS, arrangement
from jarvok.core.season.calendar import Span, SpanKind
from jarvok.core.season.facts import SeasonFacts
from jarvok.core.season.match_days import label_of
from jarvok.core.season.model import PhaseKey, SeasonPlan, Target
from jarvok.core.season.planner import plan_year
from jarvok.core.season.residuals import residuals_for
from jarvok.core.week.arrangements import WEEK_ARRANGEMENTS
from jarvok.core.week.generate import arranged_week
from jarvok.core.week.plan import Level, WeekFacts
from jarvok.core.week.spending import spend_week

START = date(2027, 1, 4)
CUP = Target("Cup", START + timedelta(days=7 * 19 + 5))


def plan_of(
    *spans: Span, model: str = "linear", targets: tuple[Target, ...] = (CUP,), matches: tuple[date, ...] = ()
) -> SeasonPlan:
    return plan_year(SeasonFacts(START, targets, arrangement(model), matches, spans))


def facts(plan: SeasonPlan, index: int, days: int = 2) -> WeekFacts:
    return WeekFacts(plan, plan.weeks[index], (), Limits(skill=3), days, Level.ADVANCED)


def off(week: int, days: int, kind: SpanKind = SpanKind.AWAY, weekday: int = 0) -> Span:
    first = START + timedelta(days=7 * week + weekday)
    return Span(kind, first, first + timedelta(days=days - 1))


class TestTheWayBack:
    @pytest.mark.parametrize(("days", "shares"), [
        (7, [1.0, 1.0, 1.0]), (14, [0.7, 1.0, 1.0]), (21, [0.7, 1.0, 1.0]), (28, [0.5, 0.7, 0.85]),
    ])  # fmt: skip
    def test_more_than_a_week_repeats_and_more_than_three_ramp(self, days: int, shares: list[float]) -> None:
        away = plan_of(off(4, days))
        same = tuple((p.id, p.weeks) for p in away.phases if p.id not in ("general", "taper"))
        plain = plan_of(targets=(replace(CUP, pins=same),))  # the phases are divided anew from the return
        assert [w.phase_id for w in plain.weeks] == [w.phase_id for w in away.weeks]
        back = 4 + days // 7
        for i, share in enumerate(shares):
            was, now = plain.weeks[back + i], away.weeks[back + i]
            if not was.is_easy:
                assert now.volume == pytest.approx(share * was.volume, abs=0.002), i
            assert now.intensity_pct <= was.intensity_pct
            assert ("back after" in now.note) == (share < 1)

    @pytest.mark.parametrize(("days", "share"), [(7, 1.0), (8, 0.7), (21, 0.7), (22, 0.5)])
    @pytest.mark.parametrize("ends", range(7))
    def test_the_first_week_back_is_the_one_most_of_which_is_left(self, days: int, share: float, ends: int) -> None:
        last = START + timedelta(days=7 * 7 + ends)  # the last day off, on each weekday
        away = plan_of(Span(SpanKind.AWAY, last - timedelta(days=days - 1), last))
        begins = last + timedelta(days=1)
        back = (begins - START).days // 7 + (1 if begins.weekday() > 3 else 0)
        said = [w.index for w in away.weeks if "first week back" in w.note]
        assert said == ([back] if share < 1 else [])
        assert not said or f"after {days} days: {100 * share:.0f} %" in away.weeks[back].note

    @pytest.mark.parametrize("kind", [SpanKind.AWAY, SpanKind.HOLIDAY, SpanKind.ILL])
    def test_nothing_is_trained_on_such_days_whatever_the_week_model(self, kind: SpanKind) -> None:
        span = off(4, 10, kind, weekday=2)
        plan = plan_of(span)
        for key, days in ((w.key, d) for w in WEEK_ARRANGEMENTS for d in w.days):
            for index in (4, 5):
                for s in arranged_week(key, facts(plan, index, days)):
                    assert not span.start <= s.day <= span.end, key

    def test_a_camp_is_no_break(self) -> None:
        plan = plan_of(Span(SpanKind.CAMP, START + timedelta(days=28), START + timedelta(days=41)))
        assert not any("back after" in w.note for w in plan.weeks)

    @pytest.mark.parametrize("model", [a.key for a in ARRANGEMENTS])
    def test_the_weeks_after_a_final_do_not_jump(self, model: str) -> None:
        second = Target("Second", CUP.day + timedelta(weeks=5))
        for targets in ((CUP, second), (CUP, Target("Later", CUP.day + timedelta(weeks=14)))):
            plan = plan_of(model=model, targets=targets)
            after = [w for w in plan.weeks if w.competition == targets[1].name]
            assert after[0].volume <= 0.8
            full = max(w.volume for w in after)
            assert after[0].volume < full

    def test_five_weeks_of_nothing_are_seen_in_what_still_holds(self) -> None:
        plain, away = plan_of(), plan_of(off(13, 42))
        held = {r.quality: r for r in plain.residuals}
        gone = {r.quality: r for r in away.residuals}
        assert gone["max strength"].last_exposure < held["max strength"].last_exposure
        assert not gone["max strength"].covers_competition

    def test_weeks_in_which_nothing_was_done_train_nothing(self) -> None:
        plan = plan_of()
        idle = frozenset(w.start for w in plan.weeks[:17])
        style = arrangement("linear")
        some = {r.quality: r.last_exposure for r in residuals_for(plan.weeks, CUP.day, style)}
        less = {r.quality: r.spans[0][0] for r in residuals_for(plan.weeks, CUP.day, style, idle=idle)}
        assert min(less.values()) >= plan.weeks[17].start
        assert set(less) <= set(some)


LEAGUE = tuple(START + timedelta(days=5 + 7 * i) for i in range(12))


class TestInSeason:
    plan = plan_of(targets=(), matches=LEAGUE)

    @pytest.mark.parametrize(("key", "days"), [(w.key, d) for w in WEEK_ARRANGEMENTS if not w.is_test for d in w.days])
    def test_two_days_before_a_match_nothing_heavy_whatever_the_week_model(self, key: str, days: int) -> None:
        seen = 0
        for index in range(1, 10):
            for session in arranged_week(key, facts(self.plan, index, days)):
                if label_of(session.day, LEAGUE) != "MD−2":
                    continue
                seen += 1
                for line in session.lines:
                    lift = exercise(line.exercise_id)
                    assert lift.kind != "strength", f"{lift.name} two days before a match"
                    shares = [g.load.share_of_bar or 0 for g in line.prescription.groups if g.load is not None]
                    assert max(shares, default=0) <= 0.5
        assert seen or days == 1

    def test_none_lies_on_a_match_or_the_day_before(self) -> None:
        for index in range(len(self.plan.weeks)):
            for s in arranged_week("two_days", facts(self.plan, index)):
                assert label_of(s.day, LEAGUE) not in ("MD", "MD−1")

    def test_a_week_of_two_matches_holds_one_small_session(self) -> None:
        double = (*LEAGUE, LEAGUE[4] - timedelta(days=3))
        plan = plan_of(targets=(), matches=tuple(sorted(double)))
        week = next(w for w in plan.weeks if w.matches == 2)
        spent = spend_week("two_days", facts(plan, week.index))
        beside = max(spend_week("two_days", facts(plan, w.index)).sets for w in plan.weeks if w.matches == 1)
        assert len(spent.sessions) == 1
        assert spent.sets < beside

    def test_a_league_after_a_preparation_keeps_its_weeks_level(self) -> None:
        inside = [w for w in self.plan.weeks if w.phase is PhaseKey.IN_SEASON and not w.is_easy and w.matches == 1]
        assert all(abs(a.volume - b.volume) < 0.2 for a, b in pairwise(inside))

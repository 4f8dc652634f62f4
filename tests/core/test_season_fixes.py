"""A fix of the season is offered only where it can be planned and no other check speaks that was silent before."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

import pytest
from test_season_parts import CONTEST, TODAY, saturday

from jarvok.core.checks.flag import Fix
from jarvok.core.checks.mended_season import mended_season, offered_in_season
from jarvok.core.checks.season import SeasonView, season_flags
from jarvok.core.errors import CoachError
from jarvok.core.season.calendar import Span, SpanKind
from jarvok.core.season.facts import SeasonFacts
from jarvok.core.season.missed import after_break
from jarvok.core.season.model import HandWeek, SeasonPlan, Target
from jarvok.core.season.planner import plan_season, plan_year
from jarvok.core.season.taper import Shape, TaperStyle

WEEKS = plan_season(TODAY, CONTEST).weeks


def season(*targets: Target, **more) -> tuple[SeasonView, SeasonFacts]:
    facts = SeasonFacts(TODAY, targets or (Target("Open", saturday(20)),), **more)
    return SeasonView(plan_year(facts), TODAY, more.get("taper"), more.get("spans", ())), facts


def rising(*, camp: bool) -> tuple[SeasonView, SeasonFacts]:
    """A camp in a week that is heavier than the one before, made so by hand."""
    monday = WEEKS[5].start
    spans = (Span(SpanKind.CAMP, monday, monday, "Camp at the bay"),) if camp else ()
    return season(spans=spans, by_hand={monday: HandWeek(volume_pct=130), WEEKS[4].start: HandWeek(volume_pct=80)})


CASES = {
    "long-loading": season(easy={w.start: False for w in WEEKS}),
    "too-close": season(Target("One", saturday(12)), Target("Two", saturday(13))),
    "taper-cut": season(taper=TaperStyle(12, Shape.STEP, 5)),
    "phase-length": season(Target("Open", saturday(20), pins=(("base", 2),))),
    "taper-range": season(taper=TaperStyle(20, Shape.STEP, 50)),
    "load-rises": rising(camp=True),
}


@pytest.mark.parametrize("check", CASES)
def test_what_is_offered_silences_its_flag_and_brings_no_other(check: str) -> None:
    view, facts = CASES[check]
    flags = [f for f in offered_in_season(view, facts, plan_year) if f.check_id == check]
    assert flags, "it never fires"
    before = [f.check_id for f in season_flags(view)]
    offered = [f for f in flags if f.fix is not None]
    assert offered, "it is never offered"
    for flag in offered:
        after = mended_season(view, facts, flag.fix, plan_year)
        assert after is not None
        said = [f.check_id for f in season_flags(after)]
        assert all(said.count(x) <= before.count(x) for x in said if x != check)
        mine = [f.title for f in season_flags(view) if f.check_id == check]
        now = [f.title for f in season_flags(after) if f.check_id == check]
        assert len(now) < len(mine) or now != mine, "and its own flag goes, or says less"


def test_a_fix_that_brings_another_check_to_speak_is_withdrawn_and_the_flag_stays() -> None:
    """The usual taper of a season whose plan it makes worse; as told by a planner that answers with one."""
    view, facts = CASES["taper-range"]
    worse, _ = CASES["too-close"]

    def planned(asked: SeasonFacts) -> SeasonPlan:
        return worse.plan if asked.taper is None else plan_year(asked)

    flags = [f for f in offered_in_season(view, facts, planned) if f.check_id == "taper-range"]
    assert [f.fix for f in flags] == [None] * len(flags)
    assert [f.title for f in flags] == [f.title for f in season_flags(view) if f.check_id == "taper-range"]


def test_a_fix_that_cannot_be_planned_is_not_offered() -> None:
    def refused(asked: SeasonFacts) -> SeasonPlan:
        raise CoachError("It does not fit.", where="phases", accepted="Another length.")

    view, facts = CASES["phase-length"]
    assert not [f for f in offered_in_season(view, facts, refused) if f.fix is not None]
    assert not [f for f in offered_in_season(view, facts, lambda _: None) if f.fix is not None]


def test_added_work_is_taken_out_without_planning_anew() -> None:
    view, facts = season()
    light = next(w for w in view.plan.weeks if w.is_easy)
    view = replace(view, added={light.start: "A1 has 6 sets instead of 2."})

    def never(asked: SeasonFacts) -> SeasonPlan:
        raise AssertionError("nothing is planned")

    (flag,) = [f for f in offered_in_season(view, facts, never) if f.check_id == "added-work"]
    assert flag.fix is not None
    after = mended_season(view, facts, flag.fix, never)
    assert after is not None
    assert not after.added


def test_days_away_are_marked_and_the_flag_is_answered() -> None:
    view, facts = season()
    view = replace(view, back=after_break(TODAY - timedelta(days=12), TODAY))
    (flag,) = [f for f in offered_in_season(view, facts, plan_year) if f.check_id == "break"]
    assert flag.fix is not None
    after = mended_season(view, facts, flag.fix, plan_year)
    assert after is not None
    assert [(s.kind, s.start) for s in after.spans] == [(SpanKind.AWAY, date(2026, 11, 13))]


def test_a_fix_nobody_knows_is_a_fault_of_ours() -> None:
    view, facts = season()
    with pytest.raises(ValueError, match="unknown fix"):
        mended_season(view, facts, Fix("x", "burn"), plan_year)

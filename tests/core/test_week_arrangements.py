"""Every arrangement of the week, in every number of days, level and room, over a season."""

from __future__ import annotations

import os
from datetime import date, timedelta

import pytest

from jarvok.core.checks.flag import Severity
from jarvok.core.checks.plan_views import WeekView, session_view
from jarvok.core.checks.session import session_flags
from jarvok.core.checks.week import week_flags
from jarvok.core.chooser.known import Known, LiftFault
from jarvok.core.chooser.wishes import wishes
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise
from jarvok.core.library.kit import FURNISHED, HOME, HOTEL, Kit
from jarvok.core.library.substitutes import Limits
from jarvok.core.season.arrangements import ARRANGEMENTS as SEASON_MODELS
from jarvok.core.season.arrangements import arrangement
from jarvok.core.season.facts import SeasonFacts
from jarvok.core.season.model import Target
from jarvok.core.season.planner import plan_season, plan_year
from jarvok.core.session.planned import PlannedSession
from jarvok.core.week.arrangements import WEEK_ARRANGEMENTS, WEEK_BY_KEY, usual_for, week_arrangement
from jarvok.core.week.generate import arranged_week
from jarvok.core.week.layout import nearest_days
from jarvok.core.week.placement import Practice
from jarvok.core.week.plan import Level, WeekFacts, cap_pct

START = date(2026, 9, 7)
SEASON = plan_season(START, START + timedelta(weeks=24, days=5))
PRACTICES = tuple(Practice(d, 18, 90, h) for d, h in ((0, 6), (1, 8), (3, 7), (5, 5)))
WHOLE = os.environ.get("JARVOK_WHOLE_WEEKS") == "1"  # every level in every room; else each level in one, each room once
KITS = (FURNISHED, HOME, HOTEL)
CASES = [
    pytest.param(a.key, days, level, kit, id=f"{a.key}-{days}-{level.name.lower()}-{kit.name.split()[-1].lower()}")
    for n, (a, days) in enumerate((a, days) for a in WEEK_ARRANGEMENTS for days in a.days)
    for at, level in enumerate(Level)
    for kit in (KITS if WHOLE else (KITS[(n + at) % len(KITS)],))
]


def facts(week_index: int, days: int, level: Level = Level.INTERMEDIATE, kit: Kit = FURNISHED, **more: object) -> WeekFacts:
    week = SEASON.weeks[week_index]
    return WeekFacts(SEASON, week, PRACTICES, Limits(kit=kit, skill=int(level)), days, level, **more)  # type: ignore[arg-type]


def views(sessions: tuple[PlannedSession, ...], given: WeekFacts) -> tuple:
    return tuple(
        session_view(s, given.limits, given.level, (given.week.competition_day - s.day).days, is_light=given.week.is_light)
        for s in sessions
    )


@pytest.mark.parametrize(("key", "days", "level", "kit"), CASES)
def test_every_week_of_a_season_is_whole_and_leaves_no_caution(key: str, days: int, level: Level, kit: Kit) -> None:
    arranged = WEEK_BY_KEY[key]
    before: tuple = ()
    for index in range(len(SEASON.weeks)):
        given = facts(index, days, level, kit)
        sessions = arranged_week(key, given)
        last = SEASON.weeks[index].competition_day - timedelta(days=given.week.last_session_days_out)
        usable = [d for d in range(7) if given.week.start + timedelta(days=d) <= last]
        assert len(sessions) == min(days, len(usable))
        assert len({s.day for s in sessions}) == len(sessions), "one session a day"
        for s in sessions:
            assert given.week.start <= s.day <= min(given.week.end, last)
            assert s.lines, "a session without lines"
            assert len({x.slot for x in s.lines}) == len(s.lines), "a slot twice"
            assert len({x.exercise_id for x in s.lines}) == len(s.lines), "an exercise twice"
            assert all(x.reason for x in s.lines)
            assert all(kit.allows(exercise(x.exercise_id)) for x in s.lines)
        seen = views(sessions, given)
        week = WeekView(
            given.week.start, seen, PRACTICES, before, given.week.is_light, allows_daily_lifts=arranged.allows_daily_lifts,
            uses_failure=arranged.uses_failure, is_weightlifting="weightlifting" in arranged.sports,
            days_to_go=given.days_out,
        )  # fmt: skip
        flags = [*week_flags(week), *(f for v in seen for f in session_flags(v))]
        assert not [f for f in flags if f.severity is Severity.CAUTION]
        assert not [f for f in flags if f.check_id == "same-max-effort"]
        before = seen


@pytest.mark.parametrize("key", [a.key for a in WEEK_ARRANGEMENTS])
def test_no_false_alarm_on_a_shipped_week(key: str) -> None:
    """On a trained athlete in a furnished room only notes remain: a colleague has nothing to object to."""
    arranged = WEEK_BY_KEY[key]
    alarms: dict[str, int] = {}
    for days in arranged.days:
        for index in range(len(SEASON.weeks)):
            given = facts(index, days, Level.ADVANCED)
            seen = views(arranged_week(key, given), given)
            week = WeekView(
                given.week.start, seen, (), (), given.week.is_light, allows_daily_lifts=arranged.allows_daily_lifts,
                uses_failure=arranged.uses_failure, is_weightlifting="weightlifting" in arranged.sports,
            )  # fmt: skip
            for f in (*week_flags(week), *(f for v in seen for f in session_flags(v))):
                if f.severity is not Severity.NOTE:
                    alarms[f"{f.check_id}: {f.reason}"] = alarms.get(f.check_id, 0) + 1
    assert not alarms


class TestEachArrangement:
    def lines(self, key: str, days: int, index: int = 1, **more: object) -> list:
        return [x for s in arranged_week(key, facts(index, days, Level.ADVANCED, **more)) for x in s.lines]

    @pytest.mark.parametrize("days", [3, 4, 5])
    def test_weightlifting_meets_each_lift_twice_both_squats_a_pull_and_a_hinge(self, days: int) -> None:
        # common practice
        lines = self.lines("weightlifting", days)
        roles = [r for x in lines for r in exercise(x.exercise_id).roles]
        ids = [x.exercise_id for x in lines]
        assert sum(1 for x in lines if exercise(x.exercise_id).family == "snatch" or x.exercise_id == "snatch") >= 2
        assert sum(r in ("clean_variation", "clean_and_jerk") for r in roles) >= 2
        assert {"back_squat", "front_squat"} <= set(ids)
        assert "classic_pull" in roles or "push_press" in ids
        assert {"jerk_variation", "jerk"} & set(roles)
        assert "romanian_deadlift" in ids or days == 3
        assert "single_leg" in roles

    def test_the_lead_of_the_day_of_both_lifts_changes_by_block(self) -> None:
        leads = []
        for index in (1, 4, 7):
            last = arranged_week("weightlifting", facts(index, 3, Level.ADVANCED))[-1]
            leads.append(next(x.exercise_id for x in last.lines if x.slot == "A1"))
        assert leads[0] != leads[1] != leads[2]

    def test_a_recorded_fault_chooses_the_variation(self) -> None:
        lines = self.lines("weightlifting", 3, wishes=wishes(Known(faults=(LiftFault("snatch", "feet_jump_about"),))))
        met = [x for x in lines if "feet_jump_about" in exercise(x.exercise_id).faults]
        assert len(met) >= 2, "the worst fault is met twice a week"
        assert any("feet jump about" in x.reason or "technical fault" in x.reason for x in met)

    def test_the_weakest_lift_has_its_place(self) -> None:
        assert any(x.exercise_id == "push_press" for x in self.lines("weightlifting", 3, weakest="push_press"))

    def test_daily_lifts_are_heavy_in_turn(self) -> None:
        themes = [s.theme for s in arranged_week("daily_lifts", facts(1, 5, Level.ADVANCED))]
        assert not any(t.count("heavy") == 2 for t in themes), "both lifts heavy on one day"
        assert sum("Snatch heavy" in t for t in themes) == 2

    def test_the_max_effort_lift_changes_every_week_of_a_year(self) -> None:
        year = plan_year(SeasonFacts(START, (Target("Day", START + timedelta(weeks=50, days=5)),), arrangement("concurrent")))
        last: set[str] = set()
        for week in year.weeks:
            given = WeekFacts(year, week, PRACTICES, Limits(), 4, Level.ADVANCED)
            now = {x.exercise_id for s in arranged_week("concurrent", given) for x in s.lines if x.block == "A · max effort"}
            assert len(now) == 2
            assert not now & last
            last = now

    def test_concurrent_orders(self) -> None:
        apart = [s.theme for s in arranged_week("concurrent", facts(1, 4))]
        first = [s.theme for s in arranged_week("concurrent_heavy_first", facts(1, 4))]
        assert [t.split(", ")[1] for t in apart] == ["max effort", "dynamic effort", "dynamic effort", "max effort"]
        assert [t.split(", ")[1] for t in first] == ["max effort"] * 2 + ["dynamic effort"] * 2

    def test_in_two_days_the_region_trained_fast_takes_the_small_work(self) -> None:
        one, two = arranged_week("concurrent", facts(1, 2, Level.ADVANCED))
        small = [exercise(x.exercise_id) for x in one.lines if x.block.startswith("C")]
        assert small
        assert all(e.region in ("lower", "trunk") for e in small)
        assert any(exercise(x.exercise_id).pattern == "pull" for x in two.lines if x.block.startswith("C"))

    def test_high_and_low_days_alternate_and_top_speed_has_one_day(self) -> None:
        sessions = arranged_week("high_low", facts(1, 5, Level.ADVANCED))
        assert [s.load for s in sessions] == ["low", "high", "low", "high", "low"]
        fast = [s.key for s in sessions for x in s.lines if "max_velocity" in exercise(x.exercise_id).roles and x.is_main]
        assert fast == ["D"]

    def test_jumps_match_the_theme_of_the_high_day(self) -> None:
        sessions = {s.key: s for s in arranged_week("high_low", facts(1, 5, Level.ADVANCED))}
        long_contact = next(exercise(x.exercise_id) for x in sessions["B"].lines if x.block == "B · jumps")
        short_contact = next(exercise(x.exercise_id) for x in sessions["D"].lines if x.block == "B · jumps")
        assert long_contact.plyometric.contact_s > short_contact.plyometric.contact_s

    def test_beside_a_track_programme_nobody_sprints(self) -> None:
        assert not any(exercise(x.exercise_id).pattern == "run" for x in self.lines("beside_track", 3))

    def test_team_presses_take_another_angle_each_day_and_the_heavy_day_is_last(self) -> None:
        sessions = arranged_week("team_strength", facts(1, 4, Level.ADVANCED))
        presses = [x.exercise_id for s in sessions for x in s.lines if x.slot == "B2"]
        assert len(set(presses)) == 4
        assert [s.load for s in sessions] == ["middle", "middle", "middle", "high"]

    def test_percent_lifts_alternate_regions(self) -> None:
        mains = [exercise(x.exercise_id).region for x in self.lines("percent_lift", 4) if x.is_main]
        assert mains == ["lower", "upper", "whole", "upper"]  # the third is the power lift among them
        assert week_arrangement("percent_lift").is_sequence

    def test_a_combat_day_has_carry_and_hold_in_opposite_planes(self) -> None:
        for s in arranged_week("two_days", facts(1, 2, Level.ADVANCED)):
            roles = {r for x in s.lines if x.block.startswith("C") for r in exercise(x.exercise_id).roles}
            assert roles >= {"carry_side", "hold_front"} or roles >= {"carry_front", "hold_side"}

    def test_a_taper_holds_no_test(self) -> None:
        taper = next(w.index for w in SEASON.weeks if w.phase == "taper")
        assert not any("RM" in str(x.prescription) for x in self.lines("test_week", 3, taper) if "RmZone" in str(x.prescription))
        assert any("RmZone" in str(x.prescription) for x in self.lines("test_week", 3, 1))


class TestTheLastDays:
    @pytest.mark.parametrize(("days_out", "pct", "front_pct"), [
        (11, 100, 100), (10, 88, 80), (6, 88, 80), (5, 80, 80), (3, 80, 80), (2, 60, 60), (0, 60, 60),
    ])  # fmt: skip
    def test_loads_are_held_back_toward_the_day(self, days_out: int, pct: float, front_pct: float) -> None:
        # common practice; from memory inside the last ten days
        assert (cap_pct(days_out), cap_pct(days_out, True)) == (pct, front_pct)

    @pytest.mark.parametrize("key", ["weightlifting", "daily_lifts", "percent_lift", "two_days", "team_strength"])
    def test_no_line_is_above_what_its_day_allows(self, key: str) -> None:
        for week in SEASON.weeks[-3:]:
            given = facts(week.index, WEEK_BY_KEY[key].days[-1], Level.ADVANCED)
            for s in arranged_week(key, given):
                out = (week.competition_day - s.day).days
                for v in session_view(s, given.limits, given.level).lines:
                    if v.exercise.kind in ("strength", "classic") and v.exercise.region != "upper" and v.share:
                        assert 100 * v.share <= cap_pct(out, v.exercise.id == "front_squat") + 1e-9


def test_an_unknown_arrangement_is_refused_with_the_known_ones() -> None:
    with pytest.raises(CoachError) as refused:
        week_arrangement("every_other_tuesday")
    assert "High and low days" in refused.value.accepted


@pytest.mark.parametrize(("wanted", "got"), [(1, 3), (3, 3), (4, 4), (7, 5)])
def test_the_nearest_number_of_days_is_taken(wanted: int, got: int) -> None:
    assert nearest_days(week_arrangement("weightlifting"), wanted) == got


def test_sports_have_their_usual_week() -> None:
    assert usual_for("weightlifting") == ("weightlifting", 3)
    assert usual_for("wrestling") == ("two_days", 2)
    for model in SEASON_MODELS:
        for sport in ("weightlifting", "wrestling", "handball", "strength"):
            key, days = usual_for(sport, model.key)
            assert days in week_arrangement(key).days, (model.key, sport)
    assert len({usual_for("strength", m.key) for m in SEASON_MODELS}) >= 5, "season models differ in their weeks"

"""Known to planned: whatever is known of an athlete changes a line of the week, and the line says why. Common practice."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta

import pytest

from jarvok.core.checks.flag import Severity
from jarvok.core.checks.session import session_flags
from jarvok.core.chooser.known import Because, Finding, Known, LiftFault, SideGap, family_of, traits, traits_for
from jarvok.core.chooser.wishes import NO_WISHES, wishes
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.library.kit import HOTEL
from jarvok.core.library.substitutes import Limits
from jarvok.core.marks.limiter import fault_kinds
from jarvok.core.season.model import PhaseKey
from jarvok.core.session.planned import PlannedLine, PlannedSession
from jarvok.core.session.roles import BlockRole
from jarvok.core.week.arrangements import WEEK_ARRANGEMENTS
from jarvok.core.week.choosing import MOST_ADDED, MOST_PREPARE
from jarvok.core.week.generate import arranged_week
from jarvok.core.week.plan import Level
from tests.core.test_week_arrangements import SEASON, facts, views

WEEKS = [a for a in WEEK_ARRANGEMENTS if not a.is_test]
FULL_WEEK = 1  # a full week of base strength
MAIN_KINDS = ("strength", "classic")


def week(key: str, days: int, known: Known | None, index: int = FULL_WEEK, **more: object) -> tuple[PlannedSession, ...]:
    asked = NO_WISHES if known is None else wishes(known)
    return arranged_week(key, facts(index, days, Level.ADVANCED, wishes=asked, **more))


def lines(sessions: tuple[PlannedSession, ...]) -> list[PlannedLine]:
    return [x for s in sessions for x in s.lines]


def said(sessions: tuple[PlannedSession, ...]) -> str:
    return " | ".join([*(x.reason for x in lines(sessions)), *(w for s in sessions for w in s.left_out)])


def main_lifts(sessions: tuple[PlannedSession, ...]) -> list[str]:
    return list(dict.fromkeys(x.exercise_id for x in lines(sessions) if x.is_main and exercise(x.exercise_id).kind in MAIN_KINDS))


@pytest.mark.parametrize("arranged", WEEKS, ids=lambda a: a.key)
def test_every_fault_of_every_main_lift_changes_the_week_and_the_line_says_so(arranged) -> None:
    plain = week(arranged.key, arranged.days[0], None)
    for lift_id in main_lifts(plain):
        lift = exercise(lift_id)
        for kind in fault_kinds().values():
            if not kind.can_be_of(lift.pattern, lift.kind):
                continue
            changed = week(arranged.key, arranged.days[0], Known(faults=(LiftFault(lift_id, kind.id),)))
            about = f"{kind.id} in {lift_id}"
            assert f"works on: {kind.name.lower()}" in said(changed), about
            works = [x for x in lines(changed) if f"works on: {kind.name.lower()}" in x.reason]
            assert all(kind.id in exercise(x.exercise_id).faults for x in works), about
            assert len(works) >= 1, about


@pytest.mark.parametrize("arranged", WEEKS, ids=lambda a: a.key)
@pytest.mark.parametrize("trait", list(traits()))
def test_every_trait_speaks_in_the_week(arranged, trait: str) -> None:
    plain = week(arranged.key, arranged.days[0], None)
    changed = week(arranged.key, arranged.days[0], Known(traits=frozenset({trait})))
    words = {w for n in traits()[trait].needs for w in n.words} | {p.words for p in traits()[trait].prefers}
    assert any(w in said(changed) for w in words)
    assert [x.reason for x in lines(plain)] != [x.reason for x in lines(changed)]


@pytest.mark.parametrize("arranged", WEEKS, ids=lambda a: a.key)
@pytest.mark.parametrize("sport", ["wrestling", "handball", "weightlifting", "sprint"])
@pytest.mark.parametrize("index", [1, 3, 6, 9, 13, 18, 22, len(SEASON.weeks) - 1])
def test_trouble_spots_of_a_sport_are_met_without_a_caution_and_without_touching_the_dose(
    arranged, sport: str, index: int
) -> None:
    days = arranged.days[0]
    plain, asked = week(arranged.key, days, None, index), week(arranged.key, days, Known(sport), index)
    assert [s.day for s in plain] == [s.day for s in asked]
    for a, b in zip(plain, asked, strict=True):
        main = [x for x in b.lines if x.role.counts]
        assert [x.prescription.total_sets for x in a.lines if x.role.counts] == [x.prescription.total_sets for x in main]
        assert [x.line_id for x in a.lines] == [x.line_id for x in b.lines if x.line_id in {y.line_id for y in a.lines}]
        assert len({x.line_id for x in b.lines}) == len(b.lines)
        assert len({x.slot for x in b.lines}) == len(b.lines)
        assert len(b.lines) - len(a.lines) <= MOST_ADDED + MOST_PREPARE
    if SEASON.weeks[index].phase is PhaseKey.TAPER:
        assert [x.to_raw() for x in lines(plain)] == [x.to_raw() for x in lines(asked)], "nothing new in a taper"
        return
    given = facts(index, days, Level.ADVANCED, wishes=wishes(Known(sport)))
    for seen, before in zip(views(asked, given), views(plain, given), strict=True):
        alarms = {f.check_id for f in session_flags(seen) if f.severity is not Severity.NOTE}
        assert alarms <= {f.check_id for f in session_flags(before) if f.severity is not Severity.NOTE}


def test_neck_and_grip_are_worked_twice_a_week_for_a_wrestler() -> None:
    for index in (1, 2, 5):
        roles = [exercise(x.exercise_id).roles for x in lines(week("two_days", 2, Known("wrestling"), index))]
        assert sum("neck" in r for r in roles) == 2
        assert sum("grip" in r for r in roles) == 2
    assert not any("neck" in exercise(x.exercise_id).roles for x in lines(week("two_days", 2, None)))


def test_hamstrings_and_groin_for_a_running_squad() -> None:
    ids = [x.exercise_id for x in lines(week("team_strength", 2, Known("handball")))]
    assert ids.count("partner_nordic") == 2
    assert sum("adductor" in exercise(e).roles for e in ids) >= 2


def test_a_weightlifter_with_long_legs_has_knees_first_one_with_short_legs_the_lower_back() -> None:
    def small(trait: str) -> list[str]:
        known = Known("weightlifting", frozenset({trait}))
        return [x.wish for x in lines(week("percent_lift", 3, known, minutes=59)) if x.wish]

    assert small("long_legs").count("knees") == 2
    assert small("short_legs").count("lower_back") == 2
    assert small("long_legs").count("lower_back") <= 1


class TestFaults:
    def test_a_fault_of_skill_changes_the_last_line_of_the_lift(self) -> None:
        known = Known(faults=(LiftFault("back_squat", "hips_rise_first"),))
        plain, changed = lines(week("percent_lift", 3, None)), lines(week("percent_lift", 3, known))
        assert "back_squat" in {x.exercise_id for x in plain}
        varied = next(x for x in changed if x.exercise_id == "pause_squat")
        assert "instead of the back squat" in varied.reason

    def test_where_the_lift_is_not_in_the_week_its_fault_is_worked_on_in_small(self) -> None:
        known = Known(faults=(LiftFault("back_squat", "hips_rise_first"),))
        assert "back_squat" not in {x.exercise_id for x in lines(week("two_days", 2, None))}
        added = next(x for x in lines(week("two_days", 2, known)) if x.exercise_id == "pause_squat")
        assert "hips rise first" in added.reason
        assert not added.is_main

    @pytest.mark.parametrize(("seen_in", "works_on_it"), [
        ("back_squat", {"pause_squat", "pause_front_squat"}), ("deadlift", {"pause_deadlift"}),
        ("clean", {"pause_clean", "pause_snatch"}),
    ])  # fmt: skip
    def test_it_is_worked_on_in_the_kind_of_lift_it_was_seen_in(self, seen_in: str, works_on_it: set[str]) -> None:
        """A wrestler whose hips rise first in the squat pauses squats; nobody gives them a snatch for it."""
        (need,) = [n for n in wishes(Known(faults=(LiftFault(seen_in, "hips_rise_first"),))).needs if n.because is Because.FAULT]
        assert set(need.exercises) == works_on_it

    def test_a_fault_of_posture_brings_rows_and_trunk_work_and_leaves_the_lift(self) -> None:
        known = Known(faults=(LiftFault("back_squat", "upper_back_rounds"),))
        changed = week("team_strength", 2, known)
        assert "back_squat" in main_lifts(changed)
        assert sum("upper_back_rounds" in exercise(x.exercise_id).faults for x in lines(changed)) >= 2

    def test_a_restricted_range_is_worked_on_in_every_warm_up(self) -> None:
        known = Known(faults=(LiftFault("front_squat", "ankle_range"),))
        for session in week("team_strength", 3, known):
            assert any("ankle range" in x.reason and x.role is BlockRole.PREPARE for x in session.lines)

    def test_the_press_alone_changes_for_a_fault_of_the_press(self) -> None:
        known = Known(faults=(LiftFault("bench_press", "press_lockout"),))
        plain, changed = lines(week("team_strength", 2, None)), lines(week("team_strength", 2, known))
        assert {x.exercise_id for x in plain} ^ {x.exercise_id for x in changed} == {"bench_press", "close_grip_bench_press"}

    def test_what_a_restriction_rules_out_is_said_with_its_cause(self) -> None:
        known = Known(faults=(LiftFault("clean_and_jerk", "shoulder_range"),))
        free = Limits(skill=3)
        tight = Limits(frozenset({"upper", "overhead"}), skill=3)
        for limits in (free, tight):
            given = replace(facts(FULL_WEEK, 2, Level.ADVANCED, wishes=wishes(known)), limits=limits)
            words = said(arranged_week("two_days", given))
            assert ("restricted: " in words) is (limits is tight)

    def test_a_drill_is_not_added_to_a_warm_up_that_is_full(self) -> None:
        seen = ("ankle_range", "hip_range", "rack_position")
        many = (*(LiftFault("back_squat", f) for f in seen), LiftFault("snatch", "shoulder_range"))
        for session in week("team_strength", 2, Known(faults=many)):
            assert sum(1 for x in session.lines if x.role is BlockRole.PREPARE) <= MOST_PREPARE


class TestSides:
    GAP = SideGap("single_leg_jump", "lower", "left", 14.0)

    def test_the_first_set_of_the_weaker_side_is_done_twice(self) -> None:
        rows = [x for x in lines(week("team_strength", 2, Known(sides=(self.GAP,)))) if "14 % behind" in x.reason]
        assert rows
        for line in rows:
            first, then = line.prescription.groups
            assert (first.sets, first.per_side, then.per_side) == (1, False, True)
            assert line.note == "First set: left only. Then both, left first"

    def test_the_other_region_stays(self) -> None:
        rows = lines(week("team_strength", 2, Known(sides=(self.GAP,))))
        assert all(len(x.prescription.groups) == 1 for x in rows if exercise(x.exercise_id).region == "upper")

    def test_where_one_side_is_stronger_the_other_begins(self) -> None:
        rows = [x for x in lines(week("weightlifting", 4, Known(stronger_side="right"))) if exercise(x.exercise_id).per_side]
        assert rows
        assert all(x.note == "Left first: the right is the stronger side" for x in rows if x.role is not BlockRole.PREPARE)


class TestFindings:
    @pytest.mark.parametrize(("found", "reps"), [(2, 2), (3, 3), (4, 3), (9, 3)])
    def test_jumps_hold_no_more_than_the_own_test_found(self, found: int, reps: int) -> None:
        jump = next(x for x in lines(week("team_strength", 2, None)) if x.slot == "A1")
        assert jump.prescription.groups[0].reps == 3
        known = Known(findings=(Finding(jump.exercise_id, found),))
        line = next(x for x in lines(week("team_strength", 2, known)) if x.slot == "A1")
        assert line.prescription.groups[0].reps == reps
        assert ("own test" in line.reason) is (reps < 3)


class TestPlaces:
    @pytest.mark.parametrize(("minutes", "most"), [(39, 0), (40, 1), (59, 1), (60, 2), (None, 2)])
    def test_so_many_lines_as_the_minutes_hold_and_the_rest_is_said(self, minutes: int | None, most: int) -> None:
        sessions = week("daily_dose", 4, Known("wrestling", frozenset({"goal_arms"})), minutes=minutes)
        added = [sum("for this athlete" in x.block for x in s.lines) for s in sessions]
        assert max(added) == most
        said = any("a week left out" in w for s in sessions for w in s.left_out)
        assert said is (most < 2)  # four days of two lines hold all of it

    def test_nothing_is_said_where_everything_finds_a_place(self) -> None:
        assert not any(s.left_out for s in week("team_strength", 3, Known("handball")))

    def test_what_the_coach_declines_is_not_there(self) -> None:
        known = Known("wrestling", declined=frozenset({"neck"}))
        assert not any("neck" in exercise(x.exercise_id).roles for x in lines(week("two_days", 2, known)))
        assert any("grip" in exercise(x.exercise_id).roles for x in lines(week("two_days", 2, known)))

    def test_a_declined_fault_leaves_the_lift_as_it_is(self) -> None:
        seen = (LiftFault("back_squat", "hips_rise_first"),)
        sessions = week("two_days", 2, Known(faults=seen, declined=frozenset({"fault-hips_rise_first"})))
        assert not any(x.exercise_id == "pause_squat" for x in lines(sessions))

    def test_in_a_hotel_room_what_is_not_there_is_said(self) -> None:
        given = replace(facts(FULL_WEEK, 2, Level.ADVANCED, wishes=wishes(Known("wrestling"))), limits=Limits(kit=HOTEL))
        assert "the grip decides the clinch: not here" in said(arranged_week("two_days", given))

    def test_a_light_week_has_fewer_sets_of_it(self) -> None:
        easy = next(w.index for w in SEASON.weeks if w.is_easy)
        sets = {x.prescription.total_sets for x in lines(week("two_days", 2, Known("wrestling"), easy)) if x.wish == "neck"}
        assert sets == {1}

    def test_hamstrings_are_not_loaded_just_before_a_match(self) -> None:
        given = facts(FULL_WEEK, 2, Level.ADVANCED, wishes=wishes(Known("handball")))
        first, second = arranged_week("team_strength", given)
        match = second.day + timedelta(days=2)
        with_match = replace(given, week=replace(given.week, match_days=(match,)))
        days = {s.day for s in arranged_week("team_strength", with_match) for x in s.lines if x.exercise_id == "partner_nordic"}
        assert days == {first.day}


class TestTable:
    def test_every_exercise_role_and_text_of_the_table_exists(self) -> None:
        roles = {r for e in exercises().values() for r in e.roles}
        every = [n for t in traits().values() for n in t.needs]
        for sport in ("wrestling", "handball", "weightlifting", "sprint"):
            family = family_of(sport)
            assert family is not None
            every += family.needs
            assert all(e in exercises() for p in family.prefers for e in p.exercises)
        for need in every:
            assert {*need.exercises, *([need.first] if need.first else [])} <= set(exercises())
            assert set(need.roles) <= roles
            assert need.exercises or need.roles
        assert all(e in exercises() for t in traits().values() for p in t.prefers for e in p.exercises)

    def test_styles_belong_to_their_sports(self) -> None:
        names = {t.id for t in traits_for("handball")}
        assert "goalkeeper" in names
        assert "leg_attacks" not in names
        assert {t.kind for t in traits_for("curling")} == {Because.BUILD, Because.PAST, Because.GOAL}

    def test_faults_come_before_goals_and_goals_before_the_sport(self) -> None:
        known = Known("wrestling", frozenset({"goal_arms"}), (LiftFault("back_squat", "upper_back_rounds"),))
        order = [n.because for n in wishes(known).needs]
        assert order == sorted(order, key=list(Because).index)

    def test_two_reasons_for_one_need_are_one_line_with_both(self) -> None:
        known = Known("wrestling", frozenset({"goal_grip"}))
        need = next(n for n in wishes(known).needs if n.id == "grip")
        assert need.words == ("goal: stronger grip", "the grip decides the clinch")

    def test_what_a_sport_does_in_the_warm_up_stays_there_whatever_else_asks_for_it(self) -> None:
        known = Known("wrestling", frozenset({"leg_attacks", "goal_grip"}))
        roles = [exercise(x.exercise_id).roles for x in lines(week("two_days", 2, known))]
        assert sum("neck" in r for r in roles) == 2, "neck and grip keep their places"
        assert sum("grip" in r for r in roles) == 2
        assert all(x.role is BlockRole.PREPARE for x in lines(week("two_days", 2, known)) if x.wish == "adductors")

    def test_every_fault_has_an_exercise_that_works_on_it(self) -> None:
        for kind in fault_kinds():
            assert any(kind in e.faults for e in exercises().values()), kind

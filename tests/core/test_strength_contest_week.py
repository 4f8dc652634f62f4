"""The week of a strength contest: what stands on which day, what rises and falls towards it. Common practice; no source."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

import pytest
from core.test_contest_reaches_the_set import START, STRENGTH, Season

from jarvok.core.library.exercises import exercise
from jarvok.core.loading.methods.contest_share import ContestShare
from jarvok.core.season.exposures import Event, Standing
from jarvok.core.session.planned import PlannedLine, PlannedSession
from jarvok.core.session.roles import BlockRole
from jarvok.core.week.arrangements import usual_for
from jarvok.core.week.contest_work import BLOCK

WEEKS = 15
CARRY = Event("heavy_power", "Short carry", load_kg=100, exercise_id="farmer_carry", distance_m=20)
HOLD = Event("timed_endurance", "Lift and hold", load_kg=40, exercise_id="front_carry", time_s=45)


def contest(weekday: int = 5, days: int = 4, events: tuple[Event, ...] = STRENGTH) -> tuple[Season, date]:
    day = START + timedelta(days=7 * WEEKS + weekday)
    return Season(events, day, ("strength_contest", days)), day


def by_week(season: Season) -> list[tuple[date, list[PlannedSession]]]:
    return [(w.start, [s for s in season.sessions if w.start <= s.day <= w.end]) for w in season.plan.weeks]


def weeks_out(monday: date, day: date) -> int:
    return (day - monday).days // 7


def is_pull(line: PlannedLine) -> bool:
    lift = exercise(line.exercise_id)
    return lift.pattern == "hinge" and lift.kind == "strength" and line.is_main


def shares(season: Season, exercise_id: str) -> dict[date, float]:
    return {
        s.day: x.prescription.groups[0].load.pct
        for s in season.sessions
        for x in s.lines
        if x.exercise_id == exercise_id and isinstance(x.prescription.groups[0].load, ContestShare)
    }


def test_it_is_what_a_season_of_strength_events_proposes() -> None:
    assert usual_for("strength", "strength_event") == ("strength_contest", 4)


@pytest.mark.parametrize("weekday", range(7))
@pytest.mark.parametrize("days", [3, 4])
def test_the_deadlift_has_a_day_of_its_own_away_from_the_events(weekday: int, days: int) -> None:
    season, _ = contest(weekday, days)
    for _, sessions in by_week(season):
        full = [s for s in sessions if not s.key.startswith("H")]
        pulls = [s for s in full if any(is_pull(x) and x.block != BLOCK for x in s.lines)]
        assert len(pulls) <= 1, "one day pulls"
        events = [s for s in full if any(x.block == "B · events" for x in s.lines)]
        assert not {s.key for s in pulls} & {s.key for s in events}
        assert all(abs((a.day - b.day).days) >= 2 for a in pulls for b in events), "not beside each other"
    last_pull = min(e.day for e in season.work.exposures if e.event == "Last pull")
    held = next(s for s in season.sessions if s.day == last_pull)
    assert held.theme in ("Deadlift", "Last heavy session")


@pytest.mark.parametrize("days", [3, 4])
def test_the_overhead_lift_twice_a_week_then_once(days: int) -> None:
    season, day = contest(days=days)
    for monday, sessions in by_week(season):
        overhead = [s for s in sessions for x in s.lines if x.is_main and "press_overhead" in exercise(x.exercise_id).roles]
        early, late = {s.day for s in overhead if (day - s.day).days > 14}, [s for s in overhead if (day - s.day).days <= 14]
        if weeks_out(monday, day) >= 4:
            assert len(early) == 2, f"{monday}"
        assert len({s.day for s in late}) <= 1 or weeks_out(monday, day) < 1


@pytest.mark.parametrize("days", [3, 4])
def test_no_contest_weight_earlier_than_five_weeks_out(days: int) -> None:
    season, day = contest(days=days)
    for monday, sessions in by_week(season):
        of_contest = [x for s in sessions for x in s.lines if isinstance(x.prescription.groups[0].load, ContestShare)]
        if weeks_out(monday, day) > 5:
            assert not of_contest
            assert not any(x.exercise_id == "deadlift" for s in sessions for x in s.lines), "a stricter form"
        elif weeks_out(monday, day) in (3, 4, 5):
            assert of_contest


def test_three_weeks_up_then_back_with_the_last_heavy_session_on_top() -> None:
    season, day = contest(events=(CARRY, HOLD))
    for event, top in (("farmer_carry", 95), ("front_carry", 80)):
        found = shares(season, event)
        up = [pct for on, pct in sorted(found.items()) if (day - on).days > 20]
        after = [pct for on, pct in found.items() if (day - on).days <= 20]
        assert up == sorted(up)
        assert len(set(up)) == 3
        assert up[-1] == top
        assert all(pct < top for pct in after)
    near = [s for s in season.sessions if (day - s.day).days < 35]
    hold = [x for s in near for x in s.lines if x.exercise_id == "front_carry"]
    assert {x.prescription.groups[0].seconds for x in hold} == {45}, "its duration stays"
    last = max(e.day for e in season.work.exposures if e.event == "Short carry" and e.share_pct[1] == 100)
    assert all(pct <= 75 for on, pct in shares(season, "farmer_carry").items() if on > last), "technique only"


def test_a_sure_event_is_eased_and_the_worst_is_not_practised_besides() -> None:
    usual, sure, worst = (contest(events=(replace(CARRY, standing=s), HOLD))[0] for s in Standing)
    assert max(shares(usual, "farmer_carry").values()) - max(shares(sure, "farmer_carry").values()) == 10
    assert not shares(worst, "farmer_carry")
    lines = [x for s in worst.sessions for x in s.lines if x.exercise_id == "farmer_carry" and x.block == BLOCK]
    assert len(lines) == 2, "its last heavy sessions stay"


def test_small_work_gets_heavier_as_its_sets_fall_and_ends_before_the_last_training_week() -> None:
    season, day = contest()
    seen: dict[int, set[tuple[int, int | None]]] = {}
    for monday, sessions in by_week(season):
        small = [x for s in sessions for x in s.lines if x.role is BlockRole.SMALL and "hold" not in exercise(x.exercise_id).kind]
        seen[weeks_out(monday, day)] = {(x.prescription.total_sets, x.prescription.groups[0].reps) for x in small}
    assert not seen[1]
    assert not seen[0]
    reps = [max(r or 0 for _, r in seen[w]) for w in (6, 5, 4, 3, 2)]
    assert reps == sorted(reps, reverse=True)
    assert reps[0] > reps[-1]
    assert max(n for n, _ in seen[2]) < max(n for n, _ in seen[5])


def test_without_events_on_record_something_is_carried_dragged_and_lifted() -> None:
    season = Season((), START + timedelta(days=7 * WEEKS + 5), ("strength_contest", 4), model="linear")
    events = next(s for s in season.sessions if s.theme == "Events")
    assert sum(x.block == "B · events" for x in events.lines) == 3

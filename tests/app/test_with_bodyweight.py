"""A weighted pull-up of an athlete made here: max, loads and sets of the floor count bodyweight in."""

from __future__ import annotations

from datetime import date
from typing import Any

import pytest

from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import SessionLine, SetRecord, TrainingSession


def sheet_load(coach: Any, athlete: Athlete, text: str) -> float | None:
    path = f"athletes/{athlete.pk}/sessions"
    key = coach.ok("POST", path, {"day": "2026-12-02", "theme": "Pull-ups"})["key"]
    edit = {"op": "add", "exercise_id": "pull_up", "text": text, "block": "work", "is_main": True}
    coach.ok("POST", f"{path}/2026-12-02/{key}/edit", edit)
    week = coach.get(f"athletes/{athlete.pk}/week?start=2026-11-30")["week"]
    sheets = [s for d in week["days"] for s in (d["sheet"], d["second"]) if s and s["day"] == "2026-12-02"]
    return next(x for s in sheets for x in s["lines"] if x["exercise_id"] == "pull_up")["sets"][0]["load_kg"]


def lift(coach: Any, athlete: Athlete) -> Any:
    return next(x for x in coach.get(f"athletes/{athlete.pk}")["lifts"] if x["exercise_id"] == "pull_up")


def test_max_and_loads_follow_bodyweight(coach, athlete: Athlete, season) -> None:
    coach.ok("POST", f"athletes/{athlete.pk}/masses", {"day": "2026-11-23", "mass": 80})
    mark = {"kind": "rep_max", "exercise_id": "pull_up", "day": "2026-11-20", "load_kg": 20, "reps": 5}
    coach.ok("POST", f"athletes/{athlete.pk}/marks", mark)
    assert abs(lift(coach, athlete)["max_kg"] - 36.7) < 0.1
    assert sheet_load(coach, athlete, "3 × 5 @ 80 %") == 12.5
    assert "bodyweight" in str(lift(coach, athlete)["working"])


def test_a_heavier_athlete_adds_less_for_the_same_share(coach, athlete: Athlete, season) -> None:
    mark = {"kind": "one_rm", "exercise_id": "pull_up", "day": "2026-11-20", "load_kg": 40, "reps": 1}
    coach.ok("POST", f"athletes/{athlete.pk}/marks", mark)
    coach.ok("POST", f"athletes/{athlete.pk}/masses", {"day": "2026-11-23", "mass": 60})
    light = sheet_load(coach, athlete, "3 × 3 @ 90 %")
    coach.ok("POST", f"athletes/{athlete.pk}/masses", {"day": "2026-11-24", "mass": 100})
    assert light == 30
    assert sheet_load(coach, athlete, "3 × 3 @ 90 %") in (25, 27.5)


class TestNothingAdded:
    """Sets with bodyweight alone are evidence once the athlete has been weighed, and no max of nothing before."""

    def done(self, athlete: Athlete, reps: int, rir: float | None, day: date = date(2026, 11, 20)) -> None:
        held = TrainingSession.objects.create(athlete=athlete, day=day, key="A", theme="", started_at=f"{day}T10:00:00Z")
        line = SessionLine.objects.create(
            session=held, order=0, slot="A1", block="A", exercise_id="pull_up", text="1 × 6 @ BW", planned=[], role="main"
        )
        SetRecord.objects.create(line=line, kind="work", number=1, load_kg=None, reps=reps, rir=rir, done_at=f"{day}T10:05:00Z")

    def test_they_say_what_could_be_added(self, coach, athlete: Athlete) -> None:
        coach.ok("POST", f"athletes/{athlete.pk}/masses", {"day": "2026-11-19", "mass": 70})
        self.done(athlete, 6, 2)
        assert abs(lift(coach, athlete)["max_kg"] - (70 * (1 + 8 / 30) - 70)) < 0.1
        assert "bodyweight × 6 with 2 in reserve" in str(lift(coach, athlete)["working"])

    def test_without_a_body_mass_they_say_nothing(self, coach, athlete: Athlete) -> None:
        self.done(athlete, 6, 2)
        assert not [x for x in coach.get(f"athletes/{athlete.pk}")["lifts"] if x["exercise_id"] == "pull_up" and x["max_kg"]]

    @pytest.mark.parametrize("reps", [1, 3])
    def test_the_pages_open_for_who_can_add_nothing_yet(self, coach, athlete: Athlete, reps: int) -> None:
        coach.ok("POST", f"athletes/{athlete.pk}/masses", {"day": "2026-10-01", "mass": 70})
        for day in (date(2026, 10, 25), date(2026, 11, 4), date(2026, 11, 20)):
            self.done(athlete, reps, 0, day)
        for path in ("standing", "report", "phase-bests"):
            coach.get(f"athletes/{athlete.pk}/{path}")
        for path in (f"learning/athlete/{athlete.pk}/progress", f"findings/athlete/{athlete.pk}", "today", "athletes"):
            coach.get(path)

    def test_of_unknown_effort_they_are_the_least_it_is(self, coach, athlete: Athlete) -> None:
        coach.ok("POST", f"athletes/{athlete.pk}/masses", {"day": "2026-11-19", "mass": 70})
        mark = {"kind": "one_rm", "exercise_id": "pull_up", "day": "2026-11-10", "load_kg": 10, "reps": 1}
        coach.ok("POST", f"athletes/{athlete.pk}/marks", mark)
        self.done(athlete, 5, None)
        assert lift(coach, athlete)["max_kg"] >= 10

"""A weighted pull-up of an athlete made here: max, loads and sets of the floor count bodyweight in."""

from __future__ import annotations

from typing import Any

from jarvok.app.facts.athletes.models import Athlete


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

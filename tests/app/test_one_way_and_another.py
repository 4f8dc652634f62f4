"""A line that moved, a taper that suits, a variation that moved its lift: noticed from what was done, kept, and acting."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

import pytest

from jarvok.app.facts.athletes.models import Athlete, MarkRecord
from jarvok.app.facts.floor.models import SessionLine, SetRecord, TrainingSession
from jarvok.app.facts.seasons.models import Competition, Entry, EntryResult
from jarvok.app.facts.training.models import ToldWeek
from jarvok.core.season.taper import Shape, TaperStyle

TODAY = date(2026, 11, 24)


def noticed(coach: Any, athlete: Athlete, kind: str) -> Any:
    """The one of a kind that waits for a word."""
    rows = coach.get(f"findings/athlete/{athlete.pk}")["findings"]
    (found,) = [f for f in rows if f["kind"] == kind and f["state"] == "waits"]
    return found


def keep(coach: Any, athlete: Athlete, found: Any) -> Any:
    page = coach.ok("POST", f"athletes/{athlete.pk}/noticed", {"ref": found["ref"], "keep": True})
    (kept,) = [f for f in page["findings"] if f["kind"] == found["kind"]]
    return kept


def withdraw(coach: Any, kept: Any) -> None:
    coach.ok("POST", f"finding/{kept['id']}/answer", {"state": "withdrawn", "reason": "not any more"})


@pytest.fixture
def faster(athlete: Athlete) -> None:
    """Four days of squats with velocities five to six weeks ago, four days since, the same loads faster."""
    for half, first, gain in (("then", 33, 0.0), ("now", 2, 0.07)):
        for n in range(4):
            day = TODAY - timedelta(days=first + 4 * n)
            for load, mps in ((40, 1.10), (55, 0.92), (70, 0.74), (85, 0.56)):
                MarkRecord.objects.create(
                    athlete=athlete, exercise_id="back_squat", kind="set_velocity", day=day, load_kg=load, reps=1,
                    measures={"velocity_mps": mps + gain + 0.004 * (-1) ** n}, note=half,
                )  # fmt: skip


def test_a_line_that_moved_loads_from_its_newer_velocities_alone(coach, athlete: Athlete, season, faster) -> None:
    def squat() -> Any:
        return next(x for x in coach.get(f"athletes/{athlete.pk}")["lifts"] if x["exercise_id"] == "back_squat")["profile"]

    def load() -> float:
        """What 3 × 3 at 0.80 m/s weighs on an empty day."""
        page = coach.get(f"athletes/{athlete.pk}/week?start=2026-11-30")["week"]
        sheet = next(d["sheet"] for d in page["days"] if d["sheet"] and d["sheet"]["day"] == "2026-12-02")
        return float(sheet["lines"][-1]["sets"][0]["load_kg"])

    path = f"athletes/{athlete.pk}/sessions"
    key = coach.ok("POST", path, {"day": "2026-12-02", "theme": "Fast squats"})["key"]
    coach.ok(
        "POST", f"{path}/2026-12-02/{key}/edit",
        {"op": "add", "exercise_id": "back_squat", "text": "3 × 3 @ 0.80 m/s", "block": "work", "is_main": True},
    )  # fmt: skip
    before, loaded = squat(), load()
    found = noticed(coach, athlete, "line")
    assert "the same loads move 0.07 m/s faster since 10 Nov" in found["sentence"]
    assert [e["is_result"] for e in found["evidence"]] == [True, True]
    kept = keep(coach, athlete, found)
    now = squat()
    assert now["intercept_mps"] > before["intercept_mps"] + 0.03
    assert "of velocities since 10 Nov alone" in now["waiting"]
    assert load() > loaded
    assert not [
        f for f in coach.get(f"findings/athlete/{athlete.pk}")["findings"] if f["kind"] == "line" and f["state"] == "waits"
    ]
    withdraw(coach, kept)
    assert squat()["intercept_mps"] == before["intercept_mps"]
    assert load() == loaded


def test_too_few_newer_velocities_keep_the_whole_line(coach, athlete: Athlete, season, faster) -> None:
    keep(coach, athlete, noticed(coach, athlete, "line"))
    MarkRecord.objects.filter(note="now", load_kg__gt=55).update(withdrawn_at="2026-11-24T10:00:00Z")
    profile = next(x for x in coach.get(f"athletes/{athlete.pk}")["lifts"] if x["exercise_id"] == "back_squat")["profile"]
    assert "alone" not in profile["waiting"]
    assert len(profile["points"]) > 8


@pytest.fixture
def meets(athlete: Athlete) -> None:
    """Six meets with their loads written, after tapers of a week and of two, the longer ones the better."""
    for n, (days, kg) in enumerate(((7, 97), (14, 103), (7, 96.5), (14, 103.5), (7, 97), (14, 103.5))):
        day = TODAY - timedelta(days=20 + 50 * (5 - n))
        first = day - timedelta(days=days)
        MarkRecord.objects.create(
            athlete=athlete, exercise_id="deadlift", kind="one_rm", day=first - timedelta(days=1), load_kg=100, reps=1
        )
        mark = MarkRecord.objects.create(athlete=athlete, exercise_id="deadlift", kind="one_rm", day=day, load_kg=kg, reps=1)
        meet = Competition.objects.create(athlete=athlete, name=f"Harbour meet {n + 1}", day=day)
        entry = Entry.objects.create(athlete=athlete, competition=meet, planned_from=day - timedelta(weeks=6))
        EntryResult.objects.create(entry=entry, events=[kg], marks=[mark.pk], at=f"{day}T18:00:00Z")
        taper = {
            "first": first.isoformat(), "day": day.isoformat(), "volume_before": 1.0,
            "style": TaperStyle(days, Shape.STEP, 50).to_raw(),
        }  # fmt: skip
        monday = day - timedelta(days=day.weekday())
        ToldWeek.objects.create(
            athlete=athlete, monday=monday, through=monday + timedelta(days=6), dose={"taper": taper},
            document={"version": 1, "sessions": []},
        )  # fmt: skip


def test_a_taper_that_suits_is_the_next_seasons(coach, athlete: Athlete, season, meets) -> None:
    def style() -> Any:
        return coach.get(f"athletes/{athlete.pk}/season")["season"]["style"]

    before = style()
    assert (before["usual_taper"]["days"], before["usual_taper_because"], before["taper"]) == (12, "", None)
    found = noticed(coach, athlete, "taper")
    assert found["sentence"].startswith("Tapers of 14 days suited better than those of 7")
    assert {e["entry_id"] for e in found["evidence"]} == set(EntryResult.objects.values_list("entry_id", flat=True))
    kept = keep(coach, athlete, found)
    now = style()
    assert now["usual_taper"]["days"] == 14
    assert now["usual_taper_because"] == "14 days, as has suited best: finding of 4 Nov 2026"
    bars = coach.get(f"athletes/{athlete.pk}/season")["season"]
    assert "2027-03-20" in str(bars), "fourteen days before the third of April"
    tapers = coach.ok("POST", f"athletes/{athlete.pk}/taper-bench", {"tapers": []})
    assert tapers["tried"][0]["taper"]["days"] == 14
    withdraw(coach, kept)
    assert style()["usual_taper"]["days"] == 12


def test_what_the_coach_has_chosen_goes_before_it(coach, athlete: Athlete, season, meets) -> None:
    keep(coach, athlete, noticed(coach, athlete, "taper"))
    taper = {"days": 9, "shape": "linear", "depth_pct": 50, "frequency_pct": 100}
    body = {"arrangement": "force_velocity", "loading_weeks": None, "taper": taper, "scope": "athlete"}
    coach.ok("PUT", f"athletes/{athlete.pk}/season/style", body)
    assert coach.get(f"athletes/{athlete.pk}/season")["season"]["style"]["taper"]["days"] == 9


@pytest.mark.parametrize("left_out", ["result", "told"])
def test_five_meets_say_nothing(coach, athlete: Athlete, season, meets, left_out: str) -> None:
    if left_out == "result":
        EntryResult.objects.first().delete()  # type: ignore[union-attr]
    else:
        ToldWeek.objects.filter(athlete=athlete).first().delete()  # type: ignore[union-attr]
    assert not [f for f in coach.get(f"findings/athlete/{athlete.pk}")["findings"] if f["kind"] == "taper"]


@pytest.fixture
def pauses(athlete: Athlete) -> None:
    """Twenty-eight weeks of squats, with pause squats in every second four of them, when the squat rose."""
    kg = 80.0
    for n in range(7):
        ends = TODAY - timedelta(days=28 * (6 - n))
        with_pauses = n % 2 == 0
        if with_pauses:
            kg *= 1.04
            for back in (24, 17, 10, 3):
                day = ends - timedelta(days=back)
                held = TrainingSession.objects.create(athlete=athlete, day=day, key="A", theme="", started_at=f"{day}T10:00:00Z")
                line = SessionLine.objects.create(
                    session=held, order=0, slot="A1", block="A", exercise_id="pause_squat", text="3 × 5", planned=[], role="main"
                )
                SetRecord.objects.create(line=line, kind="work", number=1, load_kg=60, reps=5, done_at=f"{day}T10:05:00Z")
        for back in (12, 1):
            MarkRecord.objects.create(
                athlete=athlete,
                exercise_id="back_squat",
                kind="one_rm",
                day=ends - timedelta(days=back),
                load_kg=round(kg, 1),
                reps=1,
            )


def test_a_variation_that_moved_its_lift_comes_forward_and_says_why(coach, athlete: Athlete, season, pauses) -> None:
    def lines() -> list[Any]:
        weeks = [
            coach.get(f"athletes/{athlete.pk}/week?start={date(2026, 11, 30) + timedelta(weeks=n)}")["week"] for n in range(6)
        ]
        return [x for w in weeks for d in w["days"] if d["sheet"] for x in d["sheet"]["lines"]]

    MarkRecord.objects.filter(athlete=athlete, exercise_id="back_squat", kind="rep_max").delete()
    coach.ok("PUT", f"athletes/{athlete.pk}/week-arrangement", {"arrangement": "concurrent", "days": 4})
    before = [x["exercise_id"] for x in lines()].count("pause_squat")
    found = noticed(coach, athlete, "variation")
    assert "more in four weeks with paused back squat than without" in found["sentence"]
    kept = keep(coach, athlete, found)
    now = [x for x in lines() if x["exercise_id"] == "pause_squat"]
    assert len(now) > before
    assert all("has moved the lift before: finding of" in x["reason"] for x in now)
    withdraw(coach, kept)
    assert [x["exercise_id"] for x in lines()].count("pause_squat") == before


@pytest.fixture
def sprints(athlete: Athlete) -> None:
    """Weeks of starts on one day and thirty metres on the next, and of thirty metres after a day off: slower after the starts."""

    def ran(day: date, exercise_id: str, metres: int, seconds: float | None) -> None:
        held = TrainingSession.objects.create(athlete=athlete, day=day, key="R", theme="", started_at=f"{day}T10:00:00Z")
        line = SessionLine.objects.create(
            session=held, order=0, slot="A1", block="A", exercise_id=exercise_id, text=f"4 × {metres} m",
            planned=[{"metres": metres}] * 4, role="main",
        )  # fmt: skip
        measures = {"time_s": seconds} if seconds is not None else {}
        SetRecord.objects.create(line=line, kind="work", number=1, reps=1, done_at=f"{day}T10:05:00Z", measures=measures)

    for n in range(5):
        day = TODAY - timedelta(days=3 + 7 * n)
        ran(day, "sprint", 30, 4.38 + 0.01 * (n % 2))
        ran(day - timedelta(days=1), "standing_start", 10, None)
        ran(day - timedelta(days=3), "sprint", 30, 4.28 + 0.01 * (n % 2))


def test_a_lead_in_day_that_does_not_suit_holds_no_starts(coach, athlete: Athlete, season, sprints) -> None:
    def first_day() -> Any:
        page = coach.get(f"athletes/{athlete.pk}/week?start=2026-11-30")["week"]
        return next(d["sheet"] for d in page["days"] if d["sheet"])

    coach.ok("PUT", f"athletes/{athlete.pk}/week-arrangement", {"arrangement": "high_low", "days": 4})
    before = first_day()
    assert before["theme"] == "Lead-in, low"
    found = noticed(coach, athlete, "lead_in")
    assert "slower the day after a lead-in day than after a day off" in found["sentence"]
    assert all(e["words"] for e in found["evidence"])
    kept = keep(coach, athlete, found)
    now = first_day()
    assert now["theme"] == "Low, upper body"
    assert "standing_start" not in {x["exercise_id"] for x in now["lines"]}
    assert any("sprints are slower the day after one: finding of" in x["reason"] for x in now["lines"])
    withdraw(coach, kept)
    assert first_day()["theme"] == "Lead-in, low"

"""What bands or chains hang on is no set of the free lift; and the load that was still fast starts the next wave."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

import pytest

from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import Rep, SessionLine, SetRecord, TrainingSession

TODAY = date(2026, 11, 24)


def done(athlete: Athlete, back: int, lift: str, text: str, sets: list[dict[str, Any]], note: str = "") -> SessionLine:
    """A session of one line some days ago; `mps` gives a set a measured repetition."""
    day = TODAY - timedelta(days=back)
    held = TrainingSession.objects.create(athlete=athlete, day=day, key=f"A{back}", theme="", started_at=f"{day}T10:00:00Z")
    line = SessionLine.objects.create(
        session=held, order=0, slot="A1", block="A", exercise_id=lift, text=text, note=note, planned=[], role="main"
    )
    for n, item in enumerate(sets, start=1):
        mps = item.pop("mps", None)
        SetRecord.objects.create(line=line, kind="work", number=n, done_at=f"{day}T10:05:00Z", **item)
        if mps is not None:
            Rep.objects.create(
                line=line, kind="work", set_number=n, number=1, load_kg=item["load_kg"], mean_mps=mps, start_s=0.0,
                mean_propulsive_mps=mps, peak_mps=mps * 1.5, time_to_peak_s=0.3, range_m=0.5,
            )  # fmt: skip
    return line


def lift(coach: Any, athlete: Athlete, exercise_id: str = "back_squat") -> Any:
    return next(x for x in coach.get(f"athletes/{athlete.pk}")["lifts"] if x["exercise_id"] == exercise_id)


class TestMax:
    @pytest.mark.parametrize(
        ("text", "note"), [("3 × 3 @ 60 % + 20 kg chains, 1 in reserve", ""), ("3 × 3 @ top RPE 9", "chains added")]
    )
    def test_sets_with_something_on_the_bar_do_not_lower_it(self, coach, athlete: Athlete, text: str, note: str) -> None:
        before = lift(coach, athlete)
        done(athlete, 2, "back_squat", text, [{"load_kg": 80, "reps": 3, "rir": 1} for _ in range(3)], note)
        assert lift(coach, athlete)["max_kg"] == pytest.approx(before["max_kg"], abs=0.05)

    def test_the_same_sets_of_the_free_lift_do(self, coach, athlete: Athlete) -> None:
        before = lift(coach, athlete)
        done(athlete, 2, "back_squat", "3 × 3, 1 in reserve", [{"load_kg": 80, "reps": 3, "rir": 1} for _ in range(3)])
        assert lift(coach, athlete)["max_kg"] < before["max_kg"] - 0.5

    def test_what_was_lifted_with_chains_is_the_least_the_free_lift_is(self, coach, athlete: Athlete) -> None:
        before = lift(coach, athlete)
        done(athlete, 2, "back_squat", "1 × 3 @ 93 % + 20 kg chains", [{"load_kg": 90, "reps": 3}])
        assert lift(coach, athlete)["max_kg"] > before["max_kg"]

    def test_a_bar_held_from_above_raises_nothing(self, coach, athlete: Athlete) -> None:
        before = lift(coach, athlete)
        done(athlete, 2, "back_squat", "1 × 1 @ 110 % − 20 kg reverse bands", [{"load_kg": 140, "reps": 1, "rir": 0}])
        assert lift(coach, athlete) == before


def test_velocities_with_bands_are_none_of_the_free_line(coach, athlete: Athlete) -> None:
    for back in (2, 5, 8):
        done(athlete, back, "back_squat", "3 × 3 @ 60 % + 25 % bands",
             [{"load_kg": kg, "reps": 3, "mps": 1.2 - 0.011 * kg} for kg in (40, 55, 70)])  # fmt: skip
    assert lift(coach, athlete)["profile"] is None
    for back in (3, 6, 9):
        done(athlete, back, "back_squat", "3 × 3 @ 60 %",
             [{"load_kg": kg, "reps": 3, "mps": 1.5 - 0.011 * kg} for kg in (40, 55, 70)])  # fmt: skip
    assert lift(coach, athlete)["profile"]["intercept_mps"] == pytest.approx(1.5, abs=0.01)


def test_the_next_wave_starts_where_the_last_was_still_fast(coach, athlete: Athlete, season) -> None:
    def loads() -> list[tuple[str, str]]:
        weeks = [
            coach.get(f"athletes/{athlete.pk}/week?start={date(2026, 11, 30) + timedelta(weeks=n)}")["week"] for n in range(3)
        ]
        lines = [x for w in weeks for d in w["days"] if d["sheet"] for x in d["sheet"]["lines"]]
        return [(x["text"], x["reason"]) for x in lines if x["reason"].startswith("speed squat first")]

    coach.ok("PUT", f"athletes/{athlete.pk}/week-arrangement", {"arrangement": "concurrent", "days": 4})
    before = loads()
    max_kg = lift(coach, athlete)["max_kg"]
    for back, pct, mps in ((20, 30, 0.92), (13, 36, 0.84), (6, 40, 0.7)):
        kg = round(max_kg * pct / 100, 1)
        done(athlete, back, "speed_squat", f"9 × 2 @ {pct} % + 25 % bands", [{"load_kg": kg, "reps": 2, "mps": mps}])
    page = coach.get(f"findings/athlete/{athlete.pk}")["findings"]
    (found,) = [f for f in page if f["kind"] == "fast"]
    assert "Fast back squat was still fast at 36 % of the max" in found["sentence"]
    kept = coach.ok("POST", f"athletes/{athlete.pk}/noticed", {"ref": found["ref"], "keep": True})
    now = loads()
    assert now != before
    assert all("starts at 36 %, the last wave was still fast at 36 %: finding of " in reason for _, reason in now)
    assert {text.split("@ ")[1].split(" %")[0] for text, _ in now} <= {"36", "38", "40", "51", "53", "55"}
    (kept,) = [f for f in kept["findings"] if f["kind"] == "fast"]
    coach.ok("POST", f"finding/{kept['id']}/answer", {"state": "withdrawn", "reason": "not any more"})
    assert loads() == before

"""A run is typed by its splits, kept as marks, and read as a curve on the athlete's standing."""

from __future__ import annotations

import pytest

from jarvok.app.facts.athletes.models import BodyMass, MarkRecord

pytestmark = pytest.mark.django_db
RUN = {"day": "2026-11-20", "text": "10 1.94, 20 3.24, 30 4.43, 40 5.60"}


def test_a_run_is_kept_and_drawn(coach, athlete) -> None:
    assert coach.get(f"athletes/{athlete.pk}/standing")["sprint"] is None
    found = coach.ok("POST", f"athletes/{athlete.pk}/splits", RUN)["sprint"]
    assert (found["day"], found["is_sure"]) == ("2026-11-20", True)
    assert 8.2 < found["vmax_mps"] < 8.7
    assert all(abs(s["time_s"] - s["curve_s"]) <= 0.03 for s in found["splits"])
    assert found["curve"][-1]["distance_m"] == pytest.approx(40, abs=0.3)
    assert "without the air" in found["words"] or athlete.masses.exists()
    assert MarkRecord.objects.filter(athlete=athlete, kind="sprint").count() == 4

    BodyMass.objects.create(athlete=athlete, day="2026-11-01", mass_kg=62)
    athlete.height_cm = 171
    athlete.save()
    aired = coach.get(f"athletes/{athlete.pk}/standing")["sprint"]
    assert "with the air" in aired["words"]
    assert aired["power_w_per_kg"] > found["power_w_per_kg"]


def test_the_newest_day_with_a_run_counts_and_a_withdrawn_split_does_not(coach, athlete) -> None:
    coach.ok("POST", f"athletes/{athlete.pk}/splits", RUN)
    newer = coach.ok("POST", f"athletes/{athlete.pk}/splits", {"day": "2026-11-22", "text": "10 2.0, 20 3.4, 30 4.7"})["sprint"]
    assert newer["day"] == "2026-11-22"
    last = MarkRecord.objects.filter(athlete=athlete, day="2026-11-22").first()
    coach.ok("POST", f"marks/{last.pk}/withdraw")
    assert coach.get(f"athletes/{athlete.pk}/standing")["sprint"]["day"] == "2026-11-20", "two splits are no curve"


@pytest.mark.parametrize("text", ["10 1.94, 20 3.24", "10 1.94, 20 one, 30 4", "10 1.9, 20 1.5, 30 4", ""])
def test_what_is_no_run_is_refused_in_words_and_nothing_is_kept(coach, athlete, text: str) -> None:
    answer = coach.send("POST", f"athletes/{athlete.pk}/splits", {"day": "2026-11-20", "text": text})
    assert answer.status_code == 422
    assert answer.json()["accepted"]
    assert not MarkRecord.objects.filter(athlete=athlete, kind="sprint").exists()


def test_a_day_ahead_is_refused(coach, athlete) -> None:
    assert coach.send("POST", f"athletes/{athlete.pk}/splits", {**RUN, "day": "2027-11-20"}).status_code == 422

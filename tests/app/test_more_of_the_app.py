"""Smaller promises of the application, one each."""

from __future__ import annotations

import json
import subprocess
import sys
from datetime import date, timedelta
from pathlib import Path

import pytest
from django.test import Client
from django.urls import reverse  # noqa: F401  # proves the address table loads

from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.athletes.models import Athlete, BodyMass
from jarvok.app.facts.floor.models import SensorStream, SessionLine, TrainingSession
from jarvok.app.facts.seasons.models import Change
from jarvok.app.floor import simulate, streams
from jarvok.core.library.exercises import exercise

pytestmark = pytest.mark.django_db
ROOT = Path(__file__).resolve().parents[2]


def test_the_page_answers_every_address_but_the_api(client: Client, settings, tmp_path) -> None:
    (tmp_path / "index.html").write_text("<div id=root></div>")
    settings.WEB_DIST = tmp_path
    for path in ("/", "/athletes/3/season", "/floor/1"):
        response = client.get(path)
        assert response.status_code == 200
        assert response["Cache-Control"] == "no-cache"
    assert client.get("/api/nowhere").status_code == 404


def test_unbuilt_pages_say_what_to_do(client: Client, settings, tmp_path) -> None:
    settings.WEB_DIST = tmp_path / "missing"
    response = client.get("/")
    assert response.status_code == 503
    assert b"make demo" in response.content


def test_security_headers(coach) -> None:
    response = coach.client.get("/api/me")
    assert response["X-Frame-Options"] == "DENY"
    assert response["X-Content-Type-Options"] == "nosniff"
    assert response["Referrer-Policy"] == "same-origin"


@pytest.mark.parametrize(
    ("mass", "said"), [(61.5, "0.5 kg under the limit."), (62.4, "0.4 kg over the limit."), (66, "licensed professionals")]
)
def test_body_mass_class_warns_and_never_plans_a_cut(coach, athlete, mass: float, said: str) -> None:
    BodyMass.objects.create(athlete=athlete, day="2026-11-20", mass_kg=mass)
    note = next(n for n in coach.get(f"athletes/{athlete.pk}")["margin"] if n["id"] == "class")
    assert said in note["text"]
    assert note["decision"] == (mass == 66)


@pytest.mark.parametrize(("born", "age", "minor"), [(date(2008, 11, 25), 17, True), (date(2008, 11, 24), 18, False)])
def test_a_minor_is_marked_until_the_eighteenth_birthday(coach, athlete, born: date, age: int, minor: bool) -> None:
    athlete.birth_date = born
    athlete.save()
    seen = coach.get(f"athletes/{athlete.pk}")
    assert seen["age"] == age
    assert any(n["id"] == "minor" for n in seen["margin"]) == minor
    assert any(k["id"] == "one_rm" for k in seen["kind_choices"]) == (not minor)


@pytest.mark.parametrize(("years", "novice"), [(0.9, True), (1.0, False)])
def test_the_first_year_of_lifting_is_said(coach, athlete, years: float, novice: bool) -> None:
    athlete.training_age_years = years
    athlete.save()
    assert any(n["id"] == "novice" for n in coach.get(f"athletes/{athlete.pk}")["margin"]) == novice


def test_history_of_changes_is_kept_when_undone(coach, season) -> None:
    coach.ok("PATCH", f"competitions/{season['competitions'][0]['id']}", {"name": "Renamed Open"})
    coach.ok("POST", f"athletes/{season['athlete_id']}/season/undo")
    change = Change.objects.first()
    assert change.undone_at is not None
    assert [c["name"] for c in change.before["competitions"]] == ["Test Open"]
    assert [c["name"] for c in change.after["competitions"]] == ["Renamed Open"]


def test_nothing_changes_when_nothing_is_asked(coach, season) -> None:
    coach.ok("PATCH", f"competitions/{season['competitions'][0]['id']}", {})
    assert Change.objects.count() == 1, "only the adding of the competition"


def test_a_session_that_was_started_keeps_its_lines_and_its_day(coach, athlete, floor, sheet) -> None:
    path = f"athletes/{athlete.pk}/sessions/{sheet['day']}/A"
    assert coach.send("PUT", f"{path}/lines/A1", {"text": "3x3 @ 80 %"}).status_code == 409
    assert coach.send("PUT", f"{path}/day", {"day": "2026-12-05"}).status_code == 409
    shown = coach.get(path)
    assert shown["state"] == "started"
    assert shown["session_id"] == floor["id"]


def test_an_edit_whose_exercise_has_gone_is_kept_and_said(coach, athlete, season) -> None:
    """The base grows over a day whose line was typed for the speed phase: the text stays, unused."""
    plan = {p["key"]: p for p in season["phases"]}
    monday = plan["strength_speed"]["start"]
    week = coach.get(f"athletes/{athlete.pk}/week?start={monday}")["week"]
    day = next(d["day"] for d in week["days"] if d["sheet"] and d["sheet"]["key"] == "A")
    coach.ok("PUT", f"athletes/{athlete.pk}/sessions/{day}/A/lines/A1", {"text": "6x2 @ 0.80 m/s"})
    lengths = {"base": plan["base"]["weeks"] + 1, "strength_speed": plan["strength_speed"]["weeks"] - 1}
    coach.ok("PUT", f"competitions/{season['competitions'][0]['id']}/phases", {"weeks": lengths})
    sheet = coach.get(f"athletes/{athlete.pk}/sessions/{day}/A")
    assert next(x for x in sheet["lines"] if x["slot"] == "A1")["edited"] is False
    assert any("6 × 2 @ 0.80 m/s" in n["text"] for n in sheet["notes"])


def test_done_work_shows_on_the_season(coach, athlete, season, floor) -> None:
    line = next(x for x in floor["lines"] if x["slot"] == "A1")
    for number in (1, 2):
        body = {"line_id": line["id"], "kind": "work", "number": number, "load_kg": 90, "reps": 5}
        coach.ok("POST", f"floor/sessions/{floor['id']}/sets", body)
    weeks = coach.get(f"athletes/{athlete.pk}/season")["season"]["weeks"]
    week = next(w for w in weeks if w["start"] == "2026-11-30")
    main = SessionLine.objects.filter(session_id=floor["id"], role__in=("main", "fast"))
    sets = sum(len(line.planned) for line in main)
    assert 0 < sets <= week["main_sets"]
    assert week["done_share"] == pytest.approx(2 / sets, abs=0.01)  # the main sets of the session that was begun


def test_today_lists_the_running_session(coach, athlete, season) -> None:
    week = coach.get(f"athletes/{athlete.pk}/week")["week"]
    day = next(d for d in week["days"] if d["sheet"] and d["day"] >= "2026-11-24")
    coach.ok("POST", "floor/sessions", {"athlete_id": athlete.pk, "day": day["day"], "key": day["sheet"]["key"]})
    today = coach.get("today")
    assert "started" in {p["state"] for s in today["shared"] for p in s["people"]} or today["later"]


def test_the_order_of_the_floor_is_warm_up_then_work(coach, floor) -> None:
    line = next(x for x in floor["lines"] if x["slot"] == "A1")
    warm_up = [x for x in floor["lines"] if x["slot"].startswith("P")]
    for first, item in [(x, item) for x in warm_up for item in x["sets"]]:
        body = {"line_id": first["id"], "kind": "work", "number": item["number"], "reps": 4}
        after = coach.ok("POST", f"floor/sessions/{floor['id']}/sets", body)
    assert after["current"] == {"line_id": line["id"], "kind": "ramp", "number": 1}
    body = {"line_id": line["id"], "kind": "work", "number": 1, "load_kg": 90, "reps": 5}
    after = coach.ok("POST", f"floor/sessions/{floor['id']}/sets", body)  # straight to work: the rest of the ramp is passed
    other = next(x for x in floor["lines"] if x["slot"] == "A2")
    assert after["current"] == {"line_id": other["id"], "kind": "ramp", "number": 1}  # the other of the pair warms up
    for item in other["sets"][: len([s for s in other["sets"] if s["kind"] == "ramp"]) + 1]:
        body = {"line_id": other["id"], "kind": item["kind"], "number": item["number"], "load_kg": 40, "reps": 5}
        after = coach.ok("POST", f"floor/sessions/{floor['id']}/sets", body)
    assert after["current"] == {"line_id": line["id"], "kind": "work", "number": 2}  # and then they alternate


def test_the_simulated_sensor_belongs_to_the_demo(coach, floor) -> None:
    line = next(x for x in floor["lines"] if x["slot"] == "A1")
    assert line["can_simulate"] is False
    body = {"line_id": line["id"], "kind": "work", "number": 1}
    refused = coach.send("POST", f"floor/sessions/{floor['id']}/simulate", body)
    assert refused.status_code == 422
    assert "belongs to the demo" in refused.json()["title"]
    assert not SensorStream.objects.exists()


def test_the_simulated_sensor_is_a_process_of_its_own(coach, athlete, floor, monkeypatch, settings) -> None:
    settings.LOCAL_DEMO = True
    started: list[list[str]] = []
    orders: list[dict] = []

    class Process:
        def __init__(self, command, **options) -> None:
            started.append(command)
            self.stdin = self

        def write(self, data: bytes) -> None:
            orders.append(json.loads(data))

        def close(self) -> None:
            pass

    monkeypatch.setattr(subprocess, "Popen", Process)
    line = next(x for x in floor["lines"] if x["slot"] == "A1")
    body = {"line_id": line["id"], "kind": "work", "number": 1}
    answer = coach.ok("POST", f"floor/sessions/{floor['id']}/simulate", body)
    assert started == [[sys.executable, "-m", "jarvok.sensors"]]
    assert orders[0]["url"].endswith(answer["path"])
    assert len(orders[0]["velocities_mps"]) == 5
    assert SensorStream.objects.get().simulated is True


def test_hidden_strength_is_read_from_the_demo_or_made_around_the_max(athlete) -> None:
    session = TrainingSession(athlete=athlete, day=date(2026, 11, 24), key="A")
    lift = exercise("trap_bar_deadlift")
    assert simulate.hidden_strength(session, lift).one_rm_kg == pytest.approx(120)
    athlete.simulated = {"lifts": {"trap_bar_deadlift": {"one_rm_kg": 133, "max_mps": 0.2, "light_mps": 0.9}}}
    assert simulate.hidden_strength(session, lift).one_rm_kg == 133


def test_closing_an_unknown_stream_is_quiet(db) -> None:
    streams.close("no-such-stream", 0.0)


def test_the_book_leaves_one_session_out_when_asked(coach, athlete, floor) -> None:
    line = next(x for x in floor["lines"] if x["slot"] == "A1")
    body = {"line_id": line["id"], "kind": "work", "number": 1, "load_kg": 105, "reps": 4, "rir": 2}
    coach.ok("POST", f"floor/sessions/{floor['id']}/sets", body)
    later = date(2026, 12, 6)
    with_it = LiftBook([athlete], later).max(athlete.pk, "trap_bar_deadlift")
    without = LiftBook([athlete], later, without_session=floor["id"]).max(athlete.pk, "trap_bar_deadlift")
    assert with_it is not None
    assert without is not None
    assert {e.mark.ref[:4] for e in with_it.evidence} == {"mark", "set:"}
    assert {e.mark.ref[:4] for e in without.evidence} == {"mark"}


def test_marks_of_the_future_do_not_count_yet(athlete) -> None:
    early = LiftBook([athlete], date(2026, 10, 1))
    assert early.max(athlete.pk, "trap_bar_deadlift") is None
    assert early.lifts_of(athlete.pk) == []


def test_old_velocities_drop_out_of_the_profile(athlete) -> None:
    assert LiftBook([athlete], date(2026, 11, 24) + timedelta(days=400)).profile(athlete.pk, "trap_bar_deadlift") is None


def test_no_lock_or_settings_file_names_a_download_address() -> None:
    for name in ("requirements.txt", "requirements-dev.txt", "web/package-lock.json", "web/.npmrc"):
        text = (ROOT / name).read_text()
        assert "--index-url" not in text
        assert '"resolved":' not in text
        assert (
            "://" not in text.replace("https://opencollective", "").replace("https://github.com/sponsors", "") or "lock" in name
        )


def test_athletes_of_other_squads_keep_their_own_practice(coach, athlete, season) -> None:
    other = Athlete.objects.create(squad=athlete.squad, name="Second Test")
    assert coach.get(f"athletes/{other.pk}")["practices"] == coach.get(f"athletes/{athlete.pk}")["practices"]

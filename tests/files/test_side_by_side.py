"""Two do the same at the same moment, each about to store it when the other comes: one wins, the other is told."""

from __future__ import annotations

import json
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest
from support.demo_file import ROOT, copy_demo, environment

# a process of its own on a file, as in a centre: two threads with a connection each, and a pause before every commit
SIDE_BY_SIDE = """
import json, sys, threading, time, uuid
import django
django.setup()
from django.conf import settings
from django.test import Client
from jarvok.app import acts
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import SetRecord, TrainingSession
from jarvok.app.facts.training.models import OwnExercise
settings.ALLOWED_HOSTS = ["*"]
clients = [Client(), Client()]
for c in clients:
    c.get("/api/me")

def send(c, path, body, key=None, method="post"):
    key = key or uuid.uuid4().hex
    return getattr(c, method)("/api/" + path, json.dumps(body), content_type="application/json", HTTP_IDEMPOTENCY_KEY=key)

def both(path, bodies, keys=(None, None), method="post"):
    found = [None, None]
    def go(i):
        found[i] = send(clients[i], path, bodies[i], keys[i], method)
    raised = acts._raise_versions
    def slowly(*given):
        raised(*given)
        time.sleep(0.4)
    acts._raise_versions = slowly
    threads = [threading.Thread(target=go, args=(i,)) for i in (0, 1)]
    [t.start() for t in threads]; [t.join() for t in threads]
    acts._raise_versions = raised
    return sorted((r.status_code, r.json().get("id"), r.json().get("title", "")) for r in found)

athlete, place = None, None
for athlete in Athlete.objects.all():
    week = clients[0].get(f"/api/athletes/{athlete.pk}/week?start=2026-11-23").json().get("week")
    places = [d["sheet"] for d in week["days"] if d["sheet"]] if week else []
    if places and not TrainingSession.objects.filter(athlete=athlete, day=places[-1]["day"]).exists():
        place = places[-1]
        break
out = {}
start = {"athlete_id": athlete.pk, "day": place["day"], "key": place["key"]}
out["starting"] = both("floor/sessions", [start, start])
out["sessions"] = TrainingSession.objects.filter(athlete=athlete, day=place["day"]).count()
sid = out["starting"][0][1]
floor = clients[0].get(f"/api/floor/sessions/{sid}").json()
first = {**floor["current"], "load_kg": None, "reps": 3}
out["two words on one set"] = both(f"floor/sessions/{sid}/sets", [first, {**first, "reps": 4}])
out["stored"] = list(SetRecord.objects.filter(line__session_id=sid, taken_back_at=None).values_list("reps", flat=True))
out["undone by both"] = both(f"floor/sessions/{sid}/undo", [{}, {}])
key = uuid.uuid4().hex
out["one word sent twice"] = both(f"floor/sessions/{sid}/sets", [first, first], (key, key))
out["stored once"] = SetRecord.objects.filter(line__session_id=sid, taken_back_at=None).count()
body = json.loads(sys.argv[1])
from jarvok.app.facts.writing import as_it_stands
with as_it_stands():
    done, _ = [], SetRecord.objects.count()  # what stands is settled with the first that is read
    t = threading.Thread(target=lambda: done.append(send(clients[0], f"floor/sessions/{sid}/undo", {}).status_code))
    t.start(); t.join()
    out["while all is read"] = done[0]
    inside = SetRecord.objects.filter(line__session_id=sid, taken_back_at=None).count()
out["read before and after"] = [inside, SetRecord.objects.filter(line__session_id=sid, taken_back_at=None).count()]
out["two own exercises of one name"] = both("library", [body, body])
out["ids"] = sorted(set(OwnExercise.objects.filter(data__name=body["name"]).values_list("exercise_id", flat=True)))
print(json.dumps(out))
"""
SLED = {
    "name": "Sled around the harbour", "pattern": "carry", "region": "lower", "cost": "middle", "kind": "conditioning",
    "implement": "none", "needs": [], "cue": "Stay low", "per_side": False, "velocity": "mean", "seconds_per_rep": 3,
}  # fmt: skip


@pytest.fixture(scope="module")
def found(tmp_path_factory: pytest.TempPathFactory) -> dict[str, Any]:
    folder: Path = tmp_path_factory.mktemp("side_by_side")
    copy_demo(folder)
    run = subprocess.run(
        [sys.executable, "-c", SIDE_BY_SIDE, json.dumps(SLED)], cwd=ROOT, check=False, capture_output=True, text=True,
        env=environment(folder) | {"DJANGO_SETTINGS_MODULE": "jarvok.app.settings"},
    )  # fmt: skip
    assert run.returncode == 0, run.stderr[-3000:]
    told: dict[str, Any] = json.loads(run.stdout.splitlines()[-1])
    return told


def test_a_session_that_two_start_is_one(found: dict[str, Any]) -> None:
    assert [status for status, _, _ in found["starting"]] == [200, 200]
    assert found["starting"][0][1] == found["starting"][1][1]
    assert found["sessions"] == 1


def test_of_two_words_on_one_set_one_stands_and_the_other_is_told(found: dict[str, Any]) -> None:
    (won, _, _), (lost, _, words) = found["two words on one set"]
    assert (won, lost) == (200, 409)
    assert words.startswith("Already logged")
    assert len(found["stored"]) == 1


def test_of_two_undos_of_one_set_one_takes_it_back(found: dict[str, Any]) -> None:
    (won, _, _), (lost, _, words) = found["undone by both"]
    assert (won, lost, words) == (200, 409, "Nothing has been logged yet.")


def test_a_word_sent_twice_at_once_is_stored_once_and_answered_twice(found: dict[str, Any]) -> None:
    assert [status for status, _, _ in found["one word sent twice"]] == [200, 200]
    assert found["stored once"] == 1


def test_who_reads_everything_keeps_nobody_from_writing_and_sees_nothing_of_it(found: dict[str, Any]) -> None:
    assert found["while all is read"] == 200
    assert found["read before and after"] == [1, 0]


def test_of_two_own_exercises_of_one_name_one_is_kept_and_the_other_told(found: dict[str, Any]) -> None:
    (won, _, _), (lost, _, words) = found["two own exercises of one name"]
    assert (won, lost, len(found["ids"])) == (200, 422, 1)
    assert words.endswith("is in the library already.")

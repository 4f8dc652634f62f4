"""Looking at something changes nothing: no reading of any address writes a row."""

from __future__ import annotations

import json
import re
from pathlib import Path
from typing import Any

import pytest
from conftest import Coach
from django.db import connection
from support.streamed import collected

from jarvok.app.accounts import seen
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.people.models import SignedIn

ROOT = Path(__file__).resolve().parents[2]
DOCUMENT = json.loads((ROOT / "docs" / "openapi.json").read_text())
READS = sorted(path for path, item in DOCUMENT["paths"].items() if "get" in item)
OUT = [
    "/api/export/athletes.csv", "/api/export/athletes.xlsx", "/api/export/tables/sets.csv", "/api/export/centre.zip",
    "/api/export/athletes/{athlete_id}.json", "/api/export/athletes/{athlete_id}/calendar.ics",
    "/api/export/athletes/{athlete_id}/file.pdf", "/api/export/athletes/{athlete_id}/sessions/{day}/{key}/wall.pdf",
]  # fmt: skip
WRITES = re.compile(r"^\s*(INSERT|UPDATE|DELETE|REPLACE|CREATE|DROP|ALTER)\b", re.IGNORECASE)


@pytest.fixture
def there(coach: Coach, athlete: Athlete, sheet: Any, settings) -> dict[str, object]:
    settings.TODAY = sheet["day"]
    begin = {"athlete_id": athlete.pk, "day": sheet["day"], "key": "A", "as_today": False}
    session = coach.ok("POST", "floor/sessions", begin)
    room = coach.ok("POST", "room", {"squad_id": athlete.squad_id})
    return {
        "athlete_id": athlete.pk, "squad_id": athlete.squad_id, "session_id": session["id"], "room_id": room["id"], "rack": 1,
        "day": sheet["day"], "key": "A", "line": "A1", "line_id": session["lines"][0]["id"], "exercise_id": "back_squat",
        "start": sheet["day"], "whose": "athletes", "pk": athlete.pk, "name": "x", "token": "x" * 20, "month": "2026-12",
    }  # fmt: skip


def test_no_reading_writes(coach: Coach, there: dict[str, object]) -> None:
    written: list[str] = []
    answered = 0

    def watched(execute, sql, params, many, context):
        if WRITES.match(sql):
            written.append(f"{path}: {sql[:80]}")
        return execute(sql, params, many, context)

    with connection.execute_wrapper(watched):
        for raw in (*READS, *OUT):
            path = re.sub(r"\{(\w+)\}", lambda m: str(there.get(m[1], 1)), raw)
            answer = coach.client.get(path)
            assert answer.status_code < 500, path
            if answer.streaming and answer.status_code == 200 and answer["Content-Type"] != "text/event-stream":
                collected(answer)
            answered += answer.status_code == 200
    assert written == []
    assert answered > len(READS) // 2, "most of them must have been answered"


def test_when_a_sign_in_was_last_heard_of_is_written_with_the_next_change(
    coach: Coach, athlete: Athlete, monkeypatch: pytest.MonkeyPatch
) -> None:
    row = SignedIn.objects.get()
    SignedIn.objects.update(seen_at=None)
    coach.get("athletes")
    assert SignedIn.objects.get().seen_at is None
    seen.write_down()  # not due
    assert SignedIn.objects.get().seen_at is None
    monkeypatch.setattr(seen, "EVERY_S", 0)
    coach.ok("PUT", "upkeep/days", {"days": 20})
    assert SignedIn.objects.get(pk=row.pk).seen_at is not None

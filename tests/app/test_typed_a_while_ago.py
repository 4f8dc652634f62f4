"""A set that waited on a device without a network was done when it was typed, not when it came."""

from __future__ import annotations

import json
import uuid
from datetime import timedelta
from typing import Any

import pytest
from conftest import Coach
from django.utils import timezone

from jarvok.app.facts.floor.models import SetRecord, TrainingSession
from jarvok.app.facts.people.models import Act

HOUR_MS = 3_600_000


def log(coach: Coach, floor: Any, number: int, waited: object) -> SetRecord:
    line = next(x for x in floor["lines"] if any(s["kind"] == "work" for s in x["sets"]))
    body = json.dumps({"line_id": line["id"], "kind": "work", "number": number, "reps": 4, "load_kg": 40, "confirm": True})
    headers = {"Idempotency-Key": uuid.uuid4().hex, "Jarvok-Waited-Ms": str(waited)}
    path = f"/api/floor/sessions/{floor['id']}/sets"
    answer = coach.client.post(path, body, content_type="application/json", headers=headers)
    assert answer.status_code == 200, answer.content
    return SetRecord.objects.get(line_id=line["id"], kind="work", number=number)


@pytest.fixture
def begun(floor: Any) -> Any:
    """A session that began a day ago, so that nothing typed lies before it."""
    TrainingSession.objects.filter(pk=floor["id"]).update(started_at=timezone.now() - timedelta(hours=24))
    return floor


@pytest.mark.parametrize(
    ("waited_ms", "ago_s"),
    [
        (0, 0),
        (600_000, 600),
        (12 * HOUR_MS, 43_200),
        (12 * HOUR_MS + 1000, 0),
        ("", 0),
        ("soon", 0),
        (-600_000, 0),
        ("9" * 30, 0),
    ],
)
def test_it_is_stored_as_of_then(coach: Coach, begun: Any, waited_ms: object, ago_s: float) -> None:
    record = log(coach, begun, 1, waited_ms)
    assert (timezone.now() - record.done_at).total_seconds() == pytest.approx(ago_s, abs=5)
    act = Act.objects.get(pk=record.act_id)
    assert (timezone.now() - act.at).total_seconds() == pytest.approx(ago_s, abs=5)


def test_sets_that_come_at_once_keep_the_rest_between_them(coach: Coach, begun: Any) -> None:
    first, second = log(coach, begun, 1, 400_000), log(coach, begun, 2, 200_000)
    assert (second.done_at - first.done_at).total_seconds() == pytest.approx(200, abs=5)


def test_nothing_was_done_before_its_session_began(coach: Coach, floor: Any) -> None:
    session = TrainingSession.objects.get(pk=floor["id"])
    assert log(coach, floor, 1, 5 * HOUR_MS).done_at == session.started_at


def test_whoever_comes_by_a_link_gains_no_time_by_it(coach: Coach, floor: Any) -> None:
    """How long a write has waited moves what is stored, and no end of a link or of a sign-in."""
    from jarvok.app import clock
    from jarvok.app.once import waited

    token = waited.set(timedelta(hours=3))
    try:
        assert abs((clock.now() - timezone.now()).total_seconds()) < 5
    finally:
        waited.reset(token)

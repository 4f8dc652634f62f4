"""Who waits for whom where several write at once in PostgreSQL, and what a page hears of it.

Each writer pauses before it is through.
"""

from __future__ import annotations

import json
from typing import Any

import pytest
from support.two_processes import shell

PAUSE_S = 0.8
TURNS = """
import json, threading, time
from datetime import date, datetime, timezone
from django.db import connection
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.facts.writing import writing
from jarvok.app.floor.events import events_after, newest_events, tell

def session(athlete):
    now = datetime.now(timezone.utc)
    return TrainingSession.objects.create(athlete=athlete, day=date(2026, 11, 19), key="Z", theme="turns", started_at=now)

one, other = [session(a) for a in Athlete.objects.all()[:2]]
both = [one.pk, other.pk]

def write(of, told, pause_s, out):
    began = time.monotonic()
    with writing(of=of):
        out["entered"] = time.monotonic()
        out["waited_s"] = out["entered"] - began
        out["event"] = tell(told, "changed", {{"line_id": None}}).pk
        out["inside"].set()
        time.sleep(pause_s)
        out["ends"] = time.monotonic()  # what has gone through is known to others before it is known here
    out["through"] = time.monotonic()
    connection.close()

def after_another(first, second, look=lambda: None):
    outs = []
    seen = None
    for n, (of, told, pause_s) in enumerate((first, second)):
        outs.append({{"inside": threading.Event()}})
        outs[n]["thread"] = threading.Thread(target=write, args=(of, told, pause_s, outs[n]))
        outs[n]["thread"].start()
        if n == 0:
            outs[0]["inside"].wait(5)
    outs[1]["thread"].join()
    seen = look()
    outs[0]["thread"].join()
    return {{
        "waited_s": outs[1]["waited_s"], "events": [o["event"] for o in outs],
        "second_first": outs[1]["through"] < outs[0]["ends"], "second_after": outs[1]["entered"] > outs[0]["ends"], "seen": seen,
    }}

pause = {pause}
found = {{}}
heard = newest_events(both)
def look():
    told = events_after(both, heard)
    heard.update({{e.session_id: e.pk for e in told}})
    return [e.pk for e in told]
found["two athletes"] = after_another((one.athlete_id, one, pause), (other.athlete_id, other, 0), look)
found["then heard"] = look()
found["one athlete"] = after_another((one.athlete_id, one, pause), (one.athlete_id, one, 0), look)
found["one, then anybody"] = after_another((one.athlete_id, one, pause), (None, other, 0))
found["anybody, then one"] = after_another((None, other, pause), (one.athlete_id, one, 0))
with writing(of=one.athlete_id):
    found["a further athlete"] = after_another((other.athlete_id, other, 0), (other.athlete_id, other, 0))["waited_s"]
TrainingSession.objects.filter(pk__in=both).delete()
print(json.dumps(found))
"""


@pytest.fixture(scope="module")
def found(moved) -> dict[str, Any]:
    env, _, _ = moved
    told: dict[str, Any] = json.loads(shell(env, TURNS.format(pause=PAUSE_S)).splitlines()[-1])
    return told


def test_sets_of_two_athletes_wait_for_nobody(found: dict[str, Any]) -> None:
    both = found["two athletes"]
    assert both["second_first"]
    assert both["waited_s"] < PAUSE_S / 2


def test_an_event_that_goes_through_after_a_later_one_of_another_session_is_heard_too(found: dict[str, Any]) -> None:
    first, second = found["two athletes"]["events"]
    assert first < second, "numbered before it, and through after it"
    assert found["two athletes"]["seen"] == [second]
    assert found["then heard"] == [first]


def test_writes_of_one_athlete_wait_for_one_another_and_are_numbered_as_they_go_through(found: dict[str, Any]) -> None:
    one = found["one athlete"]
    assert one["second_after"]
    assert one["waited_s"] > PAUSE_S / 2
    assert one["seen"] == sorted(one["events"])


@pytest.mark.parametrize("turns", ["one, then anybody", "anybody, then one"])
def test_what_may_touch_anybody_waits_and_is_waited_for(found: dict[str, Any], turns: str) -> None:
    assert found[turns]["waited_s"] > PAUSE_S / 2
    assert found[turns]["second_after"]


def test_a_write_of_one_athlete_keeps_out_nobody_else(found: dict[str, Any]) -> None:
    assert found["a further athlete"] < PAUSE_S / 2


PLANNED = """
from django.db import connection
from jarvok.app.athletes.kept_known import stamps_of
from jarvok.app.facts.athletes.models import Athlete

pk = Athlete.objects.values_list("pk", flat=True).first()
for _ in range({times}):
    stamps_of([pk])
with connection.cursor() as cursor:
    cursor.execute("SELECT count(*) FROM pg_prepared_statements WHERE statement LIKE %s", ["%%plan_version%%"])
    print("planned once:", cursor.fetchone()[0])
"""


@pytest.mark.parametrize(("times", "planned"), [(5, 0), (6, 1)])
def test_what_is_asked_again_and_again_is_planned_once(moved: Any, times: int, planned: int) -> None:
    """To plan a question takes several times as long as to answer it."""
    assert f"planned once: {planned}" in shell(moved[0], PLANNED.format(times=times))

"""A server killed at random moments under load, a full disk, a locked database: nothing acknowledged is lost."""

from __future__ import annotations

import http.client
import json
import os
import random
import sqlite3
import threading
import time
import uuid

import pytest

from .conftest import Server, demo_server

KILLS = int(os.environ.get("JARVOK_KILLS", "6"))  # fifty take minutes: run them before a release
SETUP = """
from datetime import date, datetime, timezone
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import SessionLine, TrainingSession
planned = dict(index=0, reps=5, or_more=False, seconds=None, metres=None, per_side=False, load_kg=None, wanted_kg=None,
    per_side_kg=[], share_of_max=None, target_low_mps=None, target_high_mps=None, target_is_peak=False, target_rir=None,
    stop_loss_pct=20, method="", working=None)
for i, athlete in enumerate(Athlete.objects.all()[:4]):
    now = datetime.now(timezone.utc)
    t = TrainingSession.objects.create(athlete=athlete, day=date(2026, 11, 20), key="K", theme="k", started_at=now)
    for n in range(40):
        SessionLine.objects.create(session=t, order=n, slot=f"A{n}", block="A", exercise_id="dead_hang", text="20 × 5", ramp=[],
            planned=[planned] * 20, rest_s=60)
"""
LINES = """
import json
from jarvok.app.facts.floor.models import SessionLine
print(json.dumps(list(SessionLine.objects.filter(session__key="K").values_list("session_id", "id"))))
"""


@pytest.fixture(scope="module")
def server(tmp_path_factory, nursery):
    """A server that is killed again and again."""
    server = demo_server(tmp_path_factory, nursery)
    server.manage("shell", "-c", SETUP)
    yield server
    server.kill()


class Tablet(threading.Thread):
    """Logs one set after another, each under its key until it is answered, as the page's outbox does."""

    def __init__(self, port: int, lines: list[tuple[int, int]], stop: threading.Event) -> None:
        super().__init__(daemon=True)
        self.port, self.lines, self.stop = port, lines, stop
        self.acknowledged: list[tuple[int, int, int]] = []
        self.sent = 0
        self.refused: list[str] = []

    def run(self) -> None:
        for session, line in self.lines:
            for number in range(1, 21):
                if self.stop.is_set():
                    return
                self.log(session, line, number)

    def log(self, session: int, line: int, number: int) -> None:
        key, reps = uuid.uuid4().hex, random.randrange(1, 20)
        body = json.dumps({"line_id": line, "kind": "work", "number": number, "reps": reps})
        while not self.stop.is_set():
            try:
                link = http.client.HTTPConnection("127.0.0.1", self.port, timeout=5)
                link.request("GET", "/api/me")
                first = link.getresponse()
                cookies = "; ".join(v.split(";")[0] for k, v in first.getheaders() if k.lower() == "set-cookie")
                token = json.loads(first.read())["csrf_token"]
                headers = {"Cookie": cookies, "X-CSRFToken": token, "Idempotency-Key": key, "Content-Type": "application/json"}
                self.sent += 1
                link.request("POST", f"/api/floor/sessions/{session}/sets", body, headers)
                answer = link.getresponse()
                text = answer.read()
                if answer.status >= 500:
                    raise OSError("server error")
                if answer.status == 200:
                    self.acknowledged.append((line, number, reps))
                else:
                    self.refused.append(text.decode())
                return
            except (OSError, http.client.HTTPException, ValueError):
                time.sleep(0.05)


def stored(path: str) -> list[tuple[int, int, int]]:
    with sqlite3.connect(path) as database:
        rows = database.execute(
            "select line_id, number, reps from floor_setrecord s join floor_sessionline l on l.id = s.line_id"
            " join floor_trainingsession t on t.id = l.session_id where t.key = 'K' and taken_back_at is null"
        )
        return [tuple(r) for r in rows]


def test_kills_under_load_lose_nothing_acknowledged_and_double_nothing(server) -> None:
    lines = [tuple(x) for x in json.loads(server.output("shell", "-v", "0", "-c", LINES).splitlines()[-1])]
    sessions = sorted({s for s, _ in lines})
    stop, rng = threading.Event(), random.Random(8)
    tablets = [Tablet(server.port, [x for x in lines if x[0] == s], stop) for s in sessions]
    for tablet in tablets:
        tablet.start()
    for _ in range(KILLS):
        time.sleep(rng.uniform(0.05, 0.6))
        server.kill()
        server.start()
    until = time.monotonic() + 60  # a loaded machine is slow, not wrong: the tablets go on until there is something to compare
    while sum(len(t.acknowledged) for t in tablets) <= 2 * KILLS and time.monotonic() < until:
        time.sleep(0.2)
    stop.set()
    for tablet in tablets:
        tablet.join(10)
    found = stored(server.env["JARVOK_DB"])
    acknowledged = [x for t in tablets for x in t.acknowledged]
    print(f"{len(acknowledged)} sets acknowledged over {KILLS} kills, {sum(t.sent for t in tablets)} sent, {len(found)} stored")
    assert [r for t in tablets for r in t.refused] == []
    assert len(acknowledged) > KILLS
    assert len(found) == len({(line, number) for line, number, _ in found}), "no set is there twice"
    assert set(acknowledged) <= set(found), "every acknowledged set is there, as it was sent"
    assert len(found) <= len(acknowledged) + len(tablets), "at most what was under way when the load stopped"


class Page:
    """A page that is open already: signed in before anything goes wrong."""

    def __init__(self, server: Server) -> None:
        self.link = http.client.HTTPConnection("127.0.0.1", server.port, timeout=30)
        self.link.request("GET", "/api/me")
        first = self.link.getresponse()
        cookies = "; ".join(v.split(";")[0] for k, v in first.getheaders() if k.lower() == "set-cookie")
        token = json.loads(first.read())["csrf_token"]
        self.headers = {"Cookie": cookies, "X-CSRFToken": token, "Content-Type": "application/json"}

    def log(self, session: int, line: int, number: int, note: str = "") -> tuple[int, dict[str, str]]:
        body = json.dumps({"line_id": line, "kind": "work", "number": number, "reps": 3, "note": note})
        headers = {**self.headers, "Idempotency-Key": uuid.uuid4().hex}
        self.link.request("POST", f"/api/floor/sessions/{session}/sets", body, headers)
        answer = self.link.getresponse()
        return answer.status, json.loads(answer.read())


def last_line(server: Server) -> tuple[int, int]:
    session, line = json.loads(server.output("shell", "-v", "0", "-c", LINES).splitlines()[-1])[-1]
    return session, line


def test_a_locked_database_is_said_in_words_and_nothing_is_stored(server) -> None:
    (session, line), page = last_line(server), Page(server)
    before = stored(server.env["JARVOK_DB"])
    lock = sqlite3.connect(server.env["JARVOK_DB"], isolation_level=None)
    lock.execute("begin immediate")
    try:
        status, said = page.log(session, line, 20)
    finally:
        lock.execute("rollback")
        lock.close()
    assert status == 503
    assert "Nothing was stored" in said["title"]
    assert stored(server.env["JARVOK_DB"]) == before
    assert page.log(session, line, 20)[0] == 200


def test_a_full_disk_is_said_in_words_and_passes(server) -> None:
    """The database may not grow: what SQLite says of a full disk is what it says here."""
    (session, line), whole = last_line(server), server.env["JARVOK_DB"]
    server.kill()
    with sqlite3.connect(whole) as database:
        database.execute("pragma wal_checkpoint(truncate)")
        server.env["JARVOK_MAX_PAGES"] = str(database.execute("pragma page_count").fetchone()[0] + 6)
    server.start()
    page, statuses, said = Page(server), [], {}
    for number in range(1, 20):
        status, said = page.log(session, line, number, note="x" * 200)
        statuses.append(status)
        if status != 200:
            break
    assert statuses[-1] == 503, statuses
    assert "disk is full" in said["title"]
    kept = stored(whole)
    assert len([r for r in kept if r[0] == line]) == len(statuses), "set 20 of before, and those acknowledged now"
    server.kill()
    del server.env["JARVOK_MAX_PAGES"]
    server.start()
    assert Page(server).log(session, line, len(statuses))[0] == 200

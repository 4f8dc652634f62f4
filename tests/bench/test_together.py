"""Eight people at once: each logs sets and reads pages; the bound is one of them alone. `JARVOK_TOGETHER_S`: for how long."""

from __future__ import annotations

import http.client
import json
import os
import random
import socket
import statistics
import subprocess
import sys
import threading
import time
import uuid
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

import pytest
from support.demo_file import ROOT, copy_demo, environment

FOR_S = float(os.environ.get("JARVOK_TOGETHER_S", "10"))
CLIENTS = 8
SETUP = """
from datetime import date, datetime, timezone
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import SessionLine, TrainingSession
planned = dict(index=0, reps=5, or_more=False, seconds=None, metres=None, per_side=False, load_kg=60.0, wanted_kg=60.0,
    per_side_kg=[20], share_of_max=None, target_low_mps=None, target_high_mps=None, target_is_peak=False, target_rir=None,
    stop_loss_pct=20, method="", working=None)
for athlete in Athlete.objects.all():
    now = datetime.now(timezone.utc)
    for k in range(8):
        t = TrainingSession.objects.create(athlete=athlete, day=date(2026, 11, 20), key=f"K{k}", theme="k", started_at=now)
        for n in range(6):
            SessionLine.objects.create(session=t, order=n, slot=f"A{n}", block="A", exercise_id="back_squat", text="5 × 5",
                ramp=[], planned=[planned] * 5, rest_s=60)
        for line in t.lines.all():
            print(athlete.pk, t.pk, line.pk)
"""


@dataclass
class Person(threading.Thread):
    """Signed in once; logs a set, reads a page, and so on."""

    port: int
    places: list[tuple[int, int, int]]
    until: float
    pause_s: tuple[float, float] = (0.3, 1.2)  # nobody taps without one
    writes_ms: list[float] = field(default_factory=list)
    reads_ms: list[float] = field(default_factory=list)
    failed: list[int] = field(default_factory=list)

    def __post_init__(self) -> None:
        super().__init__(daemon=True)

    def __hash__(self) -> int:
        return id(self)

    def run(self) -> None:
        link = http.client.HTTPConnection("127.0.0.1", self.port, timeout=60)
        link.request("GET", "/api/me")
        first = link.getresponse()
        cookies = "; ".join(v.split(";")[0] for k, v in first.getheaders() if k.lower() == "set-cookie")
        token = json.loads(first.read())["csrf_token"]
        headers = {"Cookie": cookies, "X-CSRFToken": token, "Content-Type": "application/json"}

        def ask(method: str, path: str, body: str | None, into: list[float]) -> None:
            begun = time.perf_counter()
            link.request(method, path, body, headers | {"Idempotency-Key": uuid.uuid4().hex})
            answer = link.getresponse()
            answer.read()
            into.append(1000 * (time.perf_counter() - begun))
            if answer.status >= 500:
                self.failed.append(answer.status)

        for athlete, session, line in self.places:
            for number in range(1, 6):
                if time.monotonic() > self.until:
                    return
                body = json.dumps({"line_id": line, "kind": "work", "number": number, "reps": 5, "load_kg": 60, "rir": 2})
                ask("POST", f"/api/floor/sessions/{session}/sets", body, self.writes_ms)
                path = random.choice((f"floor/sessions/{session}", f"athletes/{athlete}", f"athletes/{athlete}/week", "today"))
                ask("GET", f"/api/{path}", None, self.reads_ms)
                time.sleep(random.uniform(*self.pause_s))


@pytest.fixture(scope="module")
def port(tmp_path_factory) -> Iterator[int]:
    folder: Path = tmp_path_factory.mktemp("together")
    copy_demo(folder)
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    command = [sys.executable, "-m", "uvicorn", "jarvok.app.asgi:application", "--port", str(port), "--lifespan", "off"]
    server = subprocess.Popen([*command, "--no-access-log", "--log-level", "warning"], cwd=ROOT, env=environment(folder))
    for _ in range(300):
        with socket.socket() as probe:
            if probe.connect_ex(("127.0.0.1", port)) == 0:
                break
        time.sleep(0.1)
    port_of[port] = folder
    yield port
    server.kill()


port_of: dict[int, Path] = {}


def together(port: int, many: int, places: dict[int, list[tuple[int, int, int]]]) -> list[Person]:
    people = [Person(port, mine, time.monotonic() + FOR_S) for mine in list(places.values())[:many]]
    for person in people:
        person.start()
    for person in people:
        person.join(FOR_S + 90)
    return people


def test_eight_people_log_and_read_at_once(port: int) -> None:
    env = environment(port_of[port])
    command = [sys.executable, "manage.py", "shell", "-v", "0", "-c", SETUP]
    said = subprocess.run(command, cwd=ROOT, env=env, check=True, capture_output=True, text=True).stdout
    places: dict[int, list[tuple[int, int, int]]] = {}
    for row in said.split("\n"):
        if row.count(" ") == 2:
            athlete, session, line = map(int, row.split())
            places.setdefault(athlete, []).append((athlete, session, line))
    half = {a: p[: len(p) // 2] for a, p in places.items()}
    rest = {a: p[len(p) // 2 :] for a, p in places.items()}
    for many, mine in ((1, half), (CLIENTS, rest)):
        people = together(port, many, mine)
        writes = sorted(x for p in people for x in p.writes_ms)
        reads = sorted(x for p in people for x in p.reads_ms)
        failed = [s for p in people for s in p.failed]
        print(
            f"\n{many} for {FOR_S:g} s: {len(writes)} writes, median {statistics.median(writes):.0f} ms, "
            f"p95 {writes[int(0.95 * len(writes))]:.0f} ms; {len(reads)} reads, median {statistics.median(reads):.0f} ms, "
            f"p95 {reads[int(0.95 * len(reads))]:.0f} ms; {len(failed)} answers of 500 and over"
        )

"""People who log sets and read pages of one server at the same time. `JARVOK_TOGETHER_S`: for how long."""

from __future__ import annotations

import http.client
import json
import os
import random
import statistics
import threading
import time
import uuid
from dataclasses import dataclass, field

from support.two_processes import shell

FOR_S = float(os.environ.get("JARVOK_TOGETHER_S", "10"))
Places = dict[int, list[tuple[int, int, int]]]  # athlete: session and line, each once
SETUP = """
from datetime import date, datetime, timezone
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import SessionLine, TrainingSession
from jarvok.app.facts.seasons.models import SeasonStyle
planned = dict(index=0, reps=5, or_more=False, seconds=None, metres=None, per_side=False, load_kg=60.0, wanted_kg=60.0,
    per_side_kg=[20], share_of_max=None, target_low_mps=None, target_high_mps=None, target_is_peak=False, target_rir=None,
    stop_loss_pct=20, method="", working=None)
for athlete in list(Athlete.objects.all()):  # as many again, with the same results and season
    twin = Athlete.objects.get(pk=athlete.pk)
    twin.pk, twin.name, twin._state.adding = None, athlete.name + " II", True
    twin.save()
    for rows in (athlete.marks, athlete.masses, athlete.entered, athlete.week_choices):
        for row in rows.all():
            row.pk, row.athlete, row._state.adding = None, twin, True
            row.save()
    style = SeasonStyle.objects.filter(athlete=athlete).first()
    if style is not None:
        style.pk, style.athlete, style._state.adding = None, twin, True
        style.save()
for athlete in Athlete.objects.all():
    now = datetime.now(timezone.utc)
    for k in range(8):
        t = TrainingSession.objects.create(athlete=athlete, day=date(2026, 11, 24), key=f"K{k}", theme="k", started_at=now)
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
    pause_s: tuple[float, float]  # nobody taps without one
    writes_ms: list[float] = field(default_factory=list)
    reads_ms: list[float] = field(default_factory=list)
    failed: list[int] = field(default_factory=list)

    def __post_init__(self) -> None:
        super().__init__(daemon=True)

    def __hash__(self) -> int:
        return id(self)

    def run(self) -> None:
        time.sleep(random.uniform(0, self.pause_s[1]))  # nobody comes in the same moment as everybody else
        link = http.client.HTTPConnection("127.0.0.1", self.port, timeout=60)
        link.request("GET", "/api/me")
        first = link.getresponse()
        cookies = "; ".join(v.split(";")[0] for k, v in first.getheaders() if k.lower() == "set-cookie")
        token = json.loads(first.read())["csrf_token"]
        headers = {"Cookie": cookies, "X-CSRFToken": token, "Content-Type": "application/json"}

        def ask(method: str, path: str, body: str | None, into: list[float]) -> None:
            begun, sent = time.perf_counter(), headers | {"Idempotency-Key": uuid.uuid4().hex}
            try:
                link.request(method, path, body, sent)
                answer = link.getresponse()
            except (OSError, http.client.HTTPException):  # the server has closed a connection that was idle
                link.close()
                link.request(method, path, body, sent)
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


def places_in(env: dict[str, str]) -> Places:
    """Make every athlete of a centre eight sessions of six lines, begun, and return where sets can be logged."""
    found: Places = {}
    for row in shell(env, SETUP).split("\n"):
        if row.count(" ") == 2:
            athlete, session, line = map(int, row.split())
            found.setdefault(athlete, []).append((athlete, session, line))
    return found


def together(port: int, places: list[list[tuple[int, int, int]]], pause_s: tuple[float, float]) -> str:
    """Let as many people at the server as there are lists of places; return what was measured, in words."""
    people = [Person(port, mine, time.monotonic() + FOR_S, pause_s) for mine in places]
    for person in people:
        person.start()
    for person in people:
        person.join(FOR_S + 90)
    writes = sorted(x for p in people for x in p.writes_ms)
    reads = sorted(x for p in people for x in p.reads_ms)
    failed = [s for p in people for s in p.failed]
    return (
        f"{len(people)} for {FOR_S:g} s, {pause_s[0]:g} to {pause_s[1]:g} s between: {len(writes)} writes, "
        f"median {statistics.median(writes):.0f} ms, p95 {writes[int(0.95 * len(writes))]:.0f} ms; {len(reads)} reads, "
        f"median {statistics.median(reads):.0f} ms, p95 {reads[int(0.95 * len(reads))]:.0f} ms; "
        f"{len(failed)} answers of 500 and over"
    )

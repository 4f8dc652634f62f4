"""A centre that moves to PostgreSQL, is copied and put back there, and is served by two processes."""

from __future__ import annotations

import json
import os
import signal
import threading
import time
import zipfile
from collections import Counter
from http.client import HTTPConnection, HTTPException
from pathlib import Path
from types import ModuleType
from typing import Any

import numpy as np
from support.together import SETUP, Person
from support.two_processes import WRITE, TwoProcesses, shell

from jarvok.core.exercises import Pattern
from jarvok.core.library.exercises import exercise
from jarvok.core.sensors.stream import write_samples
from jarvok.core.sensors.trace import simulate_set
from jarvok.core.velocity.detect import detect_reps

BACK_WITHIN_S = 20.0  # a loaded machine is slow, not wrong: how long it took is printed
SECRET = ("auth.", "room.sensor", "floor.sensorstream")  # what opens something is made anew


def rows_in(file: Path) -> dict[str, Counter[str]]:
    """Every row of every kind in a centre's file, but for what opens something."""
    with zipfile.ZipFile(file) as whole:
        names = [n for n in whole.namelist() if n.endswith(".jsonl") and not n.startswith(SECRET)]
        return {n: Counter(_in_order(x) for x in whole.read(n).splitlines()) for n in names}


def _in_order(row: bytes) -> str:
    return json.dumps(json.loads(row), sort_keys=True)


def test_a_centre_moves_over_row_by_row(moved) -> None:
    _, file, again = moved
    here, there = rows_in(file), rows_in(again)
    differ = {name for name in here if here[name] != there[name]}
    assert differ <= {"people.act.jsonl", "people.person.jsonl", "centre.centre.jsonl"}
    assert (there["people.act.jsonl"] - here["people.act.jsonl"]).total() == 1, "the act of taking it in"
    assert here["floor.setrecord.jsonl"].total() > 100


def test_its_tables_are_looked_over_as_it_comes(moved) -> None:
    """Else the database knows nothing of them for a minute, and takes long ways to every answer."""
    said = shell(
        moved[0],
        "from django.db import connection\n"
        "with connection.cursor() as cursor:\n"
        "    cursor.execute(\"SELECT count(*) FROM pg_stat_user_tables WHERE relname = 'floor_setrecord' \"\n"
        '                   "AND last_analyze IS NOT NULL")\n'
        "    print('looked over:', cursor.fetchone()[0])",
    )
    assert "looked over: 1" in said


def test_new_rows_are_numbered_behind_those_that_came(moved) -> None:
    env, _, _ = moved
    said = shell(
        env,
        "from jarvok.app.facts.athletes.models import Squad\n"
        "last = Squad.objects.order_by('-pk').first().pk\n"
        "new = Squad.objects.create(name='Behind', sport='other')\n"
        "print(new.pk > last)\n"
        "new.delete()",
    )
    assert said == "True"


def test_a_copy_is_made_looked_into_and_put_back(moved, tmp_path: Path) -> None:
    env, _, _ = moved
    before, after = tmp_path / "before.zip", tmp_path / "after.zip"
    shell(env, WRITE.format(file=str(before)))
    said = shell(
        env,
        "from jarvok.app.acts import Who\n"
        "from jarvok.app.facts.athletes.models import Athlete\n"
        "from jarvok.app.facts.people.models import Person\n"
        "from jarvok.app.upkeep import backups\n"
        "from jarvok.app.upkeep.actions import restore_backup\n"
        "made = backups.make(backups.BY_HAND)\n"
        "inside = backups.look_into(backups.path_of(made.name))\n"
        "print(made.name.rsplit('.')[-1], inside.athletes == Athlete.objects.count(), inside.sets > 100, inside.problem)\n"
        "Athlete.objects.update(name='somebody')\n"
        "restore_backup.run(Who(Person.objects.first()), made.name)\n"
        "print(Athlete.objects.filter(name='somebody').count(), len(backups.listing()))\n"
        "damaged = backups.path_of(made.name)\n"
        "damaged.write_bytes(damaged.read_bytes()[:2000])\n"
        "print(backups.look_into(damaged).problem)\n",
    )
    assert said.splitlines() == ["pgdump True True ", "0 2", "This file is no copy of a centre."]
    shell(env, WRITE.format(file=str(after)))
    here, there = rows_in(before), rows_in(after)
    assert {n for n in here if here[n] != there[n]} <= {"people.act.jsonl", "centre.centre.jsonl"}


class Page(threading.Thread):
    """An open page: when it was told of something new."""

    def __init__(self, port: int, api: Any, room: int) -> None:
        super().__init__(daemon=True)
        self.link = HTTPConnection("127.0.0.1", port, timeout=30)
        self.link.request("GET", f"/api/room/{room}/events", headers={"Cookie": api.jar, "Accept": "text/event-stream"})
        self.answer = self.link.getresponse()
        self.told: list[float] = []
        self.start()

    def run(self) -> None:
        while line := self.answer.fp.readline():
            if line.startswith(b"event:") or line.startswith(b"data:"):
                self.told.append(time.monotonic())


def test_what_one_process_stores_wakes_the_pages_of_both(server: TwoProcesses, load: ModuleType) -> None:
    api = load.Api(server.port)
    room = next(e["room_id"] for e in api.get("room/entries") if e["squad"] == "Load")
    pages = [Page(server.port, api, room) for _ in range(10)]
    print(f"{len({server.serving(p.link.sock) for p in pages})} of {len(server.processes())} processes serve the ten pages")
    time.sleep(1.0)
    up = api.get(f"room/{room}/racks/1")["lanes"][0]["up"]
    for page in pages:
        page.told.clear()
    began = time.monotonic()
    api.post(f"floor/sessions/{up['id']}/sets", {**up["current"], "load_kg": 100, "reps": 5})
    while time.monotonic() < began + 5 and not all(p.told for p in pages):
        time.sleep(0.01)
    assert all(p.told for p in pages)
    late = max(p.told[0] for p in pages) - began
    print(f"the last of ten pages was told after {1000 * late:.0f} ms")
    assert late < BACK_WITHIN_S


def test_open_pages_hold_no_connection(server: TwoProcesses, load: ModuleType) -> None:
    """More pages stand open than there are connections to be lent; the next request is answered all the same."""
    api = load.Api(server.port)
    room = next(e["room_id"] for e in api.get("room/entries") if e["squad"] == "Load")
    pages = [Page(server.port, api, room) for _ in range(60)]
    time.sleep(1.0)
    began = time.monotonic()
    assert api.get("me")["signed_in"]
    assert time.monotonic() - began < BACK_WITHIN_S
    assert all(p.is_alive() for p in pages)


def test_eight_people_log_and_read_at_once(server: TwoProcesses, load: ModuleType, moved) -> None:
    """How long it takes is printed; how often something fails is what is asked.

    `JARVOK_TOGETHER_S`: for how long, `JARVOK_TOGETHER`: how many, `JARVOK_WARM_S`: so long before that nothing is measured.
    """
    env, _, _ = moved
    rows = [tuple(map(int, row.split())) for row in shell(env, SETUP).splitlines() if row.count(" ") == 2]
    by_session: dict[int, list[Any]] = {}
    for athlete, session, line in rows:
        by_session.setdefault(session, []).append((athlete, session, line))
    of_athlete: Counter[int] = Counter()  # everybody logs somebody's own sets, as long as there are people enough
    turn = {s: of_athlete.update([mine[0][0]]) or of_athlete[mine[0][0]] for s, mine in by_session.items()}
    many = int(os.environ.get("JARVOK_TOGETHER", "8"))
    for_s = float(os.environ.get("JARVOK_TOGETHER_S", "10"))
    places = [by_session[s] for s in sorted(by_session, key=turn.__getitem__)]
    warm_s = float(os.environ.get("JARVOK_WARM_S", "0"))

    def run(part: slice, seconds: float) -> list[Person]:
        people = [Person(server.port, mine[part], time.monotonic() + seconds, (1.0, 4.0)) for mine in places[:many]]
        for person in people:
            person.start()
        for person in people:
            person.join(seconds + 90)
        return people

    run(slice(0, 4), warm_s)
    people = run(slice(4, None), for_s)
    writes, reads = (sorted(x for p in people for x in getattr(p, name)) for name in ("writes_ms", "reads_ms"))
    print(
        f"{len(people)} for {for_s:g} s: {len(writes)} writes, median {writes[len(writes) // 2]:.0f} ms, "
        f"p95 {writes[int(0.95 * len(writes))]:.0f} ms; {len(reads)} reads, median {reads[len(reads) // 2]:.0f} ms"
    )
    assert len(people) == many
    assert [s for p in people for s in p.failed] == []


class Sensor:
    """A bar sensor as the format describes one: it keeps what is not durable yet, and sends on from where it is asked to."""

    def __init__(self, server: TwoProcesses, rack: int) -> None:
        self.server, self.path = server, f"/api/sensors/load-{rack}-token/messages"
        self.link = self.connect()

    def connect(self, beside: int | None = None) -> HTTPConnection:
        """A connection, to another process than one where that is asked for."""
        for _ in range(200):
            link = HTTPConnection("127.0.0.1", self.server.port, timeout=10)
            try:
                link.request("GET", self.path)  # answered at the door: the connection is somebody's then
                link.getresponse().read()
                if beside is None or self.server.serving(link.sock) != beside:
                    return link
            except (OSError, HTTPException):
                time.sleep(0.02)
            link.close()
        raise AssertionError("no other process serves")

    def serving(self) -> int:
        return self.server.serving(self.link.sock)

    def send(self, rows: list[tuple[int, float, float]], of: list[tuple[int, float, float]]) -> None:
        """Send rows in batches; `of` is everything there is, for when it is asked for again."""
        last = rows[-1][0]
        at = rows[0][0]
        first = of[0][0]
        while at <= last:
            batch = [r for r in of[at - first :] if r[0] <= last][:20]
            try:
                self.link.request("POST", self.path, write_samples(batch).encode())
                answer = json.loads(self.link.getresponse().read())
            except (OSError, HTTPException):  # nothing was sent for a while: the server has hung up
                self.link = self.connect()
                continue
            at = answer["resume_from"] if not answer["accepted"] else batch[-1][0] + 1


def a_set(begins_at: int, seed: int) -> list[tuple[int, float, float]]:
    rng = np.random.default_rng(seed)
    trace = simulate_set(Pattern.SQUAT, [0.7, 0.66, 0.62, 0.58, 0.54], 0.55, 100, 0.001, rng)
    return [(begins_at + n, t, x) for n, (t, x) in enumerate(trace.samples())]


STORED = """
import json
from jarvok.app.facts.floor.models import Rep
rows = Rep.objects.filter(line_id={line}, set_number={number}).order_by("number").values_list("mean_mps", "peak_mps")
print(json.dumps(list(rows)))
"""


def test_a_sensor_goes_on_in_another_process_and_after_its_own_was_killed(server: TwoProcesses, load: ModuleType, moved) -> None:
    env, _, _ = moved
    api = load.Api(server.port)
    room = next(e["room_id"] for e in api.get("room/entries") if e["squad"] == "Load")
    motion = exercise("back_squat").motion
    assert motion is not None
    sensor, sent = Sensor(server, 2), 0
    for round_, how in enumerate(("moves", "killed", "killed")):
        up = api.get(f"room/{room}/racks/2")["lanes"][0]["up"]
        rows = a_set(sent, round_)
        half = len(rows) // 2
        sensor.send(rows[:half], rows)
        was = sensor.serving()
        began = time.monotonic()
        if how == "killed":
            os.kill(was, signal.SIGKILL)
        else:
            sensor.link = sensor.connect(beside=was)
        if how == "killed":
            sensor.link = sensor.connect()
        sensor.send(rows[half : half + 20], rows)
        back_s = time.monotonic() - began
        print(f"{how}: back after {1000 * back_s:.0f} ms")
        assert back_s < BACK_WITHIN_S
        sensor.send(rows[half + 20 :], rows)
        sent += len(rows)
        time.sleep(0.3)
        stored = json.loads(shell(env, STORED.format(line=up["current"]["line_id"], number=up["current"]["number"])))
        found = detect_reps([(round(t, 4), round(x, 5)) for _, t, x in rows], motion, 100)
        assert len(stored) == len(found) == 5, how
        wanted = [(r.metrics.mean_mps, r.metrics.peak_mps) for r in found]
        assert np.allclose(stored, wanted, atol=1e-9), "the same as seen after the fact, each once"
        load.Api(server.port).post(f"floor/sessions/{up['id']}/sets", {**up["current"], "load_kg": 100, "reps": 5})

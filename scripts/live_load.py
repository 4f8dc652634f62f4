"""Bar sensors at every rack against a real server: processor, memory, sample to page, every repetition compared.

`python scripts/live_load.py --minutes 30 --racks 16 --hz 200`. Prints figures; asserts nothing but that no repetition is
missing or different.
The lower bound printed beside is an empty request of the same size on the same server.
"""

from __future__ import annotations

import argparse
import json
import os
import signal
import socket
import statistics
import subprocess
import sys
import tempfile
import threading
import time
import urllib.request
import uuid
from dataclasses import dataclass, field
from http.client import HTTPConnection, HTTPException
from pathlib import Path
from typing import Any

import numpy as np

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT / "src"))

from jarvok.core.exercises import Pattern  # noqa: E402
from jarvok.core.library.exercises import exercise  # noqa: E402
from jarvok.core.sensors.stream import write_samples  # noqa: E402
from jarvok.core.sensors.trace import simulate_set  # noqa: E402
from jarvok.core.velocity.detect import detect_reps  # noqa: E402

TODAY, BATCH_S = "2026-11-24", 0.05
TICKS = os.sysconf("SC_CLK_TCK")
SETUP = """
from datetime import date, datetime, timezone
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.facts.floor.models import SessionLine, TrainingSession
from jarvok.app.facts.room.models import Sensor
from jarvok.app.acts import Who
from jarvok.app.room.actions import open_room, put_at_rack, set_racks
who, racks, rate_hz = Who(None), {racks}, {rate_hz}
day = date(2026, 11, 24)
squad = Squad.objects.create(name="Load", sport="other")
planned = dict(index=0, reps=5, or_more=False, seconds=None, metres=None, per_side=False, load_kg=100.0, wanted_kg=100.0,
    per_side_kg=[25, 15], share_of_max=None, target_low_mps=None, target_high_mps=None, target_is_peak=False, target_rir=None,
    stop_loss_pct=20, method="", working=None)
people = [Athlete.objects.create(squad=squad, name=f"Lifter {{i}}") for i in range(racks)]
room = open_room.run(who, squad, day)
set_racks.run(who, room, racks, "strength")
for i, person in enumerate(people, start=1):
    for key in "ABCDEFGHIJ":  # an hour's sets each: the next begins when one is finished
        t = TrainingSession.objects.create(athlete=person, day=day, key=key, theme="load", started_at=datetime.now(timezone.utc))
        for n in range(6):
            SessionLine.objects.create(session=t, order=n, slot=f"A{{n + 1}}", block="A", exercise_id="back_squat", text="4 × 5",
                is_main=True, ramp=[], planned=[planned] * 4, rest_s=60)
    put_at_rack.run(who, room, person.pk, i)
    token = f"load-{{i}}-token"
    Sensor.objects.create(name=token, sort="bar", token=token, rack=i, rate_hz=rate_hz, added_at=t.started_at)
"""


@dataclass
class RackRun:
    """What one rack sent and heard."""

    number: int
    rate_hz: int
    sets: list[tuple[int, int, list[tuple[int, float, float]]]] = field(default_factory=list)


class Api:
    """The signed-in coach."""

    def __init__(self, port: int) -> None:
        self.port = port
        self.jar = ""
        with urllib.request.urlopen(f"http://127.0.0.1:{port}/api/me") as answer:
            cookies = [v.split(";")[0] for k, v in answer.headers.items() if k.lower() == "set-cookie"]
            self.csrf = json.loads(answer.read())["csrf_token"]
        self.jar = "; ".join(cookies)

    def get(self, path: str) -> Any:
        request = urllib.request.Request(f"http://127.0.0.1:{self.port}/api/{path}", headers={"Cookie": self.jar})
        with urllib.request.urlopen(request) as answer:
            return json.loads(answer.read())

    def post(self, path: str, body: Any) -> Any:
        headers = {
            "Cookie": self.jar,
            "X-CSRFToken": self.csrf,
            "Idempotency-Key": uuid.uuid4().hex,
            "Content-Type": "application/json",
        }
        request = urllib.request.Request(f"http://127.0.0.1:{self.port}/api/{path}", json.dumps(body).encode(), headers)
        with urllib.request.urlopen(request) as answer:
            return json.loads(answer.read())


def database_of_ones_own(name: str) -> str:
    """The address of a new PostgreSQL database."""
    import psycopg

    said = subprocess.run([str(ROOT / "scripts/postgres"), "start"], check=True, capture_output=True, text=True)
    address = said.stdout.strip()
    with psycopg.connect(address, autocommit=True) as line:
        line.execute(f"CREATE DATABASE {name}")
    return address.rsplit("/", 1)[0] + f"/{name}"


def usage_of_all(pid: int) -> tuple[float, float]:
    """As `usage`, of a server with its processes; memory is that of the largest."""
    children = Path(f"/proc/{pid}/task/{pid}/children").read_text().split()
    rows = [usage(p) for p in (pid, *map(int, children))]
    return sum(used for used, _ in rows), max(rss for _, rss in rows)


def usage(pid: int) -> tuple[float, float]:
    """Seconds of processor used and resident memory in MB of a process."""
    parts = Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()
    rss = int(Path(f"/proc/{pid}/statm").read_text().split()[1]) * os.sysconf("SC_PAGE_SIZE") / 1e6
    return (int(parts[11]) + int(parts[12])) / TICKS, rss


def send(link: HTTPConnection, path: str, body: bytes) -> Any:
    """Post, on a new connection where the server has closed an idle one; samples sent twice count once."""
    for _ in range(3):
        try:
            link.request("POST", path, body)
            return json.loads(link.getresponse().read())
        except (OSError, HTTPException):
            link.close()
    raise OSError("the server is gone")


def lift(run: RackRun, port: int, api: Api, room: int, until: float) -> None:
    """Lift sets at one rack until the time is up: samples in real time, then one tap."""
    rng = np.random.default_rng(run.number)
    link = HTTPConnection("127.0.0.1", port, timeout=20)
    sent = 0
    while time.monotonic() < until:
        speeds = [float(rng.uniform(0.45, 0.8)) for _ in range(5)]
        trace = simulate_set(Pattern.SQUAT, speeds, 0.55, run.rate_hz, 0.001, rng)
        rows = [(sent + n, t, x) for n, (t, x) in enumerate(trace.samples())]
        began, at = time.monotonic(), 0
        while at < len(rows):
            due = int((time.monotonic() - began) * run.rate_hz)
            batch = rows[at : max(at, min(due, len(rows)))]
            if batch:
                answer = send(link, f"/api/sensors/load-{run.number}-token/messages", write_samples(batch).encode())
                assert answer["accepted"], answer
                at += len(batch)
            time.sleep(BATCH_S)
        sent += len(rows)
        time.sleep(0.2)
        up = api.get(f"room/{room}/racks/{run.number}")["lanes"][0]["up"]
        current = up["current"]
        run.sets.append((current["line_id"], current["number"], rows))
        after = api.post(f"floor/sessions/{up['id']}/sets", {**current, "load_kg": 100, "reps": 5})
        if after["current"] is None:
            api.post(f"floor/sessions/{up['id']}/finish", {"srpe": 6})
        time.sleep(float(rng.uniform(1, 4)))  # the bar is changed


def listen(port: int, api: Api, room: int, waits: list[float], tops: list[float], stop: threading.Event) -> None:
    """A page: hears every repetition and notes how long it took."""
    request = urllib.request.Request(f"http://127.0.0.1:{port}/api/room/{room}/events", headers={"Cookie": api.jar})
    kind = ""
    with urllib.request.urlopen(request, timeout=60) as stream:
        for raw in stream:
            if stop.is_set():
                return
            line = raw.decode()
            if line.startswith("event: "):
                kind = line[7:].strip()
            elif line.startswith("data: ") and kind == "rep":
                data, now = json.loads(line[6:]), time.time() * 1000
                waits.append(now - data["received_ms"])
                tops.append(now - data["top_ms"])


def main() -> None:
    """Run it and print."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--minutes", type=float, default=30)
    parser.add_argument("--racks", type=int, default=16)
    parser.add_argument("--hz", type=int, default=200)
    parser.add_argument("--workers", type=int, default=1, help="processes of the server; more than one stand on PostgreSQL")
    asked = parser.parse_args()
    minutes, racks, rate_hz = asked.minutes, asked.racks, asked.hz
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    folder = tempfile.mkdtemp()
    env = {**os.environ, "MALLOC_ARENA_MAX": "1", "MALLOC_TRIM_THRESHOLD_": "131072",  # as scripts/start serves
           "PYTHONPATH": str(ROOT / "src"), "JARVOK_VAR": folder, "JARVOK_DB": f"{folder}/load.sqlite3",
           "JARVOK_LOCAL_DEMO": "1", "JARVOK_TODAY": TODAY}  # fmt: skip
    if asked.workers > 1:
        env["JARVOK_DATABASE_URL"] = database_of_ones_own(f"load_{port}")
    manage = [sys.executable, str(ROOT / "manage.py")]
    subprocess.run([*manage, "migrate", "-v0"], env=env, check=True)
    subprocess.run([*manage, "demo_data", "--small"], env=env, check=True, stdout=subprocess.DEVNULL)
    subprocess.run(
        [*manage, "shell", "-c", SETUP.format(racks=racks, rate_hz=rate_hz)], env=env, check=True, stdout=subprocess.DEVNULL
    )
    serve = [sys.executable, "-m", "uvicorn", "jarvok.app.asgi:application", "--port", str(port)]
    serve += ["--workers", str(asked.workers)] if asked.workers > 1 else ["--lifespan", "off"]
    server = subprocess.Popen([*serve, "--log-level", "warning"], env=env)
    try:
        for _ in range(200):
            try:
                api = Api(port)
                break
            except OSError:
                time.sleep(0.1)
        room = next(e["room_id"] for e in api.get("room/entries") if e["squad"] == "Load")
        bound: list[float] = []
        for _ in range(200):
            began = time.perf_counter()
            api.get("me")
            bound.append(1000 * (time.perf_counter() - began))
        waits: list[float] = []
        tops: list[float] = []
        stop = threading.Event()
        threading.Thread(target=listen, args=(port, api, room, waits, tops, stop), daemon=True).start()
        until = time.monotonic() + 60 * minutes
        runs = [RackRun(i, rate_hz) for i in range(1, racks + 1)]
        lifters = [threading.Thread(target=lift, args=(r, port, api, room, until)) for r in runs]
        for thread in lifters:
            thread.start()
        shares, memory = [], []
        used, _ = usage_of_all(server.pid)
        while any(t.is_alive() for t in lifters):
            time.sleep(10)
            now, rss = usage_of_all(server.pid)
            shares.append((now - used) / 10)
            memory.append(rss)
            used = now
        stop.set()
        compare(runs, env, manage)
        shares = shares[:-1] or shares
        fifth = max(1, len(memory) // 5)
        print(f"{len(waits)} repetitions on the page in {minutes:g} min, {racks} racks at {rate_hz} Hz")
        print(f"processor: median {100 * statistics.median(shares):.0f} % of one core, most {100 * max(shares):.0f} %")
        print(
            f"memory: first fifth {statistics.mean(memory[:fifth]):.0f} MB, last fifth {statistics.mean(memory[-fifth:]):.0f} MB"
        )
        for name, values in (("last sample received to page", waits), ("top of the repetition to page", tops)):
            print(f"{name}: median {statistics.median(values):.0f} ms, 95th percentile {np.percentile(values, 95):.0f} ms")
        print(f"lower bound, an empty request before the load: median {statistics.median(bound):.1f} ms")
    finally:
        server.terminate() if asked.workers > 1 else server.send_signal(signal.SIGKILL)


READ = """
import json
from jarvok.app.facts.floor.models import Rep
rows = Rep.objects.order_by("id").values_list("line_id", "set_number", "mean_mps", "peak_mps", "range_m")
print(json.dumps(list(rows)))
"""


def compare(runs: list[RackRun], env: dict[str, str], manage: list[str]) -> None:
    """Every repetition stored is the one that detection after the fact finds, and none is missing."""
    done = subprocess.run([*manage, "shell", "-v", "0", "-c", READ], env=env, check=True, capture_output=True, text=True)
    stored: dict[tuple[int, int], list[list[float]]] = {}
    for line_id, number, *values in json.loads(done.stdout[done.stdout.index("[") :]):
        stored.setdefault((line_id, number), []).append(values)
    motion = exercise("back_squat").motion
    assert motion is not None
    total = 0
    for run in runs:
        for line_id, number, rows in run.sets:
            reps = detect_reps([(round(t, 4), round(x, 5)) for _, t, x in rows], motion, run.rate_hz)
            expected = [[r.metrics.mean_mps, r.metrics.peak_mps, r.metrics.range_m] for r in reps]
            found = stored.get((line_id, number), [])
            total += len(found)
            assert len(found) == len(expected), f"rack {run.number}: {len(found)} stored, {len(expected)} after the fact"
            assert np.allclose(found, expected, atol=1e-9), f"rack {run.number}: {found} stored, {expected} after the fact"
    print(f"{total} repetitions stored, each identical to detection after the fact")


if __name__ == "__main__":
    main()

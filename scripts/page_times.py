"""How long the main pages take at the server of a large centre, beside reading the same rows and writing the same text.

Run with JARVOK_VAR naming the folder of a centre, as `make bench-large` does, or with JARVOK_DATABASE_URL where it stands in
PostgreSQL. Every figure is of this machine at this moment. The sets of one session are logged.
"""

from __future__ import annotations

import argparse
import json
import os
import statistics
import time
import uuid
from datetime import date, timedelta
from typing import Any

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "jarvok.app.settings")
os.environ.setdefault("JARVOK_HOSTS", "testserver")

import django

django.setup()

from django.contrib.auth import get_user_model  # noqa: E402  the applications have to be loaded first
from django.db import connection  # noqa: E402
from django.test import Client  # noqa: E402
from django.test.utils import CaptureQueriesContext  # noqa: E402

from jarvok.app.athletes.kept_known import forget_all_kept  # noqa: E402
from jarvok.app.collector import settle  # noqa: E402
from jarvok.app.facts.athletes.models import Athlete  # noqa: E402
from jarvok.app.facts.floor.models import SetRecord, TrainingSession  # noqa: E402

ASKED_IN = 2  # [T] the set whose queries are shown
ROUNDS = 20
AFTER_SETS = 6
WEEKS_AHEAD = 8
CHANGING = (
    "Today", "Athletes", "Squad's week", "Squad's session", "Squad's season", "Squad's learning", "Athlete", "Week", "Session",
    "Standing", "Learning",
)  # fmt: skip
EMPTY = "me"


def shown(client: Client) -> tuple[Athlete, Any]:
    """An athlete who trains this week, and a day on which they do."""
    for athlete in Athlete.here.order_by("-pk"):
        week = client.get(f"/api/athletes/{athlete.pk}/week").json()["week"]
        day = next((d for d in (week or {"days": []})["days"] if d["sheet"]), None)
        if day is not None:
            return athlete, day
    raise SystemExit("Nobody has a session this week.")


def pages(client: Client) -> list[tuple[str, str]]:
    """Each page by name and address, for an athlete who trains this week and their squad."""
    athlete, day = shown(client)
    a, s, sheet = athlete.pk, athlete.squad_id, f"{day['day']}/{day['sheet']['key']}"
    return [
        ("Today", "today"), ("Athletes", "athletes"), ("Squad's week", f"squads/{s}/week"),
        ("Squad's session", f"athletes/{a}/sessions/{sheet}/squad"), ("Squad's season", f"squads/{s}/season"),
        ("Squad's learning", f"learning/squad/{s}"), ("Athlete", f"athletes/{a}"), ("Details", f"athletes/{a}/record"),
        ("Season", f"athletes/{a}/season"), ("Week", f"athletes/{a}/week"), ("Session", f"athletes/{a}/sessions/{sheet}"),
        ("Standing", f"athletes/{a}/standing"), ("Findings", f"findings/athlete/{a}"), ("Learning", f"learning/athlete/{a}"),
    ]  # fmt: skip


def timed(client: Client, path: str) -> tuple[Any, float]:
    """The answer, and its milliseconds."""
    began = time.perf_counter()
    answer = client.get(f"/api/{path}")
    took = 1000 * (time.perf_counter() - began)
    if answer.status_code != 200:
        raise SystemExit(f"{path}: {answer.status_code}")
    return answer, took


def bound_ms(queries: list[str], content: bytes) -> float:
    """Milliseconds for the same SQL without an ORM, and for writing the same answer as text."""
    connection.ensure_connection()
    rows, said, best = connection.connection.cursor(), json.loads(content), float("inf")
    for _ in range(5):
        began = time.perf_counter()
        for sql in queries:
            rows.execute(sql)
            rows.fetchall()
        json.dumps(said)
        best = min(best, time.perf_counter() - began)
    return 1000 * best


def size_mb() -> float:
    """What the database takes on the disk."""
    sql = {
        "sqlite": "SELECT page_count * page_size FROM pragma_page_count, pragma_page_size",
        "postgresql": "SELECT pg_database_size(current_database())",
    }[connection.vendor]
    with connection.cursor() as cursor:
        cursor.execute(sql)
        return float(cursor.fetchone()[0]) / 1e6


def row(name: str, first: float | None, times: list[float], queries: list[str], content: bytes, empty_ms: float) -> str:
    """A line of the table; `empty_ms` is what a request takes that is answered with next to nothing."""
    times = sorted(times)
    bound = bound_ms([q for q in queries if q.startswith("SELECT")], content)
    middle, late = statistics.median(times), times[round(0.95 * (len(times) - 1))]
    queries = [q for q in queries if not q.startswith(("BEGIN", "COMMIT", "SAVEPOINT", "RELEASE"))]
    cold = "" if first is None else f"{first:.0f}"
    return (
        f"| {name} | {cold} | {middle:.0f} | {late:.0f} | {len(queries)} | {len(content) / 1024:.0f} | {bound:.1f} "
        f"| {middle / bound:.0f} | {middle / empty_ms:.1f} |"
    )


def empty_ms(client: Client) -> float:
    """Milliseconds of a request by somebody signed in that is answered with who they are: the median."""
    return statistics.median(timed(client, EMPTY)[1] for _ in range(ROUNDS))


def page_row(client: Client, name: str, path: str) -> str:
    """How long a page takes."""
    empty = empty_ms(client)
    forget_all_kept()
    _, first = timed(client, path)
    timed(client, path)
    times = [timed(client, path)[1] for _ in range(ROUNDS)]
    with CaptureQueriesContext(connection) as asked:
        answer, _ = timed(client, path)
    return row(name, first, times, [q["sql"] for q in asked], answer.content, empty)


class Session:
    """A session ahead of the athlete whose pages are shown, with nothing done yet, logged set by set as it was told."""

    def __init__(self, client: Client) -> None:
        self._client = client
        self._floor = self._begun()
        self._lines = {x["id"]: x for x in self._floor["lines"]}

    @property
    def is_over(self) -> bool:
        """Whether no set is left."""
        return self._floor["current"] is None

    def log(self) -> bytes:
        """Log the next set; return the answer."""
        at = self._floor["current"]
        told = next(s for s in self._lines[at["line_id"]]["sets"] if (s["kind"], s["number"]) == (at["kind"], at["number"]))
        body = {**at, "reps": told["reps"] or 1, "load_kg": told["load_kg"], "rir": 2 if at["kind"] == "work" else None}
        answer = self._post(f"floor/sessions/{self._floor['id']}/sets", body)
        self._floor = answer.json()
        return bytes(answer.content)

    def finish(self) -> None:
        """End it."""
        self._post(f"floor/sessions/{self._floor['id']}/finish", {"srpe": 6, "minutes": 60})

    def _post(self, path: str, body: dict[str, Any]) -> Any:
        headers = {"Idempotency-Key": uuid.uuid4().hex}
        answer = self._client.post(f"/api/{path}", json.dumps(body), content_type="application/json", headers=headers)
        if answer.status_code != 200:
            raise SystemExit(f"{path}: {answer.status_code} {answer.content[:200]!r}")
        return answer

    def _begun(self) -> Any:
        today = date.fromisoformat(self._client.get("/api/today").json()["day"])
        monday = today + timedelta(days=7 - today.weekday())
        athlete, _ = shown(self._client)
        for ahead in range(WEEKS_AHEAD):
            start = monday + timedelta(weeks=ahead)
            week = self._client.get(f"/api/athletes/{athlete.pk}/week?start={start}").json()["week"]
            for day in (week or {"days": []})["days"]:
                free = day["sheet"] and not TrainingSession.objects.filter(athlete=athlete, day=day["sheet"]["day"]).exists()
                if free and date.fromisoformat(day["sheet"]["day"]) >= today:
                    wanted = {"athlete_id": athlete.pk, "day": day["sheet"]["day"], "key": day["sheet"]["key"]}
                    return self._post("floor/sessions", wanted).json()
        raise SystemExit("The athlete has no session ahead.")


def set_row(client: Client) -> str:
    """How much of the processor one set takes with its advice and the answer, at hand from the set before."""
    empty, session = empty_ms(client), Session(client)
    times: list[float] = []
    queries: list[str] = []
    content = b""
    for n in range(1, ROUNDS + 1):
        if session.is_over:
            break
        if n == ASKED_IN:  # writing down what is asked takes time itself: this one is not counted
            with CaptureQueriesContext(connection) as asked:
                content = session.log()
            queries = [q["sql"] for q in asked]
        else:
            began = time.process_time()
            content = session.log()
            times.append(1000 * (time.process_time() - began))
    session.finish()
    return row("A set logged, of the processor", None, times[1:], queries, content, empty)


def after_sets(client: Client) -> None:
    """How long pages take that are made again: each time somebody whom they show has logged one more set."""
    session = Session(client)
    print("\n| after a set of somebody on it | p50, ms | most, ms |\n|---|---|---|")
    for name, path in pages(client):
        if name in CHANGING:
            times: list[float] = []
            timed(client, path)
            for _ in range(AFTER_SETS):
                if session.is_over:
                    session.finish()
                    session = Session(client)
                session.log()
                times.append(timed(client, path)[1])
            print(f"| {name} | {statistics.median(times):.0f} | {max(times):.0f} |", flush=True)
    session.finish()


def main() -> None:
    parser = argparse.ArgumentParser()
    parser.add_argument("--only", default="", help="pages whose name holds this")
    only = parser.parse_args().only
    client = Client()
    client.force_login(get_user_model().objects.order_by("pk").first())
    print(f"{Athlete.here.count()} athletes, {SetRecord.objects.count()} sets, {size_mb():.0f} MB, {connection.vendor}\n")
    print("| page | nothing kept, ms | p50, ms | p95, ms | queries | kB | same rows and text, ms | ratio | empty requests |")
    print("|---|---|---|---|---|---|---|---|---|")
    settle()
    for name, path in pages(client):
        if only in name:
            print(page_row(client, name, path), flush=True)
    if not only:
        print(set_row(client))
        after_sets(client)


if __name__ == "__main__":
    main()

"""How long the main pages take at the server of a large centre, beside reading the same rows and writing the same text.

Run with JARVOK_VAR naming the folder of a centre, as `make bench-large` does. Every figure is of this machine at this moment.
"""

from __future__ import annotations

import argparse
import json
import os
import sqlite3
import statistics
import time
from pathlib import Path
from typing import Any

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "jarvok.app.settings")
os.environ.setdefault("JARVOK_HOSTS", "testserver")

import django

django.setup()

from django.conf import settings  # noqa: E402  the applications have to be loaded first
from django.contrib.auth import get_user_model  # noqa: E402
from django.db import connection  # noqa: E402
from django.test import Client  # noqa: E402
from django.test.utils import CaptureQueriesContext  # noqa: E402

from jarvok.app.athletes.kept_known import forget_all_kept  # noqa: E402
from jarvok.app.facts.athletes.models import Athlete  # noqa: E402
from jarvok.app.facts.floor.models import SetRecord  # noqa: E402

ROUNDS = 20


def pages(client: Client) -> list[tuple[str, str]]:
    """Each page by name and address, for an athlete who trains today and their squad."""
    for athlete in Athlete.here.order_by("-pk"):
        week = client.get(f"/api/athletes/{athlete.pk}/week").json()["week"]
        day = next((d for d in (week or {"days": []})["days"] if d["sheet"]), None)
        if day is not None:
            break
    else:
        raise SystemExit("Nobody has a session this week.")
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
    rows = sqlite3.connect(settings.DATABASES["default"]["NAME"])
    said, best = json.loads(content), float("inf")
    for _ in range(5):
        began = time.perf_counter()
        for sql in queries:
            rows.execute(sql).fetchall()
        json.dumps(said)
        best = min(best, time.perf_counter() - began)
    return 1000 * best


def main() -> None:
    parser = argparse.ArgumentParser()
    parser.add_argument("--only", default="", help="pages whose name holds this")
    only = parser.parse_args().only
    client = Client()
    client.force_login(get_user_model().objects.order_by("pk").first())
    size = Path(settings.DATABASES["default"]["NAME"]).stat().st_size / 1e6
    print(f"{Athlete.here.count()} athletes, {SetRecord.objects.count()} sets, {size:.0f} MB\n")
    print("| page | nothing kept, ms | p50, ms | p95, ms | queries | kB | same rows and text, ms | ratio |")
    print("|---|---|---|---|---|---|---|---|")
    for name, path in pages(client):
        if only not in name:
            continue
        forget_all_kept()
        _, first = timed(client, path)
        timed(client, path)
        times = sorted(timed(client, path)[1] for _ in range(ROUNDS))
        with CaptureQueriesContext(connection) as asked:
            answer, _ = timed(client, path)
        bound = bound_ms([q["sql"] for q in asked if q["sql"].startswith("SELECT")], answer.content)
        middle, late = statistics.median(times), times[round(0.95 * (ROUNDS - 1))]
        print(
            f"| {name} | {first:.0f} | {middle:.0f} | {late:.0f} | {len(asked)} | {len(answer.content) / 1024:.0f} "
            f"| {bound:.1f} | {middle / bound:.0f} |",
            flush=True,
        )


if __name__ == "__main__":
    main()

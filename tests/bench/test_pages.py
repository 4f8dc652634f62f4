"""Pages at the server on the demo data, measured with `make bench`; the bound is reading the same rows as plain tuples."""

from __future__ import annotations

import time
from datetime import timedelta
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.core.management import call_command
from django.test import Client

from jarvok.app import clock
from jarvok.app.athletes.models import Athlete, MarkRecord

pytestmark = pytest.mark.django_db
LIFTS = ("back_squat", "bench_press", "trap_bar_deadlift", "front_squat", "prone_row")
KINDS = ("rep_max", "amrap", "set_rir")


@pytest.fixture(scope="module")
def centre(django_db_setup, django_db_blocker) -> Any:
    """The demo centre; the first athlete has three years of marks, 5,000 of them."""
    with django_db_blocker.unblock():
        call_command("demo_data", verbosity=0)
        athlete, today = Athlete.objects.first(), clock.today()
        MarkRecord.objects.bulk_create(
            MarkRecord(
                athlete=athlete, exercise_id=LIFTS[i % 5], kind=KINDS[i % 3], day=today - timedelta(days=(i * 37) % 1095),
                load_kg=80 + (i * 7) % 15, reps=5, rir=1,
            )
            for i in range(5000)
        )  # fmt: skip
        client = Client()
        client.force_login(get_user_model().objects.first())
        yield client, athlete
        call_command("flush", verbosity=0, interactive=False)


@pytest.mark.parametrize(
    "page", ["today", "athletes", "athletes/{}", "athletes/{}/standing", "athletes/{}/season", "athletes/{}/week"]
)
def test_a_page(benchmark, centre, page: str) -> None:
    client, athlete = centre
    path = "/api/" + page.format(athlete.pk)
    assert client.get(path).status_code == 200
    benchmark(client.get, path)
    began = time.perf_counter()
    rows = list(MarkRecord.objects.filter(athlete=athlete).values_list("day", "load_kg", "reps"))
    bound = time.perf_counter() - began
    best, median = benchmark.stats["min"], benchmark.stats["median"]
    print(f"\n{path}: best {1000 * best:.0f} ms, median {1000 * median:.0f} ms · reading {len(rows)} marks {1000 * bound:.0f} ms")

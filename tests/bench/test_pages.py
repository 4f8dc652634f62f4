"""Pages at the server on the demo data, measured with `make bench`; the bound is reading the same rows as plain tuples."""

from __future__ import annotations

import gc
import time
from datetime import timedelta
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.core.management import call_command
from django.test import Client

from jarvok.app import clock
from jarvok.app.athletes import kept_known
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.collector import settle
from jarvok.app.facts.athletes.models import Athlete, MarkRecord, Squad
from jarvok.app.facts.floor.models import SessionLine, SetRecord, TrainingSession
from jarvok.app.facts.seasons.models import Entry

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
        # as on a server, where nothing is read inside a transaction: what is worked out is kept
        outside, kept_known.inside_transaction = kept_known.inside_transaction, lambda: False
        client = Client()
        client.force_login(get_user_model().objects.first())
        settle()  # as the server does when it starts
        yield client, athlete
        gc.unfreeze()
        kept_known.inside_transaction = outside
        call_command("flush", verbosity=0, interactive=False)


@pytest.mark.parametrize(
    "page",
    [
        "today",
        "athletes",
        "athletes/{}",
        "athletes/{}/standing",
        "athletes/{}/season",
        "athletes/{}/week",
        "learning/athlete/{}?weeks=26",
        "findings/athlete/{}",
        "learning/squad/2?weeks=26",
        "learning/squad/2/bests?weeks=26",
        "athletes/{}/report?weeks=26",
        "squads/2/report?weeks=26",
    ],
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


def test_the_week_of_a_squad_of_forty(benchmark, centre) -> None:
    """Ten handball players with their year, and thirty more of the squad with the same season and marks of their own."""
    client, _ = centre
    squad = Squad.objects.get(sport="handball")
    if squad.athletes.count() < 40:
        goal = Entry.objects.filter(athlete__squad=squad, competition__day__gte=clock.today()).first()
        for i in range(40 - squad.athletes.count()):
            mate = Athlete.objects.create(squad=squad, name=f"Mate {i:02d}", training_age_years=3)
            Entry.objects.create(athlete=mate, competition=goal.competition, planned_from=goal.planned_from)
            MarkRecord.objects.bulk_create(
                MarkRecord(
                    athlete=mate, exercise_id=x, kind="one_rm", day=clock.today() - timedelta(days=20), load_kg=90 + i, reps=1
                )
                for x in LIFTS
            )
    path = f"/api/squads/{squad.pk}/week"
    first = []
    for _ in range(5):
        LiftBook(squad.athletes.select_related("squad"), clock.today())  # read ahead on a server; the week is not
        for kept in kept_known.kept_of(squad.athletes.values_list("pk", flat=True)).values():
            for key in [k for k in kept if k != kept_known.LIFTS]:
                del kept[key]
        began = time.perf_counter()
        assert len(client.get(path).json()["rows"]) == 40
        first.append(time.perf_counter() - began)
    benchmark(client.get, path)
    began = time.perf_counter()
    rows = list(MarkRecord.objects.filter(athlete__squad=squad).values_list("athlete_id", "day", "load_kg"))
    bound = time.perf_counter() - began
    best, median = benchmark.stats["min"], benchmark.stats["median"]
    print(
        f"\nweek of 40 athletes: first after a change {1000 * sorted(first)[2]:.0f} ms; "
        f"again best {1000 * best:.0f} ms, median {1000 * median:.0f} ms "
        f"· reading {len(rows)} marks {1000 * bound:.0f} ms"
    )


def test_a_session_moved_and_the_week_checked_again(benchmark, centre) -> None:
    client, _ = centre
    athlete = Athlete.objects.get(name="Odalys Merrin")
    monday = clock.today() + timedelta(days=7 - clock.today().weekday())  # a whole week ahead, whatever day it is measured
    week = client.get(f"/api/athletes/{athlete.pk}/week?start={monday}").json()["week"]
    open_days = [d for d in week["days"] if d["sheet"] and d["sheet"]["state"] == "planned" and not d["is_past"]]
    free = next(d["day"] for d in week["days"] if not d["sheet"] and not d["is_past"] and d["days_to_go"] > 1)
    home, key = open_days[-1]["day"], open_days[-1]["sheet"]["key"]

    def there_and_back() -> None:
        for a, b in ((home, free), (free, home)):
            path = f"/api/athletes/{athlete.pk}/sessions/{a}/{key}/day"
            assert client.put(path, {"day": b}, content_type="application/json").status_code == 200

    benchmark(there_and_back)
    best, median = benchmark.stats["min"] / 2, benchmark.stats["median"] / 2
    print(f"\na session moved, week answered with its checks: best {1000 * best:.0f} ms, median {1000 * median:.0f} ms")


YEAR_DAYS, DAYS_A_WEEK, SETS_A_LIFT = 364, (0, 2, 4), 4


@pytest.fixture(scope="module")
def forty(centre) -> Squad:
    """Forty athletes with a year of three sessions a week, four lifts of four sets each: about 100,000 sets."""
    squad = Squad.objects.create(name="Forty", sport="handball")
    people = [Athlete.objects.create(squad=squad, name=f"Of forty {n:02d}", training_age_years=3) for n in range(40)]
    today = clock.today()
    days = [today - timedelta(days=n) for n in range(1, YEAR_DAYS) if (today - timedelta(days=n)).weekday() in DAYS_A_WEEK]
    sessions = TrainingSession.objects.bulk_create(
        TrainingSession(
            athlete=a, day=d, key="1", theme="Year", started_at=clock.now(), finished_at=clock.now(), srpe=6, minutes=55
        )
        for a in people
        for d in days
    )
    told = [{"reps": 5, "load_kg": 80.0, "share_of_max": 0.8}] * SETS_A_LIFT
    lines = SessionLine.objects.bulk_create(
        SessionLine(
            session=s, order=n, slot=f"A{n + 1}", block="A", exercise_id=lift, text="4 × 5 @ 80 %", planned=told, role="main"
        )
        for s in sessions
        for n, lift in enumerate(LIFTS[:4])
    )
    SetRecord.objects.bulk_create(
        (
            SetRecord(
                line=line, kind="work", number=n + 1, load_kg=80 + (line.session.day.toordinal() * 7 + n) % 20 / 2, reps=5,
                rir=2, done_at=clock.now(),
            )
            for line in lines
            for n in range(SETS_A_LIFT)
        ),
        batch_size=2000,
    )  # fmt: skip
    return squad


@pytest.mark.parametrize("page", ["report?weeks=4", "report?weeks=26", "bests?weeks=4", "one?weeks=26"])
def test_a_year_of_forty(benchmark, centre, forty: Squad, page: str) -> None:
    client, _ = centre
    path = {
        "bests": f"/api/learning/squad/{forty.pk}/{page}",
        "report": f"/api/squads/{forty.pk}/{page}",
        "one": f"/api/athletes/{forty.athletes.first().pk}/report?{page.partition('?')[2]}",
    }[page.partition("?")[0]]
    assert client.get(path).status_code == 200
    benchmark.pedantic(client.get, args=(path,), rounds=5, warmup_rounds=1)
    began = time.perf_counter()
    rows = list(SetRecord.objects.filter(line__session__athlete__squad=forty).values_list("pk", "load_kg", "reps"))
    bound = time.perf_counter() - began
    best, median = benchmark.stats["min"], benchmark.stats["median"]
    print(f"\n{path}: best {1000 * best:.0f} ms, median {1000 * median:.0f} ms · reading {len(rows)} sets {1000 * bound:.0f} ms")

"""An application with two squads of invented people, made small and quick."""

from __future__ import annotations

import json
import os
import uuid
from collections.abc import Callable, Iterator
from datetime import date, timedelta
from typing import Any

import pytest
from django.contrib.auth import get_user_model
from django.contrib.sessions.models import Session
from django.db import connection
from django.db.models import CharField, Model, QuerySet
from django.db.models.signals import pre_save
from django.dispatch import receiver
from django.test import Client
from support.kept import assert_kept_is_fresh
from support.past import session
from support.replayed import number_rows_anew, replayed
from whitenoise.middleware import WhiteNoiseMiddleware

from jarvok.app import clock
from jarvok.app.athletes import kept_known
from jarvok.app.centre import habits
from jarvok.app.facts.athletes.models import Athlete, MarkRecord, Practice, Squad
from jarvok.app.facts.fact import going_on
from jarvok.app.facts.floor.models import (
    AdviceRecord,
    FloorEvent,
    IdempotentWrite,
    PainReport,
    Rep,
    SensorStream,
    SessionChange,
    SetRecord,
)
from jarvok.app.facts.people.models import Act
from jarvok.app.floor import at_hand, streams
from jarvok.app.plan_acts import SETS_ALONE

TODAY = date(2026, 11, 24)
WITH_SETS = (Act, AdviceRecord, FloorEvent, IdempotentWrite, PainReport, Rep, SensorStream, SessionChange, SetRecord, Session)
CHECKS_KEPT = os.environ.get("JARVOK_KEPT") == "1"  # after every write of every test: takes three times as long


@pytest.fixture(autouse=True)
def fixed_day(settings, monkeypatch) -> None:
    # a test runs inside a transaction of its own: what counts is whether one more is open
    monkeypatch.setattr(kept_known, "inside_transaction", lambda: any(not b._from_testcase for b in connection.atomic_blocks))
    settings.TODAY = TODAY.isoformat()
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]  # quick, for tests only
    streams._live.clear()
    at_hand.forget_all()
    kept_known.forget_all_kept()


@pytest.fixture(scope="session", autouse=True)
def files_looked_for_once() -> Iterator[None]:
    """Every client puts the middleware together anew; the files of the pages are looked for by the first alone."""
    with pytest.MonkeyPatch.context() as patch:
        look, found = WhiteNoiseMiddleware.add_files_from_finders, {}

        def looked_for(self: Any) -> None:
            if not found:
                look(self)
                found.update(self.files)
            self.files |= found

        patch.setattr(WhiteNoiseMiddleware, "add_files_from_finders", looked_for)
        yield


@receiver(pre_save)
def fits_its_column(instance: Model, **_: Any) -> None:
    """SQLite stores words of any length; PostgreSQL refuses those longer than their column."""
    for column in instance._meta.concrete_fields:
        value = getattr(instance, column.attname)
        assert not (
            isinstance(column, CharField) and isinstance(value, str) and len(value) > (column.max_length or len(value))
        ), f"{instance._meta.label}.{column.name} takes {column.max_length} characters: {value}"


@receiver(pre_save)
def writes_sets_alone(instance: Model, **_: Any) -> None:
    """An act over which what a plan is laid from is kept writes nothing of it."""
    act = going_on.get()
    if act is not None and act.verb in SETS_ALONE:
        assert isinstance(instance, WITH_SETS), f"{act.verb} writes {instance._meta.label}"


@pytest.fixture
def numbers(db) -> None:
    """A test's rows have the same numbers each time, so that what others began with can be written again."""
    number_rows_anew()


@pytest.fixture
def squad(numbers) -> Squad:
    squad = Squad.objects.create(name="Test harbour wrestling", sport="wrestling")
    Practice.objects.bulk_create(
        Practice(squad=squad, weekday=weekday, hour=18, minutes=90, hardness=hardness)
        for weekday, hardness in ((0, 6), (2, 8), (3, 5), (5, 8))
    )
    return squad


@pytest.fixture
def athlete(squad: Squad) -> Athlete:
    athlete = Athlete.objects.create(
        squad=squad, name="Ada Test", training_age_years=5, body_mass_class="62 kg", class_limit_kg=62
    )
    MarkRecord.objects.bulk_create(
        MarkRecord(athlete=athlete, exercise_id=lift, kind=kind, day=date(2026, month, 2), load_kg=kg, reps=reps)
        for lift, kind, kg, reps, month in (
            ("trap_bar_deadlift", "one_rm", 120, 1, 10),
            ("bench_press", "rep_max", 57.5, 5, 11),
            ("prone_row", "rep_max", 50, 8, 11),
            ("back_squat", "rep_max", 80, 6, 11),
        )
    )
    return athlete


@pytest.fixture(autouse=True)
def habits_of_this_test() -> Iterator[None]:
    """How another test's centre says things is not known here."""
    habits.unread()
    yield
    habits.unread()
    clock.live_in("")


@pytest.fixture(autouse=True)
def written_behind_its_back(monkeypatch) -> None:
    """What a test changes in the tables without an act moves no version: nothing of before it is kept, then."""
    for name in ("update", "bulk_create", "bulk_update", "delete"):
        way = getattr(QuerySet, name)

        def written(rows: Any, *args: Any, way: Any = way, **more: Any) -> Any:
            if going_on.get() is None and issubclass(rows.model, kept_known.COUNTED) and set(more) != {"measured"}:
                kept_known.forget_all_kept()
            return way(rows, *args, **more)

        monkeypatch.setattr(QuerySet, name, written)


class Coach:
    """A signed-in client that speaks JSON and sends idempotency keys."""

    def __init__(self, client: Client) -> None:
        self.client = client

    def get(self, path: str) -> Any:
        response = self.client.get(f"/api/{path}")
        assert response.status_code == 200, response.content
        return response.json()

    def send(self, method: str, path: str, body: Any = None, key: str | None = None) -> Any:
        response = self.client.generic(
            method,
            f"/api/{path}",
            data="" if body is None else json.dumps(body),
            content_type="application/json",
            HTTP_IDEMPOTENCY_KEY=key or uuid.uuid4().hex,
        )
        return response

    def ok(self, method: str, path: str, body: Any = None, key: str | None = None) -> Any:
        response = self.send(method, path, body, key)
        assert response.status_code == 200, response.content
        if CHECKS_KEPT:
            assert_kept_is_fresh(f"{method} {path}")
        return response.json()


@pytest.fixture
def coach(numbers, client: Client) -> Coach:
    def signed_in() -> dict[str, str]:
        user = get_user_model().objects.create_user("tester", password="a long enough word")
        client.force_login(user)
        return {name: cookie.value for name, cookie in client.cookies.items()}

    client.cookies.load(replayed("signed in", signed_in, ("auth_user", "people_signedin")))
    return Coach(client)


def made_or_replayed(name: str, make: Callable[[], Any]) -> Any:
    """What a test begins with; nothing of how it was made is kept in the process, so that it is the same both ways."""
    found = replayed(name, make)
    kept_known.forget_all_kept()
    at_hand.forget_all()
    return found


@pytest.fixture
def season(coach: Coach, athlete: Athlete) -> Any:
    path = f"athletes/{athlete.pk}/competitions"
    found = made_or_replayed("season", lambda: coach.ok("POST", path, {"name": "Test Open", "day": "2027-04-03"})["season"])
    coach.get("me")  # made or replayed, the coach has asked for something before what a test counts
    return found


@pytest.fixture
def sheet(coach: Coach, athlete: Athlete, season: Any) -> Any:
    def made() -> Any:
        week = coach.get(f"athletes/{athlete.pk}/week?start=2026-11-30")["week"]
        return next(d["sheet"] for d in week["days"] if d["sheet"] and d["sheet"]["key"] == "A")

    return made_or_replayed("sheet", made)


@pytest.fixture
def warm(coach: Coach, athlete: Athlete, season: Any, sheet: Any) -> Athlete:
    """An athlete of whom everything is kept."""
    session(athlete, TODAY - timedelta(days=5), (80, 5, 2), (85, 5, 1))
    coach.get("today")
    coach.get("athletes")
    assert kept_known.kept_of([athlete.pk])[athlete.pk]
    return athlete


@pytest.fixture
def floor(coach: Coach, athlete: Athlete, sheet: Any) -> Any:
    def made() -> Any:
        path = f"athletes/{athlete.pk}/sessions/{sheet['day']}/A/lines/A1"
        coach.ok("PUT", path, {"text": "4 × 5 @ 75 %"})
        return coach.ok("POST", "floor/sessions", {"athlete_id": athlete.pk, "day": sheet["day"], "key": "A"})

    return made_or_replayed("floor", made)

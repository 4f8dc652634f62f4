"""The API document is what the code says; nothing sent to it makes a 500."""

from __future__ import annotations

import json
import os
from collections.abc import Iterator
from contextlib import suppress
from datetime import date
from itertools import count
from pathlib import Path

import pytest
import schemathesis
from conftest import Coach
from django.apps import apps
from django.contrib.auth import get_user_model
from django.core.signals import request_finished, request_started
from django.core.wsgi import get_wsgi_application
from django.db import close_old_connections, transaction
from django.test import Client, override_settings
from hypothesis import HealthCheck, settings

from jarvok.app.facts.athletes.models import Athlete, MarkRecord, Practice, Squad
from jarvok.app.facts.fact import Fact
from jarvok.app.facts.seasons.models import Entry
from jarvok.app.urls import api

ROOT = Path(__file__).resolve().parents[2]


def test_the_openapi_document_is_frozen() -> None:
    written = json.loads((ROOT / "docs" / "openapi.json").read_text())
    assert json.loads(json.dumps(api.get_openapi_schema(), default=str)) == written


EXAMPLES = int(os.environ.get("JARVOK_FUZZ", "3"))  # an operation; new ones are drawn each run
schema = schemathesis.openapi.from_path(ROOT / "docs" / "openapi.json")
schema.config.phases.coverage.enabled = "JARVOK_FUZZ" in os.environ  # every edge of every shape: some ten thousand requests more


drawn = count()
FACTS = [m for m in apps.get_models() if issubclass(m, Fact)]


def by_nobody() -> int:
    return sum(m.objects.filter(act__isnull=True).count() for m in FACTS)


@pytest.fixture(scope="module")
def held(django_db_setup, django_db_blocker) -> Iterator[tuple[Coach, dict[str, object]]]:
    """What addresses may name, made once for all operations: half of what is drawn names something that is there."""
    with django_db_blocker.unblock(), override_settings(TODAY="2026-11-24"), suppress(Undone), transaction.atomic():
        client = Client()
        client.force_login(get_user_model().objects.create_user("tester", password="a long enough word"))
        coach = Coach(client)
        squad = Squad.objects.create(name="Test harbour wrestling", sport="wrestling")
        Practice.objects.create(squad=squad, weekday=0, hour=18, minutes=90, hardness=6)
        athlete = Athlete.objects.create(squad=squad, name="Ada Test", training_age_years=5)
        MarkRecord.objects.create(athlete=athlete, exercise_id="back_squat", kind="one_rm", day=date(2026, 11, 2), load_kg=100)
        coach.ok("POST", f"athletes/{athlete.pk}/competitions", {"name": "Test Open", "day": "2027-04-03"})
        week = coach.get(f"athletes/{athlete.pk}/week?start=2026-11-30")["week"]
        day = next(d["sheet"]["day"] for d in week["days"] if d["sheet"] and d["sheet"]["key"] == "A")
        with override_settings(TODAY=day):
            begin = {"athlete_id": athlete.pk, "day": day, "key": "A", "as_today": False}
            session = coach.ok("POST", "floor/sessions", begin)
            room = coach.ok("POST", "room", {"squad_id": squad.pk})
            yield coach, {
                "athlete_id": athlete.pk, "squad_id": squad.pk, "session_id": session["id"], "room_id": room["id"], "rack": 1,
                "day": day, "key": "B", "line": "A1", "line_id": session["lines"][0]["id"], "exercise_id": "back_squat",
                "competition_id": Entry.objects.values_list("pk", flat=True).first(), "start": day, "whose": "athletes",
            }  # fmt: skip
        raise Undone


class Undone(Exception):
    """Takes back what was made for this file."""


@pytest.fixture
def there(held, db, settings) -> dict[str, object]:
    settings.TODAY = str(held[1]["day"])
    return held[1]


@pytest.fixture
def wsgi(held, there):
    coach = held[0]
    before = by_nobody()
    token = coach.client.get("/api/me").json()["csrf_token"]
    cookies = "; ".join(f"{name}={coach.client.cookies[name].value}" for name in ("sessionid", "csrftoken"))
    app = get_wsgi_application()

    def signed_in(environ, start_response):  # the fuzzer's own client drops cookies that it did not make
        return app({**environ, "HTTP_COOKIE": cookies, "HTTP_X_CSRFTOKEN": token}, start_response)

    for signal in (request_started, request_finished):  # as Django's own test client: the test's transaction is kept open
        signal.disconnect(close_old_connections)
    yield signed_in
    for signal in (request_started, request_finished):
        signal.connect(close_old_connections)
    assert by_nobody() <= before, "a fact was written that does not say who wrote it"


@schema.parametrize()
@settings(max_examples=EXAMPLES, deadline=None, suppress_health_check=list(HealthCheck))
def test_no_request_makes_a_500_or_an_answer_that_is_not_written_down(case, wsgi, there) -> None:
    if case.path.endswith("/simulate"):
        return  # would start a process
    if case.path_parameters and next(drawn) % 2:
        case.path_parameters = {name: there.get(name, value) for name, value in case.path_parameters.items()}
    response = case.call(app=wsgi, base_url="http://testserver")
    assert response.status_code < 500, response.text
    if response.status_code >= 400:
        assert response.headers["content-type"] == ["application/problem+json"], response.text
    if response.status_code == 405:  # methods are tried that the document does not name
        assert case.method.upper() != case.operation.method.upper()
        return
    assert str(response.status_code) in case.operation.definition.raw["responses"], (response.status_code, response.text)


def test_no_two_shapes_have_one_name() -> None:
    """The document knows shapes by their names alone: a second one would stand in the place of the first."""
    from jarvok.app.schema import Schema

    def below(kind: type) -> list[type]:
        return [kind, *(k for sub in kind.__subclasses__() for k in below(sub))]

    named: dict[str, set[str]] = {}
    for kind in below(Schema):
        if kind.__module__.startswith("jarvok.app.api"):
            named.setdefault(kind.__name__, set()).add(kind.__module__)
    assert {name: where for name, where in named.items() if len(where) > 1} == {}

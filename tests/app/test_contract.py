"""The API document is what the code says; nothing sent to it makes a 500."""

from __future__ import annotations

import json
import os
from pathlib import Path

import pytest
import schemathesis
from django.apps import apps
from django.core.wsgi import get_wsgi_application
from hypothesis import HealthCheck, settings

from jarvok.app.facts.fact import Fact
from jarvok.app.urls import api

ROOT = Path(__file__).resolve().parents[2]


def test_the_openapi_document_is_frozen() -> None:
    written = json.loads((ROOT / "docs" / "openapi.json").read_text())
    assert json.loads(json.dumps(api.get_openapi_schema(), default=str)) == written


EXAMPLES = int(os.environ.get("JARVOK_FUZZ", "6"))  # an operation; new ones are drawn each run
schema = schemathesis.openapi.from_path(ROOT / "docs" / "openapi.json")


FACTS = [m for m in apps.get_models() if issubclass(m, Fact)]


def by_nobody() -> int:
    return sum(m.objects.filter(act__isnull=True).count() for m in FACTS)


@pytest.fixture
def wsgi(db, coach, athlete):
    before = by_nobody()
    yield get_wsgi_application(), coach.client.cookies["sessionid"].value
    assert by_nobody() <= before, "a fact was written that does not say who wrote it"


@schema.parametrize()
@settings(max_examples=EXAMPLES, deadline=None, suppress_health_check=list(HealthCheck))
def test_no_request_makes_a_500(case, wsgi) -> None:
    app, session = wsgi
    if case.path.endswith("/simulate"):
        return  # would start a process
    response = case.call(app=app, base_url="http://testserver", cookies={"sessionid": session})
    assert response.status_code < 500, response.text

"""The API document is what the code says; nothing sent to it makes a 500; the demo holds together."""

from __future__ import annotations

import json
from datetime import date
from pathlib import Path

import pytest
import schemathesis
from django.core.management import call_command
from django.core.wsgi import get_wsgi_application
from hypothesis import HealthCheck, settings

from jarvok.app.athletes.models import Athlete, Squad
from jarvok.app.athletes.queries import LiftBook
from jarvok.app.demo.management.commands import demo_data
from jarvok.app.floor.models import Rep, SetRecord
from jarvok.app.urls import api

ROOT = Path(__file__).resolve().parents[2]


def test_the_openapi_document_is_frozen() -> None:
    written = json.loads((ROOT / "docs" / "openapi.json").read_text())
    assert json.loads(json.dumps(api.get_openapi_schema(), default=str)) == written


schema = schemathesis.openapi.from_path(ROOT / "docs" / "openapi.json")


@pytest.fixture
def wsgi(db, coach, athlete):
    return get_wsgi_application(), coach.client.cookies["sessionid"].value


@schema.parametrize()
@settings(max_examples=12, deadline=None, suppress_health_check=list(HealthCheck))
def test_no_request_makes_a_500(case, wsgi) -> None:
    app, session = wsgi
    if case.path.endswith("/simulate"):
        return  # would start a process
    response = case.call(app=app, base_url="http://testserver", cookies={"sessionid": session})
    assert response.status_code < 500, response.text


@pytest.mark.django_db
class TestDemo:
    @pytest.fixture(autouse=True)
    def fill(self) -> None:
        demo_data.fill(date(2026, 11, 24), weeks=12)

    def test_three_squads_and_a_wrestler_without_a_season(self) -> None:
        assert set(Squad.objects.values_list("sport", flat=True)) == {"wrestling", "handball", "weightlifting"}
        ilka = Athlete.objects.get(name="Ilka Brandvold")
        assert not ilka.competitions.filter(day__gte=date(2026, 11, 24)).exists()
        assert {m.kind for m in ilka.marks.all()} >= {"one_rm", "rep_max"}

    def test_estimates_find_the_hidden_strength(self) -> None:
        """The simulator knows the truth: estimates lie within three of their own errors, nearly always."""
        book = LiftBook(Athlete.objects.all(), date(2026, 11, 24))
        hits, count = 0, 0
        for athlete in book.athletes.values():
            for lift, truth in athlete.simulated["lifts"].items():
                found = book.max(athlete.pk, lift)
                if found is not None:
                    count += 1
                    hits += abs(found.value_kg - truth["one_rm_kg"]) < 3 * found.error_kg
        assert count > 80
        assert hits / count > 0.95

    def test_filling_twice_adds_nothing(self) -> None:
        before = (SetRecord.objects.count(), Rep.objects.count())
        call_command("demo_data", stdout=open("/dev/null", "w"))  # noqa: SIM115  # closed with the process
        assert (SetRecord.objects.count(), Rep.objects.count()) == before

    def test_today_has_work_and_decisions_in_it(self, coach, settings) -> None:
        settings.TODAY = "2026-11-24"
        today = coach.get("today")
        assert today["sessions"]
        assert any(d["kind"] == "season" and d["athlete_name"] == "Ilka Brandvold" for d in today["decisions"])
        assert [g["competition"] for g in today["goals"]] == ["Winter Cup final", "Gannet Sound Open", "Coast championship"]

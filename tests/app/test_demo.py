"""The demo centre holds together: people, work and decisions, and a strength that the estimates find."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date

import pytest
from django.core.management import call_command
from django.db import transaction

from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.demo.management.commands import demo_data
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.facts.floor.models import Rep, SetRecord


@pytest.fixture(scope="module")
def centre(django_db_setup, django_db_blocker) -> Iterator[None]:
    """Twelve weeks of the demo, filled once for this file and taken back after it."""
    with django_db_blocker.unblock(), transaction.atomic():
        demo_data.fill(date(2026, 11, 24), weeks=12)
        yield
        transaction.set_rollback(True)


@pytest.mark.django_db
@pytest.mark.usefixtures("centre")
class TestDemo:
    def test_three_squads_and_a_wrestler_without_a_season(self) -> None:
        assert set(Squad.objects.values_list("sport", flat=True)) == {"wrestling", "handball", "weightlifting"}
        ilka = Athlete.objects.get(name="Ilka Brandvold")
        assert not ilka.entered.filter(competition__day__gte=date(2026, 11, 24)).exists()
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
        assert today["shared"]
        assert any(d["kind"] == "season" and "Ilka Brandvold" in d["athlete_name"] for d in today["decisions"])
        assert [g["competition"] for g in today["goals"]] == ["Winter Cup final", "Gannet Sound Open", "Coast championship"]

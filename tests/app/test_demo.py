"""The demo centre holds together: people, work and decisions, and a strength that the estimates find."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import date, timedelta

import pytest
from django.core.management import call_command
from django.db import transaction

from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.demo.management.commands import demo_data
from jarvok.app.demo.many import Many, store_numbered
from jarvok.app.facts.athletes.models import Athlete, BodyMass, Squad
from jarvok.app.facts.centre.models import KitRecord
from jarvok.app.facts.floor.models import Rep, SetRecord
from jarvok.app.facts.writing import look_over_tables


@pytest.fixture(scope="module")
def centre(django_db_setup, django_db_blocker) -> Iterator[None]:
    """Twelve weeks of the demo, filled once for this file and taken back after it."""
    with django_db_blocker.unblock(), transaction.atomic():
        demo_data.fill(date(2026, 11, 24), weeks=12)
        look_over_tables()
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


@pytest.mark.django_db
def test_rows_stored_by_the_thousand_are_what_each_would_be(squad: Squad) -> None:
    people = [Athlete.objects.create(squad=squad, name=name) for name in ("Ada", "Bo")]
    Many([]).store()
    rows = [BodyMass(athlete=people[n % 2], day=date(2026, 11, 1) + timedelta(days=n), mass_kg=80 + n / 2) for n in range(40)]
    Many(rows).store()
    one = BodyMass(athlete=people[0], day=rows[0].day, mass_kg=80.0)
    one.save()
    stored = BodyMass.objects.filter(athlete__in=people).order_by("pk")
    assert [(m.athlete_id, m.day, m.mass_kg) for m in stored][:40] == [(m.athlete_id, m.day, m.mass_kg) for m in rows]
    by_itself = BodyMass.objects.get(pk=one.pk)
    columns = [f.attname for f in BodyMass._meta.concrete_fields if not f.primary_key]
    assert [getattr(stored[0], c) for c in columns] == [getattr(by_itself, c) for c in columns]
    kit = KitRecord(name="Hall", bar_kg=20)
    Many([kit]).store()
    assert KitRecord.objects.get(name="Hall").attachments == kit.attachments


@pytest.mark.django_db
def test_rows_stored_again_differ_in_what_was_to_be_changed_and_in_nothing_else(squad: Squad) -> None:
    ada, bo = (Athlete.objects.create(squad=squad, name=name) for name in ("Ada", "Bo"))
    rows = Many([BodyMass(athlete=ada, day=date(2026, 11, n + 1), mass_kg=80.0 + n) for n in range(3)])
    rows.store()
    rows.store(athlete_id=bo.pk, mass_kg=[90.0, 91.0, 92.0])
    stored = BodyMass.objects.filter(athlete__in=[ada, bo]).order_by("pk")
    assert list(stored.values_list("athlete", "day__day", "mass_kg")) == [
        (ada.pk, 1, 80.0), (ada.pk, 2, 81.0), (ada.pk, 3, 82.0), (bo.pk, 1, 90.0), (bo.pk, 2, 91.0), (bo.pk, 3, 92.0),
    ]  # fmt: skip
    with pytest.raises(ValueError, match="weight"):
        rows.store(weight=3)
    with pytest.raises(ValueError, match="shorter"):
        rows.store(mass_kg=[90.0])
    kit = Many([KitRecord(name="Hall", bar_kg=20)])
    kit.store(name="Annex", attachments=kit.prepared("attachments", [["rope"]]))
    assert KitRecord.objects.get(name="Annex").attachments == ["rope"]


@pytest.mark.django_db
def test_rows_that_others_hang_on_learn_their_numbers(squad: Squad) -> None:
    Athlete.objects.create(squad=squad, name="There before")
    store_numbered([])
    rows = [Athlete(squad=squad, name=name) for name in ("Ada", "Bo", "Cy")]
    store_numbered(rows)
    assert [Athlete.objects.get(pk=row.pk).name for row in rows] == ["Ada", "Bo", "Cy"]
    rows[1].name = "Bodil"
    rows[1].save()
    here = Athlete.objects.filter(squad=squad).order_by("pk")
    assert [a.name for a in here] == ["There before", "Ada", "Bodil", "Cy"]

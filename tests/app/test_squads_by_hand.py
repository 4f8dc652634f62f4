"""Squads renamed and removed, athletes archived, brought back and erased."""

from __future__ import annotations

from datetime import date

import pytest
from django.contrib.auth.models import User

from jarvok.app import clock
from jarvok.app.athletes.actions.erase_athlete import NOBODY
from jarvok.app.facts.athletes.models import Athlete, Erased, MarkRecord, Squad
from jarvok.app.facts.people.models import Act, Person, Role

pytestmark = pytest.mark.django_db


def names(coach) -> list[str]:
    return [a["name"] for s in coach.get("names") for a in s["athletes"]]


class TestArchive:
    def test_who_has_left_stands_in_no_list_and_keeps_everything(self, coach, athlete, season) -> None:
        other = Athlete.objects.create(squad=athlete.squad, name="Bo Other")
        gone = coach.ok("POST", f"athletes/{athlete.pk}/archive")
        assert [(a["name"], a["archived_on"]) for a in gone["archived"]] == [("Ada Test", str(clock.today()))]
        assert names(coach) == ["Bo Other"]
        assert [a["name"] for s in coach.get("athletes") for a in s["athletes"]] == ["Bo Other"]
        assert coach.get("today")["athletes"] == 1
        squad = athlete.squad_id
        room = coach.ok("POST", "room", {"squad_id": squad})
        assert [p["athlete_id"] for p in room["people"]] == [other.pk]
        assert coach.get(f"athletes/{athlete.pk}")["lifts"], "the results are there"

    def test_they_come_back_as_they_were(self, coach, athlete) -> None:
        coach.ok("POST", f"athletes/{athlete.pk}/archive")
        assert coach.ok("POST", f"athletes/{athlete.pk}/back")["archived"] == []
        assert names(coach) == ["Ada Test"]

    def test_not_beside_somebody_of_their_name(self, coach, athlete) -> None:
        coach.ok("POST", f"athletes/{athlete.pk}/archive")
        Athlete.objects.create(squad=athlete.squad, name="ada test")
        assert coach.send("POST", f"athletes/{athlete.pk}/back").status_code == 409


class TestErase:
    def test_everything_goes_and_the_name_in_what_was_done(self, coach, athlete, season) -> None:
        coach.ok("POST", f"athletes/{athlete.pk}/masses", {"day": str(date(2026, 11, 20)), "mass_kg": 70})
        Person.objects.create(user=User.objects.create(username="ada"), name="Ada Test", role=Role.ATHLETE, athlete=athlete)
        Act.objects.create(at=clock.now(), verb="x", words="Ada Test added to the squad")
        wrong = coach.send("POST", f"athletes/{athlete.pk}/erase", {"name": "Ada"})
        assert (wrong.status_code, wrong.json()["accepted"]) == (422, "Ada Test")
        assert Athlete.objects.filter(pk=athlete.pk).exists()
        coach.ok("POST", f"athletes/{athlete.pk}/erase", {"name": "Ada Test"})
        assert not Athlete.objects.filter(pk=athlete.pk).exists()
        assert not MarkRecord.objects.exists()
        assert not User.objects.filter(username="ada").exists()
        assert not Act.objects.filter(words__contains="Ada").exists()
        assert Act.objects.filter(words=f"{NOBODY} added to the squad").exists()
        assert Person.objects.filter(name=NOBODY, ended_at__isnull=False).exists()
        assert Erased.objects.get().athlete_id == athlete.pk
        assert coach.get("history")["acts"], "what was done is still there"


class TestSquads:
    def test_renamed(self, coach, squad, athlete) -> None:
        Squad.objects.create(name="Taken", sport="rowing")
        path = f"squads/{squad.pk}"
        assert coach.send("PATCH", path, {"name": " ", "sport": "x"}).json()["where"] == "name"
        assert coach.send("PATCH", path, {"name": "x", "sport": ""}).json()["where"] == "sport"
        assert coach.send("PATCH", path, {"name": "taken", "sport": "x"}).status_code == 409
        coach.ok("PATCH", path, {"name": "First eight", "sport": "Rowing"})
        squad.refresh_from_db()
        assert (squad.name, squad.sport) == ("First eight", "rowing")

    def test_only_an_empty_one_is_removed(self, coach, squad, athlete) -> None:
        coach.ok("POST", f"athletes/{athlete.pk}/archive")
        refused = coach.send("DELETE", f"squads/{squad.pk}")
        assert (refused.status_code, "1 athlete" in refused.json()["title"]) == (409, True)
        empty = Squad.objects.create(name="Empty", sport="rowing")
        coach.ok("DELETE", f"squads/{empty.pk}")
        assert not Squad.objects.filter(name="Empty").exists()

"""Squads renamed and removed, athletes archived, brought back and erased."""

from __future__ import annotations

from datetime import date
from urllib.parse import urlencode

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
        assert [a["name"] for s in coach.get("athletes")["squads"] for a in s["athletes"]] == ["Bo Other"]
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
        coach.ok("POST", f"athletes/{athlete.pk}/masses", {"day": str(date(2026, 11, 20)), "mass": 70})
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


class TestTheListInPages:
    @pytest.fixture
    def many(self, squad: Squad) -> Squad:
        """Sixty athletes in two squads, the second named before the first in no order of making."""
        other = Squad.objects.create(name="Åsund rowing", sport="other")
        for n in range(60):
            Athlete.objects.create(name=f"Rower {n:02d}", squad=other if n % 2 else squad, group="Øst" if n < 4 else "")
        return other

    def test_fifty_at_a_time_each_once_squad_by_squad(self, coach, many: Squad) -> None:
        first = coach.get("athletes")
        assert (first["count"], first["squad_count"], first["found"], first["next_start"]) == (60, 2, 60, 50)
        assert sum(len(s["athletes"]) for s in first["squads"]) == 50
        rest = coach.get("athletes?start=50")
        assert rest["next_start"] is None
        names = [a["name"] for page in (first, rest) for s in page["squads"] for a in s["athletes"]]
        assert sorted(names) == [f"Rower {n:02d}" for n in range(60)]
        assert [s["name"] for s in rest["squads"]] == [first["squads"][-1]["name"]], "the second squad goes on"

    @pytest.mark.parametrize(
        ("q", "found"),
        [("rower 0", 10), ("ÅSUND", 30), ("øst", 4), ("  rower   07 ", 1), ("nobody", 0), ("", 60), ("x" * 500, 0)],
    )
    def test_it_is_looked_for_at_the_server(self, coach, many: Squad, q: str, found: int) -> None:
        page = coach.get(f"athletes?{urlencode({'q': q})}")
        assert (page["found"], page["count"]) == (found, 60)
        assert sum(len(s["athletes"]) for s in page["squads"]) == min(found, 50)

    def test_a_page_works_out_its_own_alone(self, coach, many: Squad, django_assert_max_num_queries) -> None:
        coach.get("athletes?start=50")
        with django_assert_max_num_queries(9):
            coach.get("athletes?start=50")
        assert coach.client.get("/api/athletes?start=-1").status_code == 422
        assert coach.get("athletes?start=500")["squads"] == []

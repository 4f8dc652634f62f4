"""An athlete goes to another squad on a day: at once, or when the day comes."""

from __future__ import annotations

import pytest

from jarvok.app.facts.athletes.models import Athlete, Squad, SquadMove
from jarvok.app.facts.people.models import Act, Person, Role
from jarvok.app.seasons.actions import join_squad
from jarvok.app.upkeep import housekeeper
from jarvok.core.errors import CoachError


@pytest.fixture
def other(db) -> Squad:
    return Squad.objects.create(name="Elsewhere", sport="handball")


def move(coach, athlete: Athlete, squad: Squad, day: str, status: int = 200):
    answer = coach.send("POST", f"athletes/{athlete.pk}/squad-moves", {"squad_id": squad.pk, "day": day})
    assert answer.status_code == status, answer.content
    return answer.json()


def squad_of(athlete: Athlete) -> str:
    return Athlete.objects.select_related("squad").get(pk=athlete.pk).squad.name


def test_today_is_at_once_with_what_lies_ahead(coach, athlete, other) -> None:
    coach.ok("POST", f"squads/{other.pk}/competitions", {"name": "Their Cup", "day": "2027-04-03"})
    Athlete.objects.filter(pk=athlete.pk).update(group="Backs")
    told = move(coach, athlete, other, "2026-11-24")
    assert [(m["squad"], m["is_done"]) for m in told] == [("Elsewhere", True)]
    assert squad_of(athlete) == "Elsewhere"
    assert Athlete.objects.get(pk=athlete.pk).group == ""
    assert coach.get(f"athletes/{athlete.pk}/season")["season"]["name"] == "Their Cup"
    assert Act.objects.latest("pk").words.startswith("Ada Test goes to Elsewhere; changed: squad")


@pytest.mark.parametrize(("today", "is_there"), [("2026-12-02", False), ("2026-12-03", True), ("2026-12-09", True)])
def test_a_day_ahead_comes_by_itself(coach, athlete, other, settings, today: str, is_there: bool) -> None:
    before = squad_of(athlete)
    told = move(coach, athlete, other, "2026-12-03")
    assert [(m["day"], m["is_done"]) for m in told] == [("2026-12-03", False)]
    assert squad_of(athlete) == before
    settings.TODAY = today
    housekeeper.tidy()
    assert squad_of(athlete) == ("Elsewhere" if is_there else before)
    assert SquadMove.objects.get().done_at is not None or not is_there
    acts = Act.objects.count()
    housekeeper.tidy()
    assert Act.objects.count() == acts, "once"


def test_one_that_cannot_be_done_stops_nobody_else(coach, athlete, other, settings, monkeypatch) -> None:
    second = Athlete.objects.create(squad=athlete.squad, name="Bo Second")
    move(coach, athlete, other, "2026-12-03")
    move(coach, second, other, "2026-12-03")
    change = join_squad.change

    def fails_once(who, whom, sent) -> None:
        if whom.pk == athlete.pk:
            raise CoachError("It cannot be.")
        change(who, whom, sent)

    monkeypatch.setattr(join_squad, "change", fails_once)
    settings.TODAY = "2026-12-03"
    housekeeper.tidy()
    assert (squad_of(athlete) != "Elsewhere", squad_of(second)) == (True, "Elsewhere")


def test_one_that_is_ahead_is_taken_back(coach, athlete, other, settings) -> None:
    (ahead,) = move(coach, athlete, other, "2026-12-03")
    assert coach.ok("POST", f"athletes/{athlete.pk}/squad-moves/{ahead['id']}/withdraw") == []
    settings.TODAY = "2026-12-09"
    housekeeper.tidy()
    assert squad_of(athlete) != "Elsewhere"


def test_a_second_one_takes_the_place_of_the_first(coach, athlete, other) -> None:
    third = Squad.objects.create(name="Third", sport="handball")
    move(coach, athlete, other, "2026-12-03")
    assert [m["squad"] for m in move(coach, athlete, third, "2026-12-10")] == ["Third"]


def test_what_is_done_is_not_taken_back(coach, athlete, other) -> None:
    (done,) = move(coach, athlete, other, "2026-11-24")
    answer = coach.send("POST", f"athletes/{athlete.pk}/squad-moves/{done['id']}/withdraw")
    assert (answer.status_code, answer.json()["title"]) == (409, "That move is done. Move them back instead.")


def test_where_they_are_already_or_too_far_ahead(coach, athlete, other) -> None:
    assert "already" in move(coach, athlete, athlete.squad, "2026-12-03", 422)["title"]
    assert "too far" in move(coach, athlete, other, "2027-12-30", 422)["title"]
    assert move(coach, athlete, other, "2027-12-29")


def test_only_to_ones_own_squads(coach, athlete, other) -> None:
    coach.get("today")
    me = Person.objects.get(name="tester")
    me.role = Role.COACH
    me.save()
    me.squads.set([athlete.squad])
    move(coach, athlete, other, "2026-11-24", 403)

"""A squad's page is sent as it was while nothing of the squad, of anybody in it or of the centre has changed."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date, timedelta
from typing import Any

import pytest
from conftest import Coach
from django.db import connection
from django.db.models import F
from django.test.utils import CaptureQueriesContext

from jarvok.app.acts import Who, acting
from jarvok.app.api.kept_page import MOST
from jarvok.app.athletes import kept_squads
from jarvok.app.athletes.kept_known import PAGES, nothing_kept
from jarvok.app.athletes.kept_squads import MOST_SQUADS_KEPT, kept_of_squad, squad_of
from jarvok.app.facts.athletes.models import Athlete, BodyMass, Squad
from jarvok.core.quantities.days import DayOrder, days_written

FEW = 6  # signing in, what the centre has of its own, and how the squad stands
MONDAY = date(2026, 11, 23)


@pytest.fixture
def mate(squad: Squad) -> Athlete:
    return Athlete.objects.create(squad=squad, name="Bo Mate")


@pytest.fixture
def stranger(db: None) -> Athlete:
    return Athlete.objects.create(squad=Squad.objects.create(name="Other coast", sport="handball"), name="Cy Stranger")


def asks(coach: Coach, path: str) -> int:
    with CaptureQueriesContext(connection) as asked:
        coach.get(path)
    return len(asked)


def of(squad: Squad) -> list[str]:
    return [f"squads/{squad.pk}/week", f"squads/{squad.pk}/season", f"learning/squad/{squad.pk}", f"findings/squad/{squad.pk}"]


def change(athlete: Athlete) -> None:
    with acting(Who(None), "weighed", "weighed", athlete=athlete):
        BodyMass.objects.create(athlete=athlete, day=MONDAY, mass_kg=70)


def measured(athlete: Athlete) -> None:
    Athlete.objects.filter(pk=athlete.pk).update(measured=F("measured") + 1)


def archived(athlete: Athlete) -> None:
    with acting(Who(None), "archive", "archived", athlete=athlete):
        Athlete.objects.filter(pk=athlete.pk).update(archived_on=MONDAY)


@pytest.mark.parametrize("what", [change, measured, archived])
def test_a_page_is_sent_as_it_was_until_anything_of_anybody_in_it_changes(
    coach: Coach, squad: Squad, athlete: Athlete, mate: Athlete, stranger: Athlete, what: Callable[[Athlete], None]
) -> None:
    for path in of(squad):
        first = coach.get(path)
        assert asks(coach, path) <= FEW, path
        what(stranger)
        assert asks(coach, path) <= FEW, "somebody of another squad"
        what(mate)
        assert asks(coach, path) > FEW, path
        with nothing_kept():
            anew = coach.get(path)
        assert coach.get(path) == anew
        assert (anew == first) or what is archived


def test_what_changes_the_squad_or_the_centre_changes_its_pages(coach: Coach, squad: Squad, athlete: Athlete) -> None:
    path = f"squads/{squad.pk}/week"
    assert coach.get(path)["squad"] == squad.name
    coach.ok("PATCH", f"squads/{squad.pk}", {"name": "Quay wrestling", "sport": "wrestling"})
    assert coach.get(path)["squad"] == "Quay wrestling"
    assert asks(coach, path) <= FEW
    with acting(Who(None), "set_rule", "a rule changed"):
        pass
    assert asks(coach, path) > FEW


def test_what_one_asked_for_is_not_what_another_is_answered(coach: Coach, squad: Squad, athlete: Athlete) -> None:
    week, next_week = (coach.get(f"squads/{squad.pk}/week?start={MONDAY + timedelta(days=d)}") for d in (0, 7))
    assert (week["start"], next_week["start"]) == ("2026-11-23", "2026-11-30")
    assert coach.get(f"squads/{squad.pk}/week?start={MONDAY}") == week
    coach.get(f"findings/squad/{squad.pk}")
    refused: Any = coach.send("GET", f"findings/team/{squad.pk}", None)
    assert (refused.status_code, refused.json()["where"]) == (422, "whose")
    assert coach.send("GET", "squads/9999/week", None).status_code == 404
    assert coach.send("GET", "athletes/9999/sessions/2026-11-24/A/squad", None).status_code == 404
    assert squad_of(9999) is None
    one = kept_of_squad(squad.pk)
    with days_written(DayOrder.MONTH_FIRST):
        assert kept_of_squad(squad.pk) is not one


def test_no_more_is_kept_than_it_says(coach: Coach, squad: Squad, athlete: Athlete) -> None:
    for n in range(MOST + 2):
        coach.get(f"squads/{squad.pk}/week?start={MONDAY + timedelta(days=n)}")
    assert len(kept_of_squad(squad.pk)[PAGES]) == MOST
    for some in [Squad.objects.create(name=f"No {n}", sport="other") for n in range(MOST_SQUADS_KEPT + 1)]:
        kept_of_squad(some.pk)
    assert len(kept_squads._kept) == MOST_SQUADS_KEPT


def test_nothing_is_kept_of_what_may_never_have_been(coach: Coach, squad: Squad, athlete: Athlete) -> None:
    with nothing_kept():
        assert kept_of_squad(squad.pk) is not kept_of_squad(squad.pk)
    with acting(Who(None), "weighed", "weighed", athlete=athlete):
        assert kept_of_squad(squad.pk) is not kept_of_squad(squad.pk)
    kept_of_squad(squad.pk)["seen"] = True
    BodyMass.objects.create(athlete=athlete, day=MONDAY, mass_kg=70)  # by nobody's act: no version says so
    assert kept_of_squad(squad.pk) == {}

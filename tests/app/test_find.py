"""Finding anything by the words somebody types."""

from __future__ import annotations

import pytest

from jarvok.app.accounts.doors import NEEDS
from jarvok.app.api.find import MOST, PAGES
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.facts.people.models import Person, Role

pytestmark = pytest.mark.django_db


def found(coach, text: str, **more: object) -> list[tuple[str, str, str]]:
    query = "&".join(f"{k}={v}" for k, v in {"text": text, **more}.items())
    return [(r["kind"], r["name"], r["path"]) for r in coach.get(f"find?{query}")]


def test_an_athlete_a_part_of_theirs_and_their_week_of_a_day(coach, athlete) -> None:
    where = f"/athletes/{athlete.pk}"
    assert ("athlete", "Ada Test", where) in found(coach, "ada")
    assert ("athlete", "Ada Test", f"{where}/season") in found(coach, "ada season")
    assert ("week", "Ada Test", f"{where}/week/2026-12-07") in found(coach, "ada 12 dec")
    assert ("week", "Ada Test", f"{where}/week/2026-12-07") in found(coach, "12 dec ada")
    assert ("week", "Ada Test", f"{where}/week/2026-12-07") in found(coach, "12 dec", athlete=athlete.pk)
    assert found(coach, "12 dec") == [], "a day of nobody"


def test_exercises_by_what_coaches_call_them(coach) -> None:
    assert found(coach, "nordic")[0][1] == "Nordic hamstring curl"
    assert any(k == "exercise" for k, _, _ in found(coach, "squat"))


def test_pages_and_values(coach) -> None:
    assert ("page", "Data and backups", "/data") in found(coach, "restore")
    assert any(k == "setting" for k, _, _ in found(coach, "ageing"))


def test_nothing_and_not_too_much(coach, athlete) -> None:
    assert found(coach, "") == []
    assert found(coach, "zzzz") == []
    assert len(found(coach, "e")) <= MOST


def test_only_what_the_person_may_open(coach, athlete) -> None:
    coach.get("me")
    other = Squad.objects.create(name="Other", sport="rowing")
    Athlete.objects.create(squad=other, name="Ada Elsewhere")
    Person.objects.update(role=Role.ASSISTANT)
    Person.objects.get().squads.add(athlete.squad)
    rows = found(coach, "ada")
    assert [name for kind, name, _ in rows if kind == "athlete"] == ["Ada Test"]
    assert all(path != "/people" for _, _, path in found(coach, "people"))
    assert all(kind != "squad" for kind, _, _ in found(coach, "other"))


def test_every_page_named_is_one(coach) -> None:
    assert {need for _, _, need, _ in PAGES} <= set(NEEDS.values())

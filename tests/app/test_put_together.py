"""Queries put together once: they say what the ones they stand for say, of however many."""

from __future__ import annotations

import pytest
from conftest import Coach
from django.db import connection
from django.test.utils import CaptureQueriesContext

from jarvok.app.athletes.kept_known import stamps_of
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.facts.put_together import PutTogether
from jarvok.app.plan_acts import newest_of

NAMES = PutTogether(lambda ids: Athlete.objects.filter(pk__in=ids).order_by("pk").values_list("pk", "name"))


@pytest.fixture
def people(squad: Squad) -> list[Athlete]:
    return [Athlete.objects.create(squad=squad, name=f"No {n}") for n in range(5)]


@pytest.mark.parametrize("count", [0, 1, 2, 5])
def test_it_is_asked_of_as_many_as_there_are_and_always_anew(people: list[Athlete], count: int) -> None:
    asked = people[:count]
    assert NAMES.rows([a.pk for a in asked]) == [(a.pk, a.name) for a in asked]
    Athlete.objects.update(name="renamed")
    assert NAMES.rows([a.pk for a in asked]) == [(a.pk, "renamed") for a in asked]
    with CaptureQueriesContext(connection) as told:
        NAMES.rows([a.pk for a in asked])
    assert len(told) == (1 if count else 0)


def test_other_numbers_in_it_stay_what_they_are(people: list[Athlete]) -> None:
    three = PutTogether(lambda ids: Athlete.objects.filter(pk__in=ids, training_age_years__lt=7).order_by("pk").values_list("pk"))
    Athlete.objects.filter(pk=people[0].pk).update(training_age_years=6)
    Athlete.objects.filter(pk=people[1].pk).update(training_age_years=7)
    assert three.rows([people[1].pk, people[0].pk]) == [(people[0].pk,)]


def test_no_more_counts_are_kept_than_it_says(people: list[Athlete]) -> None:
    for count in range(1, PutTogether.MOST + 3):
        NAMES.rows(list(range(10_000, 10_000 + count)))
        assert len(NAMES._known) <= PutTogether.MOST


def test_stamps_and_newest_acts_are_those_of_the_rows(coach: Coach, people: list[Athlete]) -> None:
    first, second = people[0], people[1]
    path = f"athletes/{second.pk}/competitions"
    coach.ok("POST", path, {"name": "Own Day", "day": "2027-03-20", "rank": "main"})
    rows = {a.pk: a for a in Athlete.objects.filter(pk__in=[first.pk, second.pk]).select_related("squad")}
    for pk, stamp in stamps_of(rows).items():
        athlete = rows[pk]
        assert (stamp.athlete, stamp.plans, stamp.squad) == (athlete.version, athlete.plan_version, athlete.squad.version)
    assert newest_of([first.pk], []) == first.squad.plan_act
    assert newest_of([second.pk], []) == rows[second.pk].plan_act > 0
    assert newest_of([], [first.squad_id]) == rows[second.pk].plan_act
    assert newest_of([], []) == 0

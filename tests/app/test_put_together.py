"""Queries put together once: they say what the ones they stand for say, of however many."""

from __future__ import annotations

from datetime import date, timedelta

import pytest
from conftest import Coach
from django.db import IntegrityError, connection, transaction
from django.db.models import F, QuerySet
from django.db.models.signals import post_save
from django.forms.models import model_to_dict
from django.test.utils import CaptureQueriesContext

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.athletes.kept_known import stamps_of
from jarvok.app.facts import put_together
from jarvok.app.facts.athletes.models import Athlete, BodyMass, Fault, Restriction, Squad
from jarvok.app.facts.floor.models import IdempotentWrite
from jarvok.app.facts.learning.models import Finding, FindingWord
from jarvok.app.facts.put_together import ChangeTogether, Objects, Part, PutTogether, StoreTogether
from jarvok.app.facts.seasons.models import SeasonStyle
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


def test_a_few_counts_serve_all(people: list[Athlete]) -> None:
    names, asked = (
        PutTogether(lambda ids: Athlete.objects.filter(pk__in=ids).order_by("pk").values_list("pk")),
        [a.pk for a in people],
    )
    for count in range(1, 65):
        found = names.rows([*asked, *range(10_000, 10_060)][:count])
        assert found == [(pk,) for pk in asked[:count]], "what is said again to fill a place counts once"
    assert len(names._known) == 12


def test_no_more_counts_are_kept_than_it_says(people: list[Athlete], monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(put_together, "MOST", 3)
    names = PutTogether(lambda ids: Athlete.objects.filter(pk__in=ids).order_by("pk").values_list("pk"))
    for count in (1, 2, 3, 4, 6, 1):
        assert len(names.rows([a.pk for a in people][:count])) == min(count, 5)
        assert len(names._known) <= 3


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


def test_a_change_is_of_the_rows_it_says_and_is_taken_back_with_its_transaction(people: list[Athlete]) -> None:
    aged = ChangeTogether(
        lambda n: (Athlete.objects.filter(pk__in=n[1:]), {"training_age_years": n[0], "version": F("version") + 1})
    )
    aged.change([9, people[0].pk, people[2].pk])
    aged.change([8, people[2].pk])
    aged.change([])
    after = dict(Athlete.objects.filter(pk__in=[a.pk for a in people]).values_list("pk", "training_age_years"))
    assert [after[a.pk] for a in people] == [9, people[1].training_age_years, 8, *(a.training_age_years for a in people[3:])]
    assert Athlete.objects.get(pk=people[2].pk).version == people[2].version + 2
    with transaction.atomic():
        aged.change([7, people[0].pk])
        transaction.set_rollback(True)
    assert Athlete.objects.get(pk=people[0].pk).training_age_years == 9


def test_a_new_row_is_what_it_would_be_and_is_taken_back_with_its_transaction(people: list[Athlete]) -> None:
    masses, writes, heard = StoreTogether(BodyMass), StoreTogether(IdempotentWrite), []
    listens = lambda instance, created, **_: heard.append((instance, created))  # noqa: E731
    post_save.connect(listens, sender=BodyMass)
    values = {"athlete": people[0], "day": date(2026, 11, 1), "mass_kg": 81.5}
    with acting(Who(None), "weighed", "weighed", athlete=people[0]) as act:
        stored = [masses.store(**values), masses.store(**values | {"mass_kg": 82.5})]
        usual = BodyMass.objects.create(**values)
    post_save.disconnect(listens, sender=BodyMass)
    assert heard == [(row, True) for row in (*stored, usual)]
    assert usual.pk > stored[1].pk > stored[0].pk
    assert model_to_dict(stored[0], exclude=["id"]) == model_to_dict(usual, exclude=["id"])
    assert model_to_dict(BodyMass.objects.get(pk=stored[0].pk)) == model_to_dict(stored[0])
    assert {row.act_id for row in BodyMass.objects.all()} == {act.pk}
    stored[0].mass_kg = 83
    stored[0].save()
    assert [row.mass_kg for row in BodyMass.objects.order_by("pk")] == [83, 82.5, 81.5], "it is no new row any more"
    writes.store(key="of its own kind", request="one", answer={"pk": [1, 2]})
    assert IdempotentWrite.objects.get(pk="of its own kind").answer == {"pk": [1, 2]}
    with pytest.raises(IntegrityError), transaction.atomic():
        writes.store(key="of its own kind", request="another", answer={})
    with transaction.atomic():
        masses.store(**values)
        transaction.set_rollback(True)
    assert BodyMass.objects.count() == 3


def test_objects_are_those_of_their_query_with_all_they_hold(people: list[Athlete]) -> None:
    def by_name(name: str) -> QuerySet[Athlete]:
        return Athlete.objects.select_related("squad", "kit").filter(name=name)

    ready = Objects(lambda _, name: by_name(name))
    for name in ("No 1", "No 3", "nobody", ""):
        usual, found = list(by_name(name)), ready.all(name)
        assert found == usual
        for mine, theirs in zip(found, usual, strict=True):
            assert model_to_dict(mine) == model_to_dict(theirs)
            assert (mine.squad, mine.kit) == (theirs.squad, theirs.kit)
            with CaptureQueriesContext(connection) as asked:
                assert mine.squad.name
            assert len(asked) == 0
    Athlete.objects.filter(name="No 1").update(name="No 3")
    assert len(ready.all("No 3")) == 2
    assert ready.all("No 1") == []


def test_objects_are_read_by_each_thread_with_a_connection_of_its_own(people: list[Athlete]) -> None:
    ready = Objects(lambda _, name: Athlete.objects.filter(name=name))
    assert len(ready.all("No 2")) == 1
    assert all(text.compiler.connection is None for text in ready._known._texts.values())


def test_all_of_a_kind_come_in_their_order(people: list[Athlete]) -> None:
    assert Objects(lambda _: Athlete.objects.order_by("-name")).all() == list(reversed(people))


def test_a_day_and_a_word_stand_in_their_places_on_either_engine(people: list[Athlete]) -> None:
    born = date(2004, 5, 6)
    Athlete.objects.filter(pk=people[0].pk).update(birth_date=born, note="6 May")
    Athlete.objects.filter(pk=people[1].pk).update(birth_date=born + timedelta(days=1), note="6 May")
    asked = PutTogether(
        lambda ids, day, note: Athlete.objects.filter(pk__in=ids, birth_date__lte=day, note=note).values_list("pk", "birth_date")
    )
    both = [people[0].pk, people[1].pk]
    assert asked.rows(both, born, "6 May") == [(people[0].pk, born)]
    assert len(asked.rows(both, born + timedelta(days=1), "6 May")) == 2
    assert asked.rows(both, born, "7 May") == []


PARTS = (
    Part(Athlete, "masses"),
    Part(Athlete, "restrictions", lambda rows: rows.exclude(tag="squat").order_by("-pk"), attr="spared"),
    Part(Athlete, "findings", parts=[Part(Finding, "words")]),
    Part(Athlete, "season_style"),
    Part(Athlete, "faults", is_left_out=True),
)


def test_parts_are_what_would_be_read_along_and_are_read_once(people: list[Athlete]) -> None:
    first, second = people[:2]
    for n, athlete in enumerate((first, first, second)):
        BodyMass.objects.create(athlete=athlete, day=date(2026, 11, n + 1), mass_kg=80 + n)
        for tag in ("squat", "hinge", "press"):
            Restriction.objects.create(athlete=athlete, tag=tag, set_by="the doctor", since=date(2026, 11, 1))
    finding = Finding.objects.create(athlete=first, kind="cue", sentence="Knees out.", day=date(2026, 11, 1), ref="x")
    word = FindingWord.objects.create(finding=finding, state="acts", at=clock.now())
    Fault.objects.create(athlete=first, fault="knees_in", exercise_id="back_squat", since=date(2026, 11, 1))
    SeasonStyle.objects.create(athlete=second)
    for _ in range(2):
        for part in PARTS:
            part.read([first, second])
    with CaptureQueriesContext(connection) as asked:
        assert [[m.mass_kg for m in a.masses.all()] for a in (first, second)] == [[80, 81], [82]]
        assert [[r.tag for r in a.__dict__["spared"]] for a in (first, second)] == [["press", "hinge"] * 2, ["press", "hinge"]]
        assert [list(f.words.all()) for f in first.findings.all()] == [[word]]
        assert first.masses.all()[0].athlete is first
        assert second.season_style.athlete is second
        with pytest.raises(SeasonStyle.DoesNotExist):
            assert first.season_style
        assert list(first.faults.all()) == []
    assert len(asked) == 0
    usual = Athlete.objects.prefetch_related("masses").get(pk=first.pk)
    assert list(usual.masses.all()) == list(first.masses.all())
    assert first.masses.filter(mass_kg__gt=80).count() == 1, "what is asked beyond it is still the athlete's own"


def test_parts_of_many_take_as_many_questions_as_of_one(people: list[Athlete]) -> None:
    for some in (people[:1], people[1:]):
        with CaptureQueriesContext(connection) as asked:
            for part in PARTS:
                part.read(some)
        assert len(asked) == 4  # nobody has a finding, of which words would be read

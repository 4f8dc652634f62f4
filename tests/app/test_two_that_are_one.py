"""Two athletes that are one: what is known and was done of one goes over to the other, and nothing counts twice."""

from __future__ import annotations

from datetime import date, timedelta

import pytest
from django.contrib.auth import get_user_model
from support.past import session

from jarvok.app.facts.athletes.models import Athlete, BodyMass, MarkRecord, Restriction, Squad
from jarvok.app.facts.floor.models import SetRecord, TrainingSession
from jarvok.app.facts.people.models import Act, Person, Role
from jarvok.app.facts.room.models import Attendance, Gathering

TODAY = date(2026, 11, 24)


@pytest.fixture
def twice(athlete) -> Athlete:
    """Ada once more, in another squad."""
    squad = Squad.objects.create(name="Elsewhere", sport="handball")
    return Athlete.objects.create(squad=squad, name="A. Test", group="Backs", note="tall")


def merge(coach, stays: Athlete, goes: Athlete, name: str = "A. Test", status: int = 200):
    answer = coach.send("POST", f"athletes/{stays.pk}/merge", {"other_id": goes.pk, "name": name})
    assert answer.status_code == status, answer.content
    return answer.json()


def mark(athlete: Athlete, load_kg: float, days: int = 10) -> MarkRecord:
    day = TODAY - timedelta(days=days)
    return MarkRecord.objects.create(athlete=athlete, exercise_id="back_squat", kind="one_rm", load_kg=load_kg, day=day)


def test_what_is_known_and_done_goes_over(coach, athlete, twice) -> None:
    MarkRecord.objects.all().delete()
    mark(twice, 101)
    session(twice, TODAY - timedelta(days=5), (80, 5, 2))
    BodyMass.objects.create(athlete=twice, day=TODAY, mass_kg=70)
    Restriction.objects.create(athlete=twice, tag="overhead", words="no overhead", set_by="Dr Aas", since=TODAY)
    seen = coach.ok("POST", f"athletes/{athlete.pk}/merge/preview", {"other_id": twice.pk})
    assert seen == {"results": 1, "masses": 1, "sessions": 1, "takes_plan": False, "name": "A. Test"}
    merge(coach, athlete, twice)
    athlete.refresh_from_db()
    assert not Athlete.objects.filter(pk=twice.pk).exists()
    assert [m.load_kg for m in athlete.marks.all()] == [101]
    assert SetRecord.objects.get().line.session.athlete == athlete
    assert (athlete.masses.get(day=TODAY).mass_kg, athlete.restrictions.get().words) == (70, "no overhead")
    assert (athlete.group, athlete.note) == ("Backs", "tall")
    act = Act.objects.latest("pk")
    assert act.words == "A. Test is Ada Test: 1 result and 1 session taken over"


def test_the_same_result_counts_once_and_another_one_too(coach, athlete, twice) -> None:
    MarkRecord.objects.all().delete()
    mark(athlete, 100)
    mark(twice, 100)
    mark(twice, 100, days=11)
    merge(coach, athlete, twice)
    standing = athlete.marks.filter(withdrawn_at__isnull=True)
    assert sorted((m.load_kg, m.day) for m in standing) == [
        (100, TODAY - timedelta(days=11)), (100, TODAY - timedelta(days=10)),
    ]  # fmt: skip


def test_what_the_one_who_stays_says_of_themselves_stays(coach, athlete, twice) -> None:
    Athlete.objects.filter(pk=athlete.pk).update(group="Pivots")
    Athlete.objects.filter(pk=twice.pk).update(not_ranked=True)
    BodyMass.objects.create(athlete=athlete, day=TODAY, mass_kg=68)
    BodyMass.objects.create(athlete=twice, day=TODAY, mass_kg=70)
    merge(coach, athlete, twice)
    athlete.refresh_from_db()
    assert athlete.not_ranked, "who has asked not to be shown has asked"
    assert (athlete.group, [m.mass_kg for m in athlete.masses.filter(day=TODAY)]) == ("Pivots", [68])


def test_two_sessions_of_one_day_are_both_kept(coach, athlete, twice) -> None:
    session(athlete, TODAY, (80, 5, 2))
    session(twice, TODAY, (90, 5, 2))
    merge(coach, athlete, twice)
    assert [s.key for s in TrainingSession.objects.filter(athlete=athlete).order_by("pk")] == ["A", "X1"]


def test_a_room_that_both_stood_in_has_one_of_them(coach, athlete, twice) -> None:
    room = Gathering.objects.create(squad=athlete.squad, day=TODAY, opened_at="2026-11-24T08:00:00Z")
    for person in (athlete, twice):
        Attendance.objects.create(gathering=room, athlete=person, is_here=True, changed_at="2026-11-24T08:00:00Z")
    merge(coach, athlete, twice)
    assert [a.athlete_id for a in Attendance.objects.all()] == [athlete.pk]


@pytest.mark.parametrize("both", [True, False])
def test_the_plan_is_that_of_the_one_who_stays_if_they_have_one(coach, athlete, twice, both: bool) -> None:
    coach.ok("POST", f"athletes/{twice.pk}/competitions", {"name": "Theirs", "day": "2027-03-06"})
    if both:
        coach.ok("POST", f"athletes/{athlete.pk}/competitions", {"name": "Own", "day": "2027-04-03"})
    assert coach.ok("POST", f"athletes/{athlete.pk}/merge/preview", {"other_id": twice.pk})["takes_plan"] is not both
    merge(coach, athlete, twice)
    shown = coach.get(f"athletes/{athlete.pk}/season")["season"]
    assert shown["name"] == ("Own" if both else "Theirs")
    assert coach.get(f"athletes/{athlete.pk}/week")["week"]


def test_an_account_goes_along_and_two_are_refused(coach, athlete, twice) -> None:
    def account(person: Athlete) -> Person:
        user = get_user_model().objects.create_user(f"u{person.pk}", password="a long enough word")
        return Person.objects.create(name=person.name, role=Role.ATHLETE, user=user, athlete=person)

    theirs = account(twice)
    own = account(athlete)
    told = merge(coach, athlete, twice, status=409)
    assert told["title"] == "Both have an account of their own. End one under Settings, People."
    own.delete()
    merge(coach, athlete, twice)
    theirs.refresh_from_db()
    assert theirs.athlete_id == athlete.pk


def test_the_name_is_typed_and_it_is_somebody_else(coach, athlete, twice) -> None:
    assert merge(coach, athlete, twice, name="Ada", status=422)["accepted"] == "A. Test"
    assert "same athlete already" in merge(coach, athlete, athlete, name="Ada Test", status=422)["title"]
    assert Athlete.objects.filter(pk=twice.pk).exists()


def test_both_are_of_ones_own_squads(coach, athlete, twice) -> None:
    coach.get("today")
    me = Person.objects.get(name="tester")
    me.role = Role.COACH
    me.save()
    me.squads.set([athlete.squad])
    merge(coach, athlete, twice, status=403)
    assert coach.send("POST", f"athletes/{athlete.pk}/merge/preview", {"other_id": twice.pk}).status_code == 403


def test_every_kind_of_row_is_thought_of() -> None:
    """A new kind of fact of an athlete has to say whether it goes over: nothing is lost without somebody deciding."""
    from django.db.models import ManyToOneRel

    from jarvok.app.athletes.actions.merge_athletes import KNOWN, PLAN
    from jarvok.app.facts.seasons.models import MinutesPlayed

    thought_of = {*KNOWN, *PLAN, MarkRecord, TrainingSession, BodyMass, Attendance, MinutesPlayed, Person}
    there = {r.related_model for r in Athlete._meta.get_fields(include_hidden=True) if isinstance(r, ManyToOneRel)}
    assert there - thought_of == set()

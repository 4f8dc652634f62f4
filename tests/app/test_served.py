"""What serves for a while only is thrown away when it has served, and nothing else is."""

from __future__ import annotations

from datetime import timedelta

import pytest
from conftest import Coach
from django.apps import apps
from support.past import session as past_session

from jarvok.app import clock
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import FloorEvent, IdempotentWrite, TrainingSession
from jarvok.app.facts.people.models import Link, LinkKind, SignedIn
from jarvok.app.facts.room.models import Reading, Sensor
from jarvok.app.upkeep import pruning
from jarvok.app.upkeep.housekeeper import tidy


def rows() -> dict[str, int]:
    return {m._meta.label: m._default_manager.count() for m in apps.get_models() if m._meta.app_label != "contenttypes"}


def made(athlete: Athlete, days: float) -> None:
    """One row of each kind, so many days old."""
    then = clock.now() - timedelta(days=days)
    IdempotentWrite.objects.create(key=f"key of {days}", request="x", answer={})
    IdempotentWrite.objects.filter(key=f"key of {days}").update(at=then)
    past_session(athlete, then.date())
    session = TrainingSession.objects.get(athlete=athlete, day=then.date())
    FloorEvent.objects.create(session=session, kind="changed", payload={})
    sensor = Sensor.objects.get_or_create(name="belt", defaults={"sort": "heart", "token": "belt-token", "added_at": then})[0]
    Reading.objects.create(sensor=sensor, athlete=athlete, values={"bpm": 140}, at=then)
    Reading.objects.create(sensor=sensor, athlete=athlete, values={"height_cm": 40}, at=then)
    Link.objects.create(kind=LinkKind.READY, token_hash=f"digest {days}", made_at=then, until=then)
    until = clock.now() + timedelta(days=29 - days)  # a sign-in that has ended serves nobody any more
    SignedIn.objects.create(session_key=f"key{days}", session_data="", expire_date=until, begun_at=then, seen_at=then)


@pytest.mark.parametrize(("older", "younger"), [(31.5, 28.5)])
def test_a_row_on_each_side_of_the_day(coach: Coach, athlete: Athlete, older: float, younger: float) -> None:
    made(athlete, older)
    made(athlete, younger)
    before = rows()
    told = coach.get("upkeep")
    assert [p["served"] for p in told["passing"]] == [1] * 5
    assert told["days"] == 30
    tidy()
    gone = {name: before[name] - now for name, now in rows().items() if before[name] != now and before[name] > now}
    assert gone == {
        "floor.IdempotentWrite": 1, "floor.FloorEvent": 1, "room.Reading": 1, "people.Link": 1, "people.SignedIn": 1,
    }  # fmt: skip
    assert Reading.objects.filter(values__has_key="height_cm").count() == 2


def test_the_days_are_the_centres_to_set(coach: Coach, athlete: Athlete) -> None:
    made(athlete, 30)
    made(athlete, 10)
    assert coach.ok("PUT", "upkeep/days", {"days": 9})["days"] == 9
    assert [p["served"] for p in coach.get("upkeep")["passing"]] == [2, 2, 2, 2, 1]
    after = coach.ok("POST", "upkeep/throw-away", {})
    assert [p["served"] for p in after["passing"]] == [0] * 5
    for days, status in ((6, 422), (7, 200), (365, 200), (366, 422)):
        answer = coach.client.put("/api/upkeep/days", {"days": days}, content_type="application/json")
        assert answer.status_code == status, answer.content


def test_many_rows_go_some_at_a_time(db, athlete: Athlete, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(pruning, "AT_ONCE", 2)
    for n in range(5):
        made(athlete, 40 + n)
    assert pruning.prune() == 25
    assert pruning.prune() == 0

"""What a page on the floor hears: from where it left, of each session apart, whatever went through first."""

from __future__ import annotations

import asyncio
import json
from datetime import date

import pytest

from jarvok.app import clock
from jarvok.app.api.floor import live as live_views
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import FloorEvent, TrainingSession
from jarvok.app.floor import events
from jarvok.app.floor.events import events_after, newest_events, read_heard, said_heard, tell
from jarvok.app.hub import hub


@pytest.fixture
def two(athlete: Athlete) -> list[TrainingSession]:
    """Two sessions that run at once."""
    return [
        TrainingSession.objects.create(athlete=athlete, day=date(2026, 11, 24), key=key, theme="", started_at=clock.now())
        for key in ("A", "B")
    ]


def told(*sessions: TrainingSession) -> list[int]:
    return [tell(s, "changed", {"line_id": None}).pk for s in sessions]


def heard_by(sessions: set[int], heard: dict[int, int] | None, wanted: int, and_then=lambda: None) -> list[tuple[str, int, int]]:
    """What a page hears that asks from there on: how far each event says it has come, its session and its number."""

    async def who() -> tuple[set[int], set[int]]:
        return sessions, sessions

    async def read() -> list[tuple[str, int, int]]:
        stream = live_views._stream(who, heard, lambda: True)
        seen: list[tuple[str, int, int]] = []
        await anext(stream)  # how soon to come again
        if heard is None:
            waiting = asyncio.create_task(anext(stream))
            await asyncio.sleep(0.2)
            await asyncio.to_thread(and_then)
        else:
            waiting = asyncio.create_task(anext(stream))
        try:
            async with asyncio.timeout(5):
                while len(seen) < wanted:
                    chunk = (await waiting).decode()
                    if chunk.startswith("id: "):
                        row = json.loads(chunk.split("data: ")[1])
                        seen.append((chunk.split("\n")[0][4:], row["session_id"], row["event_id"]))
                    waiting = asyncio.create_task(anext(stream))
        finally:
            waiting.cancel()
            await asyncio.gather(waiting, return_exceptions=True)
            await stream.aclose()
        return seen

    return asyncio.run(read())


@pytest.mark.django_db(transaction=True)
def test_a_page_goes_on_from_what_it_has_heard_of_each_session(two) -> None:
    one, other = two
    first, second, third, fourth = told(one, other, one, other)
    both = {one.pk, other.pk}
    assert [n for _, _, n in heard_by(both, {}, 4)] == [first, second, third, fourth]
    assert [n for _, _, n in heard_by(both, {one.pk: third, other.pk: second}, 1)] == [fourth]
    assert [n for _, _, n in heard_by(both, {other.pk: fourth}, 2)] == [first, third], "of the one it has heard nothing yet"


@pytest.mark.django_db(transaction=True)
def test_a_number_that_comes_late_is_heard_and_each_event_once(two) -> None:
    """In PostgreSQL a lower number of another session may go through after a higher one."""
    one, other = two
    late, early = told(one, other)
    payload = FloorEvent.objects.get(pk=late).payload
    FloorEvent.objects.filter(pk=late).delete()  # not through yet
    ((how_far, _, number),) = heard_by({one.pk, other.pk}, {}, 1)
    assert number == early
    FloorEvent.objects.create(pk=late, session=one, kind="changed", payload=payload)
    ((how_far, _, number),) = heard_by({one.pk, other.pk}, read_heard(how_far), 1)
    assert number == late
    assert events_after([one.pk, other.pk], read_heard(how_far)) == []


@pytest.mark.django_db(transaction=True)
def test_who_asks_from_now_on_hears_what_comes_and_nothing_of_before(two) -> None:
    one, other = two
    told(one, other)
    found: list[int] = []
    seen = heard_by({one.pk, other.pk}, None, 1, lambda: found.extend(told(one)))
    assert [n for _, _, n in seen] == found


@pytest.mark.django_db(transaction=True)
def test_of_a_session_that_joins_the_room_is_told_and_nothing_is_played_again(two) -> None:
    one, other = two
    told(one, other, other)
    here = {one.pk}

    async def who() -> tuple[set[int], set[int]]:
        return set(here), {-1}

    async def read() -> list[str]:
        stream = live_views._stream(who, {}, lambda: True)
        seen = [(await anext(stream)).decode() for _ in range(2)]  # how soon to come again, and what the one has done
        waiting = asyncio.create_task(anext(stream))
        await asyncio.sleep(0.1)
        here.add(other.pk)
        hub.changed(-1)
        seen.append((await asyncio.wait_for(waiting, 5)).decode())
        waiting = asyncio.create_task(anext(stream))
        await asyncio.sleep(0.1)
        await asyncio.to_thread(tell, other, "finished", {})
        hub.changed(-1)
        seen.append((await asyncio.wait_for(waiting, 5)).decode())
        await stream.aclose()
        return seen

    _, first, joined, after = asyncio.run(read())
    assert "event: changed" in first
    assert joined == "event: room\ndata: {}\n\n"
    assert "event: finished" in after


@pytest.mark.django_db(transaction=True)
def test_more_than_is_sent_at_once_follows_without_waiting(two, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(events, "MOST_AT_ONCE", 2)
    monkeypatch.setattr(live_views, "MOST_AT_ONCE", 2)
    numbers = told(*two, *two, two[0])
    assert [n for _, _, n in heard_by({s.pk for s in two}, {}, 5)] == numbers


@pytest.mark.django_db
def test_how_far_is_said_and_read(two) -> None:
    one, other = two
    first, _, third = told(one, other, one)
    heard = newest_events([one.pk, other.pk])
    assert heard[one.pk] == third > first
    assert read_heard(said_heard(heard)) == heard
    assert newest_events([one.pk], without=["changed"]) == {}
    assert read_heard("") == {}


@pytest.mark.parametrize("said", ["7", "7:", "a:1", "7:1,", "7:-1", "²:1", "7:" + "9" * 40, ",".join(["7:1"] * 600)])
def test_what_cannot_be_read_has_heard_nothing(said: str) -> None:
    assert read_heard(said) == {}
    assert read_heard("7:1,8:20") == {7: 1, 8: 20}

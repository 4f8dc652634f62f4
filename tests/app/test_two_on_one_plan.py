"""Two people on one plan: nobody writes over what they have not seen, and each hears of the other."""

from __future__ import annotations

import asyncio
import json
import uuid
from collections.abc import Callable
from typing import Any

import pytest
from asgiref.sync import sync_to_async
from django.contrib.auth import get_user_model
from django.test import Client

from jarvok.app.acts import Who, acting
from jarvok.app.api import changes
from jarvok.app.facts.people.models import Act, Person
from jarvok.app.plan_acts import VERBS, plan_of_path

MONDAY = "2026-11-30"


class Pages:
    """One signed-in person with several open pages, each of which knows what it has read."""

    def __init__(self, client: Client) -> None:
        self.client = client

    def read(self, path: str) -> int:
        return int(self.client.get(f"/api/{path}")["Jarvok-Plan"])

    def send(self, page: str, seen: int | None, method: str, path: str, body: Any) -> Any:
        headers = {"Jarvok-Page": page, "Idempotency-Key": uuid.uuid4().hex} | (
            {"Jarvok-Seen": str(seen)} if seen is not None else {}
        )
        return self.client.generic(
            method, f"/api/{path}", data=json.dumps(body), content_type="application/json", headers=headers
        )


@pytest.fixture
def pages(coach, client: Client) -> Pages:
    return Pages(client)


def _session(athlete, sheet) -> str:
    return f"athletes/{athlete.pk}/sessions/{sheet['day']}/A"


def _whose(athlete) -> str:
    return f"calendar/squad/{athlete.squad_id}"


Request = tuple[str, str, Any]
# each kind of plan: where it is read, and two changes of it that two people make
KINDS: dict[str, Callable[[Any, Any], tuple[str, Request, Request]]] = {
    "a line of a session": lambda a, s: (
        _session(a, s),
        ("PUT", f"{_session(a, s)}/lines/A1", {"text": "3 × 5 @ 70 %"}),
        ("PUT", f"{_session(a, s)}/lines/A1", {"text": "5 × 3 @ 80 %"}),
    ),
    "the blocks of a session": lambda a, s: (
        _session(a, s),
        ("POST", f"{_session(a, s)}/edit", {"op": "rename", "text": "Legs"}),
        ("POST", f"{_session(a, s)}/edit", {"op": "rename", "text": "Pulls"}),
    ),
    "a week": lambda a, s: (
        f"athletes/{a.pk}/week?start={MONDAY}",
        ("POST", f"{_session(a, s)}/copy", {"day": "2026-12-03"}),
        ("POST", f"{_session(a, s)}/copy", {"day": "2026-12-05"}),
    ),
    "how weeks are arranged": lambda a, s: (
        f"athletes/{a.pk}/week?start={MONDAY}",
        ("PUT", f"athletes/{a.pk}/week-arrangement", {"arrangement": "concurrent", "days": 3}),
        ("PUT", f"athletes/{a.pk}/week-arrangement", {"arrangement": "team_strength", "days": 3}),
    ),
    "a season": lambda a, s: (
        f"athletes/{a.pk}/season",
        ("PUT", f"athletes/{a.pk}/season/easy", {"monday": "2026-12-07", "easy": True}),
        ("PUT", f"athletes/{a.pk}/season/easy", {"monday": "2026-12-14", "easy": True}),
    ),
    "a calendar": lambda a, s: (
        f"athletes/{a.pk}/calendar",
        ("POST", f"athletes/{a.pk}/calendar", {"kind": "camp", "name": "Camp", "start": "2026-12-20", "end": "2026-12-22"}),
        ("POST", f"athletes/{a.pk}/calendar", {"kind": "exams", "name": "Exams", "start": "2026-12-28"}),
    ),
    "a squad's calendar": lambda a, s: (
        f"squads/{a.squad_id}/week",
        ("POST", f"{_whose(a)}/write", {"day": "2026-12-20", "text": "match", "scope": "squad"}),
        ("POST", f"{_whose(a)}/write", {"day": "2026-12-20", "text": "off", "scope": "squad"}),
    ),
}  # fmt: skip


class TestNobodyWritesOverWhatTheyHaveNotSeen:
    @pytest.mark.parametrize("kind", KINDS)
    def test_the_second_is_told_and_chooses(self, pages, athlete, sheet, kind: str) -> None:
        read, first, second = KINDS[kind](athlete, sheet)
        seen = pages.read(read)
        assert pages.send("one", seen, *first).status_code == 200
        refused = pages.send("two", seen, *second)
        assert refused.status_code == 409
        told = refused.json()
        assert told["title"].startswith("tester changed this plan at ")
        assert told["newest"] == Act.objects.latest("pk").pk == pages.read(read)
        over = pages.send("two", told["newest"], *second)
        assert over.status_code == 200

    @pytest.mark.parametrize("kind", KINDS)
    def test_one_page_never_stands_in_its_own_way(self, pages, athlete, sheet, kind: str) -> None:
        read, first, second = KINDS[kind](athlete, sheet)
        seen = pages.read(read)
        assert pages.send("one", seen, *first).status_code == 200
        assert pages.send("one", seen, *second).status_code == 200

    def test_what_is_refused_changes_nothing(self, pages, coach, athlete, sheet) -> None:
        _, first, second = KINDS["a line of a session"](athlete, sheet)
        seen = pages.read(_session(athlete, sheet))
        pages.send("one", seen, *first)
        acts = Act.objects.count()
        pages.send("two", seen, *second)
        shown = coach.get(_session(athlete, sheet))
        assert next(x["text"] for x in shown["lines"] if x["slot"] == "A1") == "3 × 5 @ 70 %"
        assert Act.objects.count() == acts

    def test_a_change_of_the_squad_is_one_of_each_plan_in_it(self, pages, athlete, sheet) -> None:
        seen = pages.read(_session(athlete, sheet))
        _, of_squad, _ = KINDS["a squad's calendar"](athlete, sheet)
        assert pages.send("one", None, *of_squad).status_code == 200
        _, line, _ = KINDS["a line of a session"](athlete, sheet)
        assert pages.send("two", seen, *line).status_code == 409

    def test_what_is_no_plan_stands_in_nobodys_way(self, pages, athlete, sheet) -> None:
        read, _, second = KINDS["a line of a session"](athlete, sheet)
        seen = pages.read(read)
        mark = {"exercise_id": "back_squat", "load_kg": 100, "reps": 3, "day": "2026-11-20", "kind": "rep_max"}
        assert pages.send("one", seen, "POST", f"athletes/{athlete.pk}/marks", mark).status_code == 200
        assert pages.send("two", seen, *second).status_code == 200

    @pytest.mark.parametrize("sent", ["", "x", "-1", "9" * 30, "²"])
    def test_a_number_that_is_none_is_no_number(self, pages, athlete, sheet, sent: str) -> None:
        _, first, _ = KINDS["a line of a session"](athlete, sheet)
        assert pages.send("one", sent, *first).status_code == 200  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("path", "is_about"), [("/api/athletes/{a}/week", True), ("/api/squads/{s}/week", True), ("/api/athletes", False)]
)
def test_which_addresses_are_of_a_plan(athlete, path: str, is_about: bool) -> None:
    athletes, squads = plan_of_path(path.format(a=athlete.pk, s=athlete.squad_id))
    assert (bool(athletes) or bool(squads)) is is_about
    assert plan_of_path("/api/athletes/99999999999999999999/week") == ([], [])


def test_every_verb_of_a_plan_is_one_that_is_done() -> None:
    from pathlib import Path

    root = Path(__file__).resolve().parents[2] / "src/jarvok/app"
    written = "".join(
        p.read_text() for area in ("training", "seasons", "athletes") for p in (root / area / "actions").glob("*.py")
    )
    assert [v for v in VERBS if f'"{v}"' not in written] == []


def _changed_after(person: Person, newest: int) -> list[Any]:
    return changes._after(person, newest)[1]


class TestPagesFollow:
    def test_a_change_is_told_with_its_page_to_who_sees_it(self, coach, athlete) -> None:
        coach.get(f"athletes/{athlete.pk}")
        head = Person.objects.get(name="tester")
        stranger = Person.objects.create(
            name="Of elsewhere",
            role="coach",
            user=get_user_model().objects.create_user("elsewhere", password="a long enough word"),
        )
        before = Act.objects.count() and Act.objects.latest("pk").pk
        with acting(Who(head, page="one"), "edit_session", "A1", athlete=athlete) as act:
            pass
        assert _changed_after(head, before) == [{"act": act.pk, "page": "one"}]
        assert _changed_after(stranger, before) == []
        with acting(Who(head, page="one"), "add_mark", "100", athlete=athlete):
            pass
        assert _changed_after(head, act.pk) == []

    @pytest.mark.django_db(transaction=True)
    def test_the_stream_says_it_within_a_second(self, athlete) -> None:
        head = Person.objects.create(name="Head")

        def change() -> None:
            with acting(Who(head, page="two"), "edit_session", "A1", athlete=athlete):
                pass

        async def hear() -> str:
            told = changes._stream(head, 0, lambda: True)
            assert await anext(told) == b"retry: 1000\n\n"
            waiting = asyncio.ensure_future(anext(told))
            await asyncio.sleep(0.1)
            assert not waiting.done()
            await sync_to_async(change)()
            return (await asyncio.wait_for(waiting, 1)).decode()

        said = asyncio.run(hear())
        assert '"page": "two"' in said

    @pytest.mark.django_db(transaction=True)
    def test_who_has_signed_out_hears_no_more(self, monkeypatch) -> None:
        head = Person.objects.create(name="Head")
        monkeypatch.setattr(changes, "ASKED_EVERY_S", -1.0)

        async def hear() -> list[bytes]:
            return [told async for told in changes._stream(head, 0, lambda: False)]

        assert asyncio.run(hear()) == [b"retry: 1000\n\n"]

    def test_a_stranger_hears_nothing(self, db, client: Client) -> None:
        assert client.get("/api/changes").status_code == 401


def test_only_today_is_said_without_its_day(coach, athlete, monkeypatch) -> None:
    from jarvok.app.plan_acts import refuse_unseen
    from jarvok.app.problems import Changed

    with acting(Who(None), "edit_session", "A1 written", athlete=athlete) as act:
        pass
    with pytest.raises(Changed) as today:
        refuse_unseen(act.pk - 1, "one", [athlete.pk], [])
    assert str(today.value).startswith("Somebody changed this plan at ")
    Act.objects.filter(pk=act.pk).update(at="2026-11-03T10:00:00Z")
    with pytest.raises(Changed, match=r" on 3 November: A1 written\."):
        refuse_unseen(act.pk - 1, "one", [athlete.pk], [])

"""Requests are lent threads that stay; one whose request did not come to its end is not lent again."""

from __future__ import annotations

import asyncio
import threading
from collections.abc import Awaitable, Callable, Mapping
from types import SimpleNamespace
from typing import Any

import pytest
from asgiref.sync import sync_to_async

from jarvok.app import threads
from jarvok.app.threads import LentThreads

END = {"type": "http.response.body", "body": b""}
PART = {**END, "more_body": True}
Act = Callable[[], Any]


async def _asks() -> dict[str, Any]:
    return {}


async def _hears(_: Mapping[str, Any]) -> None:
    return None


class Asked:
    """An application that notes which thread answers, and what is sent in the end."""

    def __init__(self, act: Act = threading.get_ident, last: Mapping[str, Any] = END) -> None:
        self.seen: list[int] = []
        self.act, self.last = act, last
        self.lent = LentThreads(self.app)

    async def app(self, scope: Any, receive: Any, send: Callable[[Mapping[str, Any]], Awaitable[None]]) -> None:
        await sync_to_async(self.act)()
        self.seen.append(await sync_to_async(threading.get_ident)())
        await send(self.last)

    async def ask(self) -> None:
        await self.lent({}, _asks, _hears)
        for _ in range(200):  # the thread says by itself that it is free
            if self.lent._waiting:
                return
            await asyncio.sleep(0.001)


def test_one_after_another_is_answered_by_the_same_thread() -> None:
    asked = Asked()

    async def three() -> None:
        for _ in range(3):
            await asked.ask()

    asyncio.run(three())
    assert len(set(asked.seen)) == 1
    assert threading.get_ident() not in asked.seen


def test_two_at_once_have_one_each() -> None:
    together = threading.Barrier(2, timeout=10)
    asked = Asked(together.wait)

    async def two() -> None:
        await asyncio.gather(asked.ask(), asked.ask())

    asyncio.run(two())
    assert len(set(asked.seen)) == 2


@pytest.mark.parametrize(("last", "again"), [(END, 1), (PART, 0)])
def test_who_hung_up_leaves_no_thread_behind(last: Mapping[str, Any], again: int) -> None:
    asked = Asked(last=last)
    asyncio.run(asked.ask())
    assert len(asked.lent._waiting) == again


def test_one_that_failed_is_let_go_of() -> None:
    def fails() -> None:
        raise RuntimeError("no")

    asked = Asked(fails)
    with pytest.raises(RuntimeError):
        asyncio.run(asked.ask())
    assert asked.lent._waiting == []


@pytest.mark.parametrize(("left_open", "again"), [(False, 1), (True, 0)])
def test_what_was_left_open_in_a_thread_is_not_handed_on(monkeypatch: pytest.MonkeyPatch, left_open: bool, again: int) -> None:
    closed: list[bool] = []
    one = SimpleNamespace(in_atomic_block=left_open, close=lambda: closed.append(True))
    monkeypatch.setattr(threads, "connections", SimpleNamespace(all=lambda initialized_only: [one]))
    asked = Asked()
    asyncio.run(asked.ask())
    assert (len(asked.lent._waiting), closed) == (again, [True] * left_open)


def test_no_more_threads_wait_than_are_wanted(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(threads, "MOST_WAITING", 1)
    together = threading.Barrier(3, timeout=10)
    asked = Asked(together.wait)

    async def three() -> None:
        await asyncio.gather(asked.ask(), asked.ask(), asked.ask())
        await asyncio.sleep(0.05)

    asyncio.run(three())
    assert len(set(asked.seen)) == 3
    assert len(asked.lent._waiting) == 1

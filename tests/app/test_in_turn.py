"""Reading waits in line, writing does not."""

from __future__ import annotations

import threading
import time

import pytest
from django.http import HttpResponse
from django.test import RequestFactory

from jarvok.app.api import in_turn

REQUESTS = RequestFactory()


class Slow:
    """A view that goes on until it is let go."""

    def __init__(self) -> None:
        self.inside, self.most, self.go = 0, 0, threading.Event()
        self.lock = threading.Lock()

    def __call__(self, request: object) -> HttpResponse:
        with self.lock:
            self.inside += 1
            self.most = max(self.most, self.inside)
        self.go.wait(5)
        with self.lock:
            self.inside -= 1
        return HttpResponse("read")


def reading(middleware: in_turn.InTurn, path: str = "/api/today") -> threading.Thread:
    thread = threading.Thread(target=lambda: middleware(REQUESTS.get(path)), daemon=True)
    thread.start()
    return thread


def until(true: object) -> None:
    for _ in range(200):
        if true():  # type: ignore[operator]
            return
        time.sleep(0.01)
    raise AssertionError("it did not come")


def test_of_four_who_read_one_works_and_a_write_passes_them_all() -> None:
    view = Slow()
    middleware = in_turn.InTurn(view)
    readers = [reading(middleware) for _ in range(4)]
    until(lambda: view.inside == in_turn.AT_ONCE)
    wrote = in_turn.InTurn(lambda _: HttpResponse("stored"))(REQUESTS.post("/api/floor/sessions/1/sets"))
    assert wrote.content == b"stored"
    assert view.inside == in_turn.AT_ONCE
    view.go.set()
    for reader in readers:
        reader.join(5)
    assert view.most == in_turn.AT_ONCE


def test_a_page_that_fails_gives_its_turn_back() -> None:
    def fails(request: object) -> HttpResponse:
        raise ZeroDivisionError

    for _ in range(3):
        with pytest.raises(ZeroDivisionError):
            in_turn.InTurn(fails)(REQUESTS.get("/api/today"))
    assert in_turn.InTurn(lambda _: HttpResponse("read"))(REQUESTS.get("/api/today")).content == b"read"


def test_who_has_waited_long_goes_on(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(in_turn, "LONGEST_S", 0.05)
    view = Slow()
    middleware = in_turn.InTurn(view)
    readers = [reading(middleware) for _ in range(2)]
    until(lambda: view.inside == 2)
    view.go.set()
    for reader in readers:
        reader.join(5)


@pytest.mark.parametrize("path", ["/static/app.js", "/api/now", "/api/me"])
def test_files_of_the_pages_and_the_time_do_not_wait(path: str) -> None:
    view = Slow()
    middleware = in_turn.InTurn(view)
    readers = [reading(middleware, path) for _ in range(3)]
    until(lambda: view.inside == 3)
    view.go.set()
    for reader in readers:
        reader.join(5)

"""A write that meets another is tried again a few times, under the key that makes twice harmless."""

from __future__ import annotations

import uuid
from typing import Any

import pytest
from django.db import IntegrityError, OperationalError, connection

from jarvok.app import once as once_module
from jarvok.app.facts.floor.models import IdempotentWrite
from jarvok.app.once import TRIES, once
from jarvok.app.problems import Conflict


@pytest.mark.django_db(transaction=True)
def test_a_write_that_met_another_is_tried_again_and_stored_once(monkeypatch: pytest.MonkeyPatch) -> None:
    tries = []

    def act() -> dict[str, Any]:
        tries.append(1)
        if len(tries) < TRIES:
            raise OperationalError("database is locked")
        return {"done": True}

    key = uuid.uuid4().hex
    assert once(key, {}, act) == {"done": True}
    assert (len(tries), IdempotentWrite.objects.filter(key=key).count()) == (TRIES, 1)


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize(("words", "tries"), [("database is locked", TRIES), ("deadlock detected", TRIES), ("disk is full", 1)])
def test_it_gives_up_in_the_end_and_at_once_where_trying_cannot_help(words: str, tries: int) -> None:
    tried = []

    def act() -> dict[str, Any]:
        tried.append(1)
        raise OperationalError(words)

    with pytest.raises(OperationalError):
        once(uuid.uuid4().hex, {}, act)
    assert len(tried) == tries
    assert not connection.in_atomic_block


@pytest.mark.django_db(transaction=True)
def test_a_key_that_another_used_meanwhile_is_answered_as_any_key_used_twice(monkeypatch: pytest.MonkeyPatch) -> None:
    key, done_once = uuid.uuid4().hex, once_module._done_once

    def after_another(*given: Any) -> dict[str, Any]:
        monkeypatch.setattr(once_module, "_done_once", done_once)
        IdempotentWrite.objects.create(key=key, request="of another", answer={})
        raise IntegrityError("unique")

    monkeypatch.setattr(once_module, "_done_once", after_another)
    with pytest.raises(Conflict, match="older than what is stored"):
        once(key, {}, lambda: {})


@pytest.mark.django_db(transaction=True)
def test_what_breaks_another_rule_of_the_tables_is_not_tried_again() -> None:
    tried = []

    def act() -> dict[str, Any]:
        tried.append(1)
        raise IntegrityError("another rule")

    with pytest.raises(IntegrityError):
        once(uuid.uuid4().hex, {}, act)
    assert len(tried) == 1

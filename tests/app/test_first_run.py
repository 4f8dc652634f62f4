"""A centre begins: its first account, passwords, wrong ones, and a copy before an upgrade."""

from __future__ import annotations

import json
import sqlite3
from contextlib import closing
from datetime import timedelta
from pathlib import Path
from typing import Any

import pytest
from django.conf import settings
from django.contrib.auth.models import User
from django.test import Client

from jarvok.app import clock
from jarvok.app.accounts.throttle import FREE, wait_s
from jarvok.app.facts.centre.models import Centre
from jarvok.app.facts.people.models import Person, Role, WrongPassword
from jarvok.app.upkeep import dumps
from jarvok.app.upkeep.management.commands.prepare_centre import copied, put_back

pytestmark = pytest.mark.django_db
FIRST = {
    "name": "Skerry Hall", "zone": "Europe/Oslo", "person": "Ingrid Aas", "sign_in": "ingrid",
    "password": "four words of a song",
}  # fmt: skip


def post(client: Client, path: str, body: Any) -> Any:
    return client.post(f"/api/{path}", json.dumps(body), content_type="application/json")


class TestFirstRun:
    def test_the_first_person_is_head_and_signed_in(self, client: Client) -> None:
        assert client.get("/api/me").json()["is_empty"]
        answer = post(client, "first-run", FIRST)
        assert answer.status_code == 200, answer.content
        assert (answer.json()["signed_in"], answer.json()["name"]) == (True, "Ingrid Aas")
        assert Person.objects.get().role == Role.HEAD
        assert (Centre.objects.get().name, Centre.objects.get().zone) == ("Skerry Hall", "Europe/Oslo")
        assert client.get("/api/athletes").status_code == 200

    def test_it_is_there_once(self, client: Client) -> None:
        post(client, "first-run", FIRST)
        stranger = Client()
        assert not stranger.get("/api/me").json()["is_empty"]
        assert post(stranger, "first-run", {**FIRST, "sign_in": "second"}).status_code == 409
        assert User.objects.count() == 1

    @pytest.mark.parametrize(
        ("change", "where"),
        [({"name": " "}, "name"), ({"person": ""}, "person"), ({"sign_in": ""}, "sign_in"), ({"password": "short"}, "password"),
         ({"password": "1234567890"}, "password"), ({"password": "password123"}, "password"),
         ({"password": "ingrid12345"}, "password"),
         ({"zone": "Mars/Base"}, "zone"), ({"unit": "st"}, "unit"), ({"day_order": "year first"}, "day_order")],
    )  # fmt: skip
    def test_what_is_missing_is_said_and_nothing_is_made(self, client: Client, change: dict[str, str], where: str) -> None:
        answer = post(client, "first-run", {**FIRST, **change})
        assert (answer.status_code, answer.json()["where"]) == (422, where)
        assert answer.json()["accepted"]
        assert not User.objects.exists()
        assert not Centre.objects.exclude(name="").exists()


class TestPasswords:
    def test_it_is_changed_and_the_old_one_is_over(self, client: Client) -> None:
        post(client, "first-run", FIRST)
        elsewhere = Client()
        assert post(elsewhere, "sign-in", {"name": "ingrid", "password": FIRST["password"]}).status_code == 200
        wrong = post(client, "password", {"old": "no", "password": "another long sentence"})
        assert wrong.json()["where"] == "old"
        assert post(client, "password", {"old": FIRST["password"], "password": "another long sentence"}).status_code == 200
        assert client.get("/api/me").json()["signed_in"]
        assert not elsewhere.get("/api/me").json()["signed_in"], "other places are signed out"
        assert post(Client(), "sign-in", {"name": "ingrid", "password": FIRST["password"]}).status_code == 401

    def test_a_reading_sent_before_and_answered_after_takes_no_sign_in_away(self, client: Client) -> None:
        """The browser holds the new cookie by then: an answer that took the cookie away would sign its page out."""
        post(client, "first-run", FIRST)
        late = Client()
        late.cookies = client.cookies.copy()
        assert late.get("/api/athletes").status_code == 200
        assert post(client, "password", {"old": FIRST["password"], "password": "another long sentence"}).status_code == 200
        answer = late.get("/api/athletes")
        assert answer.status_code == 401
        assert settings.SESSION_COOKIE_NAME not in answer.cookies
        out = post(client, "sign-out", {})
        assert out.cookies[settings.SESSION_COOKIE_NAME].value == "", "signing out does take it away"

    def test_a_password_that_is_refused_leaves_the_sign_in_as_it_is(self, client: Client) -> None:
        post(client, "first-run", FIRST)
        before = client.cookies[settings.SESSION_COOKIE_NAME].value
        assert post(client, "password", {"old": FIRST["password"], "password": "short"}).status_code == 422
        assert client.cookies[settings.SESSION_COOKIE_NAME].value == before
        assert client.get("/api/athletes").status_code == 200

    def test_signed_out_is_out(self, client: Client) -> None:
        post(client, "first-run", FIRST)
        assert post(client, "sign-out", {}).status_code == 200
        assert client.get("/api/athletes").status_code == 401

    def test_wrong_ones_wait_longer_each_time(self, client: Client) -> None:
        post(client, "first-run", FIRST)
        stranger = Client()
        answers = [post(stranger, "sign-in", {"name": "ingrid", "password": "no"}).status_code for _ in range(15)]
        assert answers == [401] * (FREE + 1) + [429] * (14 - FREE)
        assert sum(1 for a in answers if a == 401) <= 10, "in the first minute"
        said = post(stranger, "sign-in", {"name": "ingrid", "password": FIRST["password"]})
        assert "Try again in" in said.json()["title"]
        WrongPassword.objects.update(at=clock.now() - timedelta(seconds=11))
        assert post(stranger, "sign-in", {"name": "ingrid", "password": FIRST["password"]}).status_code == 200
        assert wait_s("ingrid", "") == 0

    def test_one_address_waits_for_any_name(self, client: Client) -> None:
        post(client, "first-run", FIRST)
        stranger = Client()
        for n in range(FREE + 1):
            post(stranger, "sign-in", {"name": f"guess{n}", "password": "no"})
        assert post(stranger, "sign-in", {"name": "ingrid", "password": FIRST["password"]}).status_code == 429


class TestBeforeAnUpgrade:
    def test_a_copy_holds_what_is_still_in_the_log_and_goes_back(self, tmp_path: Path, monkeypatch) -> None:
        monkeypatch.setattr(dumps, "is_wanted", lambda: False)  # a file of SQLite is meant, whatever engine the tests run on
        database = tmp_path / "centre.sqlite3"
        with closing(sqlite3.connect(database)) as db:
            db.execute("pragma journal_mode=wal")
            db.execute("create table sets (kg real)")
            db.execute("insert into sets values (100)")
            db.commit()
            copy = copied(database, tmp_path / "backups")
            db.execute("delete from sets")
            db.commit()
        put_back(copy, database)
        with closing(sqlite3.connect(database)) as db:
            assert db.execute("select kg from sets").fetchall() == [(100.0,)]
        assert oct(copy.stat().st_mode & 0o777) == "0o600"

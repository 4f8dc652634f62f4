"""What every answer carries, and that nothing of the framework's own is ever shown."""

from __future__ import annotations

import gzip
import logging
import os
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import pytest
from conftest import Coach
from django.apps import apps
from django.db import DataError, OperationalError, connection
from django.test import Client

import jarvok.app.urls  # noqa: F401  every module has taken its names before a test puts another in their place
from jarvok.app.accounts.sessions import SessionStore
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.logs import LINE, Line, OfRequest
from jarvok.app.plan_acts import PLAN

ROOT = Path(__file__).resolve().parents[2]
PROBLEM = "application/problem+json"


def test_headers_of_safety_on_pages_and_answers(coach: Coach) -> None:
    for path in ("/", "/api/me", "/api/nowhere"):
        answer = coach.client.get(path)
        policy = answer["Content-Security-Policy"]
        assert "script-src 'self'" in policy
        assert "unsafe" not in policy
        assert answer["X-Content-Type-Options"] == "nosniff"
        assert answer["X-Frame-Options"] == "DENY"
        assert "camera=()" in answer["Permissions-Policy"]
    assert coach.client.get("/api/me")["Cache-Control"] == "no-store"
    assert coach.client.get("/api/athletes")["Cache-Control"] == "no-store"


def test_errors_of_the_api_have_one_shape(coach: Coach, db) -> None:
    strict = Client(enforce_csrf_checks=True)
    found = [
        coach.client.get("/api/nowhere"),
        coach.client.put("/api/me"),
        strict.post("/api/sign-in", "{}", content_type="application/json"),
        coach.client.get("/api/me", headers={"Host": "elsewhere.example"}),
        Client().get("/api/openapi.json"),
    ]
    assert [a.status_code for a in found] == [404, 405, 403, 400, 401]
    for answer in found:
        assert answer["Content-Type"] == PROBLEM
        assert answer.json()["title"].endswith(".")
        assert answer.json()["status"] == answer.status_code


def test_the_document_of_the_api_is_for_people_signed_in(coach: Coach, client: Client) -> None:
    assert coach.client.get("/api/openapi.json").json()["info"]["title"] == "Jarvok"


def test_a_database_that_is_locked_under_the_sign_in_is_said_in_words(coach: Coach, monkeypatch: pytest.MonkeyPatch) -> None:
    def locked(self: SessionStore) -> dict[str, object]:
        raise OperationalError("database is locked")

    coach.client.raise_request_exception = False
    monkeypatch.setattr(SessionStore, "load", locked)
    answer = coach.client.get("/api/athletes")
    assert (answer.status_code, answer["Content-Type"]) == (503, PROBLEM)
    assert "busy" in answer.json()["title"]

    def broken(self: SessionStore) -> dict[str, object]:
        raise ValueError("what nobody foresaw")

    monkeypatch.setattr(SessionStore, "load", broken)
    answer = coach.client.get("/api/athletes")
    assert (answer.status_code, answer["Content-Type"]) == (500, PROBLEM)


@pytest.mark.parametrize(
    ("said", "title"),
    [
        ("database is locked", "The database is busy."),
        ("database or disk is full", "The disk is full."),
        ("attempt to write a readonly database", "The disk cannot be written to."),
        ("could not extend file: No space left on device", "The disk is full."),
        ("cannot execute INSERT in a read-only transaction", "The disk cannot be written to."),
        ("disk I/O error", "The disk does not answer."),
        ("unable to open database file", "The data cannot be opened."),
    ],
)
def test_each_trouble_of_the_disk_has_its_own_sentence(
    coach: Coach, monkeypatch: pytest.MonkeyPatch, said: str, title: str
) -> None:
    def broken(*_: object) -> None:
        raise OperationalError(said)

    monkeypatch.setattr("jarvok.app.api.athletes.overview.rows_of", broken)
    answer = coach.client.get("/api/athletes")
    assert (answer.status_code, answer["Content-Type"]) == (503, PROBLEM)
    assert answer.json()["title"] == f"{title} Nothing was stored; what you sent is kept and sent again."


@pytest.mark.parametrize(
    ("path", "raised", "status"),
    [
        ("athletes", OverflowError("Python int too large to convert to SQLite INTEGER"), 422),
        ("athletes", DataError("integer out of range"), 422),
        ("athletes?page=12345678901234567890", DataError("bigint out of range"), 422),
        ("athletes", DataError("value too long for type character varying(4)"), 500),
    ],
)
def test_a_number_too_large_is_said_on_either_engine_and_a_fault_of_ours_is_none(
    coach: Coach, monkeypatch: pytest.MonkeyPatch, path: str, raised: Exception, status: int
) -> None:
    def broken(*_: object) -> None:
        raise raised

    monkeypatch.setattr("jarvok.app.api.athletes.overview.rows_of", broken)
    answer = coach.client.get(f"/api/{path}")
    assert (answer.status_code, answer["Content-Type"]) == (status, PROBLEM)


def test_an_address_with_a_number_too_large_names_nothing(coach: Coach) -> None:
    assert coach.client.get("/api/athletes/12345678901234567890").status_code == 404


def test_a_deployment_with_tls_passes_the_frameworks_own_check(tmp_path: Path) -> None:
    env = {**os.environ, "JARVOK_TLS": "1", "JARVOK_VAR": str(tmp_path), "PYTHONPATH": str(ROOT / "src")}
    command = [sys.executable, "manage.py", "check", "--deploy", "--fail-level", "WARNING"]
    done = subprocess.run(command, cwd=ROOT, env=env, capture_output=True, text=True)
    assert done.returncode == 0, done.stderr


def test_with_tls_plain_requests_are_sent_on_and_cookies_stay_within(coach: Coach, settings) -> None:
    settings.SECURE_SSL_REDIRECT = settings.SESSION_COOKIE_SECURE = settings.CSRF_COOKIE_SECURE = True
    settings.SECURE_HSTS_SECONDS = 31_536_000
    client = Client()
    assert client.get("/api/me")["Location"].startswith("https://")
    answer = client.get("/api/me", secure=True)
    assert answer.cookies["csrftoken"]["secure"]
    assert answer["Strict-Transport-Security"].startswith("max-age=31536000")


def test_a_line_of_the_log_says_when_who_and_from_where_and_no_name(coach: Coach, monkeypatch: pytest.MonkeyPatch) -> None:
    lines: list[str] = []

    class Kept(logging.Handler):
        def emit(self, record: logging.LogRecord) -> None:
            lines.append(self.format(record))

    handler = Kept()
    handler.addFilter(OfRequest())
    handler.setFormatter(Line(LINE, style="{"))
    logging.getLogger().addHandler(handler)
    try:

        def locked(*_: object) -> None:
            raise OperationalError("database is locked")

        coach.client.raise_request_exception = False
        monkeypatch.setattr("jarvok.app.api.athletes.overview.rows_of", locked)
        coach.client.get("/api/athletes")
    finally:
        logging.getLogger().removeHandler(handler)
    user = coach.client.session["_auth_user_id"]
    assert any(f"WARNING person={user} address=127.0.0.1 jarvok.app.api.problems: database" in line for line in lines), lines
    assert all(f"person={user} address=127.0.0.1" in line for line in lines), lines
    assert not any("Coach" in line for line in lines)


@pytest.mark.parametrize(
    ("path", "shown"),
    [
        ("/api/ready/Zk3-secret_of_a_link", "/api/ready/…"),
        ("/api/rack-links/Zk3-secret_of_a_link", "/api/rack-links/…"),
        ("/api/streams/Zk3-secret_of_a_stream", "/api/streams/…"),
        ("/api/calendars/Zk3-secret_of_one.ics", "/api/calendars/….ics"),
        ("/api/sensors/12/try", "/api/sensors/12/try"),
        ("/api/athletes/12/week", "/api/athletes/12/week"),
    ],
)
def test_no_secret_of_an_address_is_in_the_log(path: str, shown: str) -> None:
    record = logging.LogRecord("jarvok", logging.ERROR, "", 1, "unforeseen error at %s", (path,), None)
    assert Line("{message}", style="{").format(record) == f"unforeseen error at {shown}"


def test_a_page_that_is_too_old_is_told_so(coach: Coach) -> None:
    strict = Client(enforce_csrf_checks=True)
    strict.cookies = coach.client.cookies
    answer = strict.post("/api/floor/sessions", "{}", content_type="application/json")
    assert (answer.status_code, answer.json()["title"][:32]) == (403, "This page is from an earlier vis")


def test_a_printed_page_carries_no_policy_that_would_keep_it_from_being_shown(coach: Coach, athlete: Athlete) -> None:
    answer = coach.client.get(f"/api/export/athletes/{athlete.pk}/file.pdf")
    assert answer["Content-Type"] == "application/pdf"
    assert "Content-Security-Policy" not in answer


def test_a_long_answer_travels_compressed_to_who_asks_for_it(coach: Coach, athlete: Athlete) -> None:
    plain = coach.client.get("/api/athletes")
    packed = coach.client.get("/api/athletes", headers={"Accept-Encoding": "gzip, br"})
    assert "Content-Encoding" not in plain
    assert packed["Content-Encoding"] == "gzip"
    assert gzip.decompress(packed.content) == plain.content
    assert len(packed.content) < len(plain.content) / 2
    short = coach.client.get("/api/now", headers={"Accept-Encoding": "gzip"})
    assert "Content-Encoding" not in short


def test_what_is_told_as_it_happens_is_not_held_up(coach: Coach, athlete: Athlete) -> None:
    told = coach.client.get("/api/export/athletes.csv", headers={"Accept-Encoding": "gzip"})
    assert told.streaming
    assert "Content-Encoding" not in told


@contextmanager
def a_disk_that_cannot_be_written_to() -> Iterator[None]:
    """The engine itself refuses every write, as on a disk that was mounted for reading alone."""
    off, on = {
        "sqlite": ("PRAGMA query_only = 1", "PRAGMA query_only = 0"),
        "postgresql": ("SET default_transaction_read_only = on", "SET default_transaction_read_only = off"),
    }[connection.vendor]
    with connection.cursor() as cursor:
        cursor.execute(off)
    try:
        yield
    finally:
        with connection.cursor() as cursor:
            cursor.execute(on)


def all_rows() -> dict[str, int]:
    return {m._meta.label: m.objects.count() for m in apps.get_models()}


@pytest.mark.django_db(transaction=True)
def test_a_disk_that_cannot_be_written_to_is_said_and_nothing_is_half_stored(coach: Coach, athlete: Athlete, floor: Any) -> None:
    coach.client.raise_request_exception = False
    line = next(x for x in floor["lines"] if x["slot"] == "A1")
    done = {"line_id": line["id"], "kind": "work", "number": 1, "load_kg": 80, "reps": 5}
    writes = (
        ("POST", f"floor/sessions/{floor['id']}/sets", done),
        ("POST", f"floor/sessions/{floor['id']}/finish", {"srpe": 6, "minutes": 50}),
        (
            "POST",
            f"athletes/{athlete.pk}/marks",
            {"exercise_id": "front_squat", "kind": "one_rm", "day": "2026-11-20", "load": 90},
        ),
        ("POST", f"athletes/{athlete.pk}/calendar", {"kind": "ill", "name": "Flu", "start": "2026-11-25", "end": "2026-11-26"}),
        ("PUT", "settings/habits", {"unit": "lb", "day_order": "month first"}),
        ("POST", "athletes", {"name": "Bo New", "squad": "Test harbour wrestling"}),
    )
    before = all_rows()
    with a_disk_that_cannot_be_written_to():
        for method, path, body in writes:
            answer = coach.send(method, path, body)
            assert (answer.status_code, answer["Content-Type"]) == (503, PROBLEM), path
            assert (
                answer.json()["title"]
                == "The disk cannot be written to. Nothing was stored; what you sent is kept and sent again."
            )
        assert coach.get(f"floor/sessions/{floor['id']}")["lines"], "what there is can be read meanwhile"
    assert all_rows() == before
    assert coach.send(*writes[0]).status_code == 200, "sent again, it is stored"


def test_what_has_not_changed_is_not_sent_again(coach: Coach, athlete: Athlete) -> None:
    path = f"/api/athletes/{athlete.pk}"
    first = coach.client.get(path, headers={"Accept-Encoding": "gzip"})
    mark = first["ETag"]
    again = coach.client.get(path, headers={"If-None-Match": mark, "Accept-Encoding": "gzip"})
    assert again.status_code == 304
    assert again.content == b""
    assert again["ETag"].removeprefix("W/") == mark.removeprefix("W/")
    assert again["Cache-Control"] == "no-store", "no browser keeps it; a page holds it while it is open"
    assert again[PLAN] == first[PLAN], "and what the page has seen of the plan is said all the same"

    coach.ok("PATCH", f"athletes/{athlete.pk}/record", {"name": "Ada Other"})
    changed = coach.client.get(path, headers={"If-None-Match": mark})
    assert changed.status_code == 200
    assert "Ada Other" in changed.content.decode()
    assert changed["ETag"] != mark


def test_a_change_and_a_refusal_are_answered_whole(coach: Coach, athlete: Athlete) -> None:
    mark = coach.client.get(f"/api/athletes/{athlete.pk}")["ETag"]
    assert Client().get(f"/api/athletes/{athlete.pk}", headers={"If-None-Match": mark}).status_code == 401
    assert coach.client.get("/api/athletes/999999", headers={"If-None-Match": "*"}).status_code == 404

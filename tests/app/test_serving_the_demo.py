"""The demo centre is filled by a process of its own where it is not there, and served by the one that looked."""

from __future__ import annotations

import subprocess
import sys
from types import SimpleNamespace

import pytest
import uvicorn
from django.core.management import call_command
from django.db import connection
from django.db.migrations.recorder import MigrationRecorder

from jarvok.app.demo.management.commands.serve_demo import is_ready


@pytest.fixture
def done(monkeypatch) -> SimpleNamespace:
    """What is run and served, without running or serving it."""
    done = SimpleNamespace(ran=[], served=[], returncode=0)

    def run(command: list[str]) -> SimpleNamespace:
        done.ran.append(command[2:])
        return SimpleNamespace(returncode=done.returncode)

    monkeypatch.setattr(subprocess, "run", run)
    monkeypatch.setattr(uvicorn, "run", lambda *_, host, port, **__: done.served.append((host, port)))
    monkeypatch.setattr(sys, "argv", ["manage.py"])
    monkeypatch.setattr(connection, "close", lambda: None)  # a test's transaction goes on
    return done


def test_nobody_there_is_not_ready(db) -> None:
    assert not is_ready()


def test_somebody_there_is_ready(athlete) -> None:
    assert is_ready()


def test_tables_of_another_version_are_not_ready(athlete) -> None:
    applied = MigrationRecorder(connection)
    app, name = max(applied.applied_migrations())
    applied.record_unapplied(app, name)
    assert not is_ready()


def test_an_empty_database_is_filled_first(db, done) -> None:
    call_command("serve_demo", 8123)
    assert done.ran == [["demo_data", "--migrate"]]
    assert done.served == [("127.0.0.1", 8123)]


def test_a_filled_one_is_served_at_once(athlete, done, capsys) -> None:
    call_command("serve_demo", 8123)
    assert done.ran == []
    assert done.served == [("127.0.0.1", 8123)]
    assert "http://127.0.0.1:8123" in capsys.readouterr().out


def test_what_cannot_be_filled_is_not_served(db, done) -> None:
    done.returncode = 3
    with pytest.raises(SystemExit) as left:
        call_command("serve_demo", 8123)
    assert left.value.code == 3
    assert done.served == []

"""A centre in a file of its own goes back to a copy of itself, and moves to an empty installation: every table as it was."""

from __future__ import annotations

import os
import sqlite3
import subprocess
import sys
from collections import Counter
from contextlib import closing
from pathlib import Path
from typing import Any

import pytest
from support.demo_file import ROOT, copy_demo, environment

from jarvok.app.upkeep.whole_centre import LEFT_OUT, SECRETS

WITH_COACH = """
from jarvok.app.acts import Who
from jarvok.app.facts.people.models import Person, Role, SignedIn
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import SetRecord
from jarvok.app.upkeep import backups, whole_centre
who = Who(Person.objects.first())
"""


def run(folder: Path, code: str, with_coach: str = WITH_COACH) -> str:
    """Run code in a process of its own on the database in a folder; return what it prints."""
    env = environment(folder) | {"JARVOK_LOCAL_DEMO": "0"}
    done = subprocess.run(
        [sys.executable, str(ROOT / "manage.py"), "shell", "--no-imports", "-c", with_coach + code],
        env=env, check=False, capture_output=True, text=True,
    )  # fmt: skip
    assert done.returncode == 0, done.stderr
    return done.stdout.strip()


def rows_of(database: Path, *, without: set[str]) -> dict[str, Counter[Any]]:
    """Every row of every table but some, as often as it is there."""
    with closing(sqlite3.connect(f"file:{database}?mode=ro", uri=True)) as db:
        tables = [t for (t,) in db.execute("SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite%'")]
        found = {}
        for table in sorted(set(tables) - without):
            columns = [c[1] for c in db.execute(f"PRAGMA table_info({table})")]
            secret = {name for kind, name in SECRETS if table == kind.replace(".", "_")}
            kept = ", ".join(f'"{c}"' for c in columns if c not in secret)
            found[table] = Counter(db.execute(f"SELECT {kept} FROM {table}").fetchall())
    return found


@pytest.fixture(scope="module")
def demo(tmp_path_factory: pytest.TempPathFactory) -> Path:
    folder = tmp_path_factory.mktemp("centre")
    copy_demo(folder)
    run(folder, "from jarvok.app.upkeep.apps import put_right; put_right()")
    return folder


def test_a_restored_centre_is_the_one_that_was_copied(demo: Path) -> None:
    before = rows_of(demo / "test.sqlite3", without=set())
    name = run(
        demo,
        """
print(backups.make(backups.BY_HAND).name)
Athlete.objects.update(name='somebody'); SetRecord.objects.all().delete(); Person.objects.update(name='nobody')
""",
    )
    assert rows_of(demo / "test.sqlite3", without=set()) != before
    kinds_there = run(
        demo,
        f"""
from jarvok.app.upkeep.actions import restore_backup
restore_backup.run(who, {name!r})
print(*sorted(b.kind for b in backups.listing()))
""",
    )
    after = rows_of(demo / "test.sqlite3", without=set())
    differ = {t for t in before if before[t] != after[t]}
    assert differ <= {"people_act", "centre_centre", "sqlite_sequence"}, "the act of putting it back, and nothing else"
    assert (after["people_act"] - before["people_act"]).total() == 1
    assert kinds_there == "before-restore by-hand", "what it was before is kept too"


def test_who_was_erased_stays_erased_after_a_backup_is_put_back(tmp_path: Path) -> None:
    copy_demo(tmp_path)
    found = run(
        tmp_path,
        """
from jarvok.app.athletes.actions import erase_athlete
from jarvok.app.facts.people.models import Act
from jarvok.app.upkeep.actions import restore_backup
name = backups.make(backups.BY_HAND).name
gone = Athlete.objects.filter(sessions__isnull=False).distinct().first()
told, pk = gone.name, gone.pk
erase_athlete.run(who, gone, told)
print(Athlete.objects.filter(pk=pk).exists(), Act.objects.filter(words__contains=told).exists())
restore_backup.run(who, name)
print(Athlete.objects.filter(pk=pk).exists(), Act.objects.filter(words__contains=told).exists(), Athlete.objects.exists())
""",
    )
    assert found.splitlines() == ["False False", "False False True"]


def test_a_damaged_copy_replaces_nothing(demo: Path) -> None:
    name = run(demo, "print(backups.make(backups.BY_HAND).name)")
    whole = (demo / "backups" / name).read_bytes()
    before = rows_of(demo / "test.sqlite3", without=set())
    broken = (whole[: len(whole) // 2], b"nothing of the kind", whole[:4096] + b"\xff" * 8192 + whole[12288:])
    for n, instead in enumerate(broken):
        (demo / f"broken-{n}").write_bytes(instead)
    said = run(
        demo,
        f"""
from pathlib import Path
from django.conf import settings
from jarvok.app.problems import Conflict
from jarvok.app.upkeep.actions import restore_backup
for n in range({len(broken)}):
    (settings.VAR / f"broken-{{n}}").replace(settings.VAR / "backups" / {name!r})
    try:
        restore_backup.run(who, {name!r})
    except Conflict as refused:
        print(refused)
""",
    )
    told = said.splitlines()
    assert len(told) == len(broken)
    assert all(x.startswith("This copy cannot be put back.") for x in told), said
    assert rows_of(demo / "test.sqlite3", without=set()) == before


DIGEST = """
import hashlib
from datetime import timedelta
from jarvok.app import clock
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.athletes.reading import read_for_a_week
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.training.planned_weeks import planned_week
found = hashlib.sha256()
for athlete in read_for_a_week(Athlete.objects.order_by('pk')):
    book = LiftBook([athlete], clock.today())
    found.update(repr([(lift.id, book.max(athlete.pk, lift.id).value_kg) for lift in book.lifts_of(athlete.pk)
                       if book.max(athlete.pk, lift.id)]).encode())
    plan = SeasonBook([athlete], clock.today(), book.rules).plan(athlete.pk)
    for n in range({weeks}):
        week = plan.week_of(clock.today() + timedelta(weeks=n)) if plan else None
        found.update(repr(planned_week(athlete, plan, week, book.rules) if week else None).encode())
print(found.hexdigest())
"""


def test_a_centre_moves_as_a_file_to_an_empty_installation(demo: Path, tmp_path: Path) -> None:
    """Every table is equal but for what is left out and named, and plans and maxes are the same."""
    file, there = tmp_path / "centre.zip", tmp_path / "there"
    there.mkdir()
    weeks = int(os.environ.get("JARVOK_WEEKS_MOVED", "2"))
    run(demo, f"whole_centre.write(open({str(file)!r}, 'wb'))")
    take = f"""
from jarvok.app.upkeep.actions import take_in_centre
take_in_centre.run(open({str(file)!r}, 'rb'), 'Maro Vell', 'coach', 'four words of a song')
"""
    run(there, "from django.core.management import call_command\ncall_command('migrate', verbosity=0)\n" + take, with_coach="")
    without = {kind.replace(".", "_") for kind in LEFT_OUT} | {
        "django_migrations", "django_content_type", "django_session", "auth_permission", "auth_group", "auth_group_permissions",
        "auth_user_groups", "auth_user_user_permissions",
    }  # fmt: skip
    here, moved = (rows_of(f / "test.sqlite3", without=without) for f in (demo, there))
    differ = {t for t in here if here[t] != moved[t]}
    assert differ <= {"people_act", "people_person", "centre_centre"}, differ
    assert (moved["people_act"] - here["people_act"]).total() == 1, "the act of taking it in"
    assert here["floor_setrecord"].total() > 100
    digest = DIGEST.replace("{weeks}", str(weeks))
    role, plans, again = run(
        there,
        f"""
print(Person.objects.get(user__username='coach').role)
{digest}
from jarvok.app.problems import Conflict
try:{take.replace(chr(10), chr(10) + "    ")}
except Conflict as refused:
    print(refused)
""",
    ).splitlines()
    assert role == "head"
    assert plans == run(demo, digest)
    assert again.startswith("This installation holds a centre already.")

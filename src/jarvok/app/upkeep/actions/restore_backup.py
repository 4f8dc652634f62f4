"""The centre goes back to a copy of itself."""

from __future__ import annotations

import shutil
import tempfile
from pathlib import Path

from django.core.management import call_command
from django.db import DatabaseError, connections

from jarvok.app.acts import Who, acting
from jarvok.app.athletes.actions import erase_athlete
from jarvok.app.athletes.kept_known import forget_all_kept
from jarvok.app.centre.habits import read_habits_anew
from jarvok.app.facts.athletes.models import Athlete, Erased
from jarvok.app.facts.people.models import Person, SignedIn
from jarvok.app.facts.writing import look_over_tables
from jarvok.app.floor.at_hand import forget_all
from jarvok.app.problems import Conflict
from jarvok.app.upkeep import backups, dumps
from jarvok.app.upkeep.apps import put_right
from jarvok.core.errors import CoachError


def run(who: Who, name: str) -> backups.Backup:
    """Put a copy in the place of what there is, and return the copy that was made of that first.

    The copy is looked through and brought to this version apart; only then does it replace anything. Everybody signs in again.
    Raises `Conflict` for a copy that is damaged, foreign or newer.
    """
    source = backups.path_of(name)
    said = backups.look_into(source)
    if said.problem:
        raise Conflict(f"This copy cannot be put back. {said.problem}")
    before = backups.make(backups.BEFORE_RESTORE)
    erased = list(Erased.objects.values_list("athlete_id", flat=True))
    if dumps.is_wanted():
        _put_back_dump(source, backups.path_of(before.name))
    else:
        _put_back_file(source)
    look_over_tables()
    forget_all()
    forget_all_kept()
    read_habits_anew()
    put_right()
    SignedIn.objects.all().delete()
    for athlete in Athlete.objects.filter(pk__in=erased):
        erase_athlete.erase(athlete)
    doer = Person.objects.filter(pk=who.person.pk).first() if who.person is not None else None
    with acting(Who(doer, who.via), "restore_backup", f"the centre as it was in {name}; what it was before: {before.name}"):
        return before


def _put_back_file(source: Path) -> None:
    with tempfile.TemporaryDirectory(dir=backups.database().parent) as apart:
        checked = Path(apart) / "checked.sqlite3"
        shutil.copyfile(source, checked)
        _bring_up_to_date(checked)
        problem = backups.look_into(checked).problem
        if problem:
            raise Conflict(f"This copy cannot be put back. {problem}")
        backups.put_in_place(checked)


def _put_back_dump(source: Path, before: Path) -> None:
    """A dump replaces everything at once and is brought to this version then; where that fails, what was there comes back."""
    try:
        dumps.put_back(source)
        call_command("migrate", verbosity=0, interactive=False)
    except (CoachError, DatabaseError) as error:
        dumps.put_back(before)
        raise Conflict(f"This copy cannot be put back. {error}") from None


def _bring_up_to_date(file: Path) -> None:
    """Apply to a copy, apart from the centre's own database, what this version changes in its tables."""
    alias = "checked"
    connections.databases[alias] = connections.databases["default"] | {"NAME": str(file), "ATOMIC_REQUESTS": False}
    try:
        call_command("migrate", database=alias, verbosity=0, interactive=False)
    finally:
        connections[alias].close()
        del connections.databases[alias]
        if hasattr(connections._connections, alias):  # type: ignore[attr-defined]
            delattr(connections._connections, alias)  # type: ignore[attr-defined]

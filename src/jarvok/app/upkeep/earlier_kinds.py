"""Kinds of rows that earlier versions wrote into the file of a whole centre, and what they are now."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from django.core.exceptions import ValidationError
from django.db.models import Model

from jarvok.app.facts.room.models import Trial, TrialEntry
from jarvok.core.errors import CoachError
from jarvok.core.testing.steps import Attempt
from jarvok.core.testing.tried import to_raw

TESTS, ATTEMPTS = "athletes.maxtest.jsonl", "athletes.testattempt.jsonl"
FILES = (TESTS, ATTEMPTS)
Rows = Mapping[str, Sequence[Mapping[str, Any]]]


def take(rows: Rows) -> int:
    """Store what earlier files hold; return how many rows. Guided tests of a max stand among the trials now."""
    try:
        trials = {r["id"]: Trial.objects.create(**_columns(Trial, r)) for r in rows[TESTS]}
        for r in rows[ATTEMPTS]:
            named = ("load_kg", "reps", "felt", "form_broke", "missed", "velocity_mps")
            told = _columns(TrialEntry, r) | {"data": to_raw(Attempt(**{k: r[k] for k in named}))}
            TrialEntry.objects.create(trial=trials[r["test_id"]], **told)
    except (KeyError, TypeError, ValueError, ValidationError):
        raise CoachError("A guided test cannot be read.", where="file", accepted="A file as it was written.") from None
    return len(rows[TESTS]) + len(rows[ATTEMPTS])


def _columns(kind: type[Model], raw: Mapping[str, Any]) -> dict[str, Any]:
    """What a row says of the columns that a kind has still, but for its number."""
    known = {f.attname: f for f in kind._meta.concrete_fields if not f.primary_key}
    return {k: known[k].to_python(v) for k, v in raw.items() if k in known}

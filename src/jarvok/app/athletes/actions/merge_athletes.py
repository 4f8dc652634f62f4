"""Two athletes are one: what is known and was done of one goes over to the other, who stays."""

from __future__ import annotations

from collections import Counter
from typing import NamedTuple

from django.db.models import Model, QuerySet

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import (
    Athlete,
    BodyMass,
    Fault,
    ImportedTable,
    MarkRecord,
    MaxDecision,
    Practice,
    Restriction,
    SquadMove,
)
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.facts.learning.models import Finding, MissedWord
from jarvok.app.facts.people.models import Act, Link
from jarvok.app.facts.room.models import Attendance, OwnDefault, Reading, Trial
from jarvok.app.facts.seasons.models import (
    CalendarEntry,
    Change,
    Competition,
    Entry,
    FlagWord,
    MinutesPlayed,
    SeasonStyle,
)
from jarvok.app.facts.training.models import LineEdit, MethodChoice, SessionMove, ToldWeek, WeekChoice, WrittenSession
from jarvok.app.problems import Conflict
from jarvok.core.errors import CoachError
from jarvok.core.quantities.days import said_day
from jarvok.core.quantities.sentence import counted

KNOWN = (
    Restriction, Fault, MaxDecision, Practice, CalendarEntry, Reading, Trial, OwnDefault, Link, Act, SquadMove, Finding,
    MissedWord,
)  # fmt: skip
PLAN = (
    Competition,
    Entry,
    SeasonStyle,
    Change,
    FlagWord,
    LineEdit,
    MethodChoice,
    SessionMove,
    WeekChoice,
    WrittenSession,
    ToldWeek,
)
OWN_KEYS = tuple(f"X{n}" for n in range(1, 10))
# what is filled in from the other where the one who stays has nothing
FILLED = (
    "group", "position", "sex", "birth_date", "body_mass_class", "class_limit_kg", "note", "dominant_side", "limb_note",
    "height_cm", "goals", "sessions_a_week", "minutes_a_session", "kit_id",
)  # fmt: skip


class Going(NamedTuple):
    """What would go over, and whose plan would stand."""

    results: int
    masses: int
    sessions: int
    takes_plan: bool


def going(stays: Athlete, goes: Athlete) -> Going:
    """Return what merging would move. Raises `CoachError` for an athlete and themselves."""
    if stays.pk == goes.pk:
        raise CoachError("That is the same athlete already.", where="other_id", accepted="Another athlete.")
    return Going(
        goes.marks.filter(withdrawn_at__isnull=True).count(),
        goes.masses.count(),
        goes.sessions.count(),
        takes_plan=not _has_plan(stays) and _has_plan(goes),
    )


def run(who: Who, stays: Athlete, goes: Athlete, typed_name: str) -> None:
    """Let one athlete take over what is known of another, who is gone then. The name of that one is typed once more.

    The plan is that of the one who stays; where they have none it is the other's. The same result stands once, a session on the
    same day keeps both. Raises `Conflict` where both have an account of their own.
    """
    moved = going(stays, goes)
    if typed_name.strip() != goes.name:
        raise CoachError("Type the name as it stands here.", where="name", accepted=goes.name)
    if hasattr(stays, "person") and hasattr(goes, "person"):
        raise Conflict("Both have an account of their own. End one under Settings, People.")
    words = f"{goes.name} is {stays.name}: {counted(moved.results, 'result')} and {counted(moved.sessions, 'session')} taken over"
    with acting(who, "merge_athletes", words, athlete=stays, also=[goes]):
        _results(stays, goes)
        _sessions(stays, goes)
        _once(BodyMass.objects.filter(athlete=goes), stays, "day")
        _once(Attendance.objects.filter(athlete=goes), stays, "gathering_id")
        _once(MinutesPlayed.objects.filter(athlete=goes), stays, "entry_id")
        Finding.objects.filter(
            athlete=goes, ref__in=stays.findings.exclude(ref="").values("ref")
        ).delete()  # the same, noticed twice
        for kind in (*KNOWN, *(PLAN if moved.takes_plan else ())):
            if kind is SeasonStyle and SeasonStyle.objects.filter(athlete=goes).exists():
                SeasonStyle.objects.filter(athlete=stays).delete()
            kind._default_manager.filter(athlete=goes).update(athlete=stays)
        if hasattr(goes, "person"):
            goes.person.athlete = stays
            goes.person.save(update_fields=["athlete"])
        for table in ImportedTable.objects.filter(before__has_key=str(goes.pk)):
            table.before.pop(str(goes.pk))
            table.save(update_fields=["before"])
        _fill(stays, goes)
        Athlete.objects.get(pk=goes.pk).delete()


def _has_plan(athlete: Athlete) -> bool:
    return athlete.entered.exists() or athlete.written_sessions.exists()


def _results(stays: Athlete, goes: Athlete) -> None:
    """Move results; one that stands with the other already is withdrawn, so that it counts once."""
    there = Counter(_sign(m) for m in stays.marks.filter(withdrawn_at__isnull=True))
    for mark in goes.marks.filter(withdrawn_at__isnull=True):
        if there[_sign(mark)]:
            MarkRecord.objects.filter(pk=mark.pk).update(withdrawn_at=clock.now())
    goes.marks.update(athlete=stays)


def _sign(m: MarkRecord) -> tuple[object, ...]:
    return (m.exercise_id, m.kind, m.side, m.day, round(m.load_kg, 2), m.sets, m.reps, m.rir, str(sorted(m.measures.items())))


def _sessions(stays: Athlete, goes: Athlete) -> None:
    """Move sessions; one whose key is taken on its day gets a key of its own."""
    taken = set(stays.sessions.values_list("day", "key"))
    for row in goes.sessions.order_by("day", "pk"):
        key = row.key if (row.day, row.key) not in taken else next((k for k in OWN_KEYS if (row.day, k) not in taken), None)
        if key is None:
            raise Conflict(f"{said_day(row.day, year=True, is_long=True)} holds too many sessions of both.")
        taken.add((row.day, key))
        TrainingSession.objects.filter(pk=row.pk).update(athlete=stays, key=key)


def _once(rows: QuerySet[Model], stays: Athlete, field: str) -> None:
    """Move rows of which there is one for each value of a field: where the one who stays has it, theirs counts."""
    there = set(rows.model._default_manager.filter(athlete=stays).values_list(field, flat=True))
    for row in list(rows):
        if getattr(row, field) not in there:
            rows.model._default_manager.filter(pk=row.pk).update(athlete=stays)


def _fill(stays: Athlete, goes: Athlete) -> None:
    for field in FILLED:
        if getattr(stays, field) in ("", None):
            setattr(stays, field, getattr(goes, field))
    stays.traits = list(dict.fromkeys([*stays.traits, *goes.traits]))
    stays.not_ranked = stays.not_ranked or goes.not_ranked  # who has asked not to be shown has asked
    stays.save(update_fields=[*(f.removesuffix("_id") for f in FILLED), "traits", "not_ranked"])

"""What sessions showed of pairs of a heavy set and a jump: the rest as it was kept, and the heights after it."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from statistics import fmean
from typing import Any

from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import SessionLine, SetKind, SetRecord
from jarvok.app.facts.room.models import Reading
from jarvok.core.floor.told_steps import told_from
from jarvok.core.learning.rest_noticed import PairRound
from jarvok.core.library.exercises import exercises
from jarvok.core.session.blocks import Grouping

LOOK_BACK_DAYS = 84  # [J] a phase and the one before it: what is older has changed
Of = tuple[int, str]  # athlete, jump


@dataclass(frozen=True)
class PairsSeen:
    """Rounds of pairs and sets of jumps, oldest first, by athlete and jump."""

    rounds: dict[Of, list[PairRound]]
    jumps: dict[Of, list[tuple[date, Sequence[float], str]]]


@dataclass(frozen=True)
class _JumpSet:
    pk: int
    line_id: int
    number: int
    heights: tuple[float, ...]
    began_at: datetime


def pairs_seen(people: Sequence[Athlete], today: date) -> PairsSeen:
    """Return what the last twelve weeks of some athletes showed, in four queries; nothing more is read where nobody jumped."""
    jumps = [e.id for e in exercises().values() if e.kind == "jump"]
    span = (today - timedelta(days=LOOK_BACK_DAYS), today)
    rows = SessionLine.objects.filter(exercise_id__in=jumps, session__athlete__in=people, session__day__range=span)
    lines = {line.pk: line for line in rows.select_related("session")}
    done = _jump_sets(lines)
    sets: dict[Of, list[tuple[date, Sequence[float], str]]] = defaultdict(list)
    for item in sorted(done, key=lambda s: (lines[s.line_id].session.day, s.pk)):
        line = lines[item.line_id]
        sets[line.session.athlete_id, line.exercise_id].append((line.session.day, item.heights, f"set:{item.pk}"))
    return PairsSeen(_rounds(lines, done), dict(sets))


def _jump_sets(lines: dict[int, SessionLine]) -> list[_JumpSet]:
    """The sets of jumps with a height, from a mat or typed; when each began."""
    if not lines:
        return []
    mats: dict[tuple[int, int], list[tuple[datetime, dict[str, Any]]]] = defaultdict(list)
    readings = Reading.objects.filter(line__in=lines, taken_out_at__isnull=True).order_by("id")
    for line_id, number, at, values in readings.values_list("line_id", "set_number", "at", "values"):
        if "height_cm" in values:
            mats[line_id, number].append((at, values))
    found: list[_JumpSet] = []
    records = SetRecord.objects.filter(line__in=lines, kind=SetKind.WORK, trouble="", taken_back_at__isnull=True)
    for pk, line_id, number, typed, done_at in records.values_list("pk", "line_id", "number", "jumps", "done_at"):
        seen = mats.get((line_id, number), [])
        heights = tuple(float(v["height_cm"]) for v in ([v for _, v in seen] or typed) if v.get("height_cm"))
        if heights:
            found.append(_JumpSet(pk, line_id, number, heights, min((at for at, _ in seen), default=done_at)))
    return found


def _rounds(lines: dict[int, SessionLine], done: Sequence[_JumpSet]) -> dict[Of, list[PairRound]]:
    """Each set of jumps with the heavy set of its round, where both are a pair that primes."""
    sessions = {lines[s.line_id].session for s in done}
    primers = {s.pk: {step.block for step in told_from(s.told) if step.grouping is Grouping.PAPE} for s in sessions}
    blocks = {pk for pk, named in primers.items() if named}
    heavy: dict[tuple[int, int], int] = {}  # the line before a jump, by session and place
    rows = SessionLine.objects.filter(session__in=blocks).values_list("pk", "session_id", "order", "block")
    for pk, session_id, order, block in rows:
        if block in primers[session_id]:
            heavy[session_id, order] = pk
    records = SetRecord.objects.filter(
        line__in=heavy.values(), kind=SetKind.WORK, load_kg__gt=0, trouble="", taken_back_at__isnull=True
    ) if heavy else SetRecord.objects.none()  # fmt: skip
    ended = {(line_id, n): at for line_id, n, at in records.values_list("line_id", "number", "done_at")}
    found: dict[Of, list[PairRound]] = defaultdict(list)
    for item in done:
        line = lines[item.line_id]
        before = heavy.get((line.session_id, line.order - 1))
        at = ended.get((before, item.number)) if before is not None and (line.session_id, line.order) in heavy else None
        if at is not None:
            rest_s = (item.began_at - at).total_seconds()
            found[line.session.athlete_id, line.exercise_id].append(
                PairRound(line.session.day, rest_s, fmean(item.heights), f"set:{item.pk}")
            )
    return {of: sorted(rows, key=lambda r: r.day) for of, rows in found.items()}

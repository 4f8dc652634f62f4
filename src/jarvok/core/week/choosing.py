"""A week as what is known of the athlete changes it: variations for faults, small work it needs, sides, findings.

First the drafts: one line of a lift with a fault of skill becomes the variation that works on it. Then, once each line is
settled: what a session holds already says what else it is good for; what is missing is added as small work of the athlete's
own, at most two lines a session; the first set of the weaker side is done twice; jumps hold the repetitions the athlete's
own test has found. Every line says why; what finds no place is said too. Common practice but for the numbers.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

from jarvok.core.chooser.known import Because, Need, SideGap
from jarvok.core.chooser.wishes import NO_WISHES, fault_need, fault_words, side_need, side_words
from jarvok.core.exercises import Exercise
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.library.substitutes import Limits
from jarvok.core.loading.prescription import Prescription, SetGroup
from jarvok.core.loading.shorthand import parse
from jarvok.core.marks.limiter import fault_kinds
from jarvok.core.season.model import PhaseKey
from jarvok.core.session.blocks import PAIR, STRAIGHT, Grouping
from jarvok.core.session.fitting import fitted
from jarvok.core.session.line_ids import line_id
from jarvok.core.session.planned import PlannedLine, PlannedSession
from jarvok.core.session.roles import PREPARE_NAME, BlockRole
from jarvok.core.week.pick import pool
from jarvok.core.week.plan import DayDraft, Draft, WeekFacts

OWN_BLOCK = "for this athlete"
MOST_ADDED, MOST_PREPARE = 2, 4  # [J] lines of the athlete's own a session; lines of a warm-up
# minutes a session from which one and two lines are added [J]
ONE_FROM_MIN, TWO_FROM_MIN = 40, 60
LAST_DAYS = 3  # [C] nothing new so near the day
SMALL_REST = "rest 1:00"
_parse = lru_cache(maxsize=256)(parse)


def is_wanted(facts: WeekFacts) -> bool:
    """Whether anything known of the athlete can change this week: not in a taper, where nothing new is done."""
    return facts.wishes is not NO_WISHES and facts.week.phase is not PhaseKey.TAPER


def varied(days: Sequence[DayDraft], facts: WeekFacts) -> tuple[tuple[DayDraft, ...], frozenset[str]]:
    """Return the drafts with variations for faults of skill, and the faults that have one.

    Of several lines of a lift the last that is not its main one changes; a slot that already chooses by the fault is enough.
    """
    found = [list(d.drafts) for d in days]
    has: set[str] = set()
    if not is_wanted(facts):
        return tuple(days), frozenset()
    for seen in facts.wishes.faults:
        kind = fault_kinds().get(seen.fault)
        if kind is None or kind.limits != "skill":
            continue
        if any(_chooses_by(draft, kind.id, facts.limits) for drafts in found for draft in drafts):
            has.add(kind.id)
            continue
        place = _to_vary(found, seen.exercise_id, kind.id, facts)
        if place is None:
            continue
        day, at, variation = place
        old = found[day][at]
        was = exercise(old.exercise_id).name.lower()
        reason = f"{old.reason}; instead of the {was}, {fault_words(seen)}"
        found[day][at] = replace(old, exercise_id=variation, reason=reason, wish=fault_need(kind.id))
        has.add(kind.id)
    return tuple(replace(d, drafts=tuple(drafts)) for d, drafts in zip(days, found, strict=True)), frozenset(has)


def _chooses_by(draft: Draft, fault: str, limits: Limits) -> bool:
    return bool(draft.role) and draft.for_fault and any(fault in exercise(e).faults for e in pool(draft.role, limits))


def _root(lift: Exercise) -> str:
    while lift.variation_of:
        lift = exercise(lift.variation_of)
    return lift.id


def _to_vary(days: Sequence[Sequence[Draft]], lift_id: str, fault: str, facts: WeekFacts) -> tuple[int, int, str] | None:
    """The line that changes and what it becomes: one of the lift itself, else one of its pattern."""
    seen = exercise(lift_id)
    named = [
        (day, at, exercise(draft.exercise_id), draft)
        for day, drafts in enumerate(days)
        for at, draft in enumerate(drafts)
        if draft.exercise_id and not draft.is_exposure and draft.sets != 0 and not draft.prepares
    ]
    rows = [row for row in named if _root(row[2]) == _root(seen)] or [row for row in named if row[2].pattern == seen.pattern]
    rows.sort(key=lambda row: (row[3].is_main, -row[0], -row[1]))
    taken = {row[2].id for row in named}
    for day, at, lift, draft in rows:
        variation = variation_for(lift, fault, facts.limits, taken, by_velocity="m/s" in draft.text)
        if variation is not None:
            return day, at, variation
    return None


def variation_for(lift: Exercise, fault: str, limits: Limits, taken: set[str], by_velocity: bool = False) -> str | None:
    """Return the variation of a lift that works on a fault and can be done here, the easiest to teach first; None without.

    A line that is loaded by velocity takes only one whose velocity is known.
    """
    rows = [
        e
        for e in exercises().values()
        if fault in e.faults
        and _root(e) == _root(lift)
        and e.id != lift.id
        and e.id not in taken
        and e.kind == lift.kind
        and limits.allows(e)
        and not (by_velocity and e.v1rm is None)
    ]
    return min(rows, key=lambda e: e.teaching).id if rows else None


@dataclass
class _Day:
    """A session while it is filled."""

    session: PlannedSession
    lines: list[PlannedLine]
    added: int = 0


def chosen(sessions: Sequence[PlannedSession], facts: WeekFacts, has_variation: frozenset[str]) -> tuple[PlannedSession, ...]:
    """Return the week's settled sessions, in order of days, with what is known of the athlete in them."""
    if not is_wanted(facts):
        return tuple(sessions)
    days = [_Day(s, list(s.lines)) for s in sessions]
    unplaced: list[str] = []
    for need in facts.wishes.needs:
        if need.unless_varied not in has_variation:
            words = _meet(need, days, facts)
            unplaced += [words] if words else []
    for gap in facts.wishes.sides:
        _double(gap, days)
    found = [_settled(day, facts) for day in days]
    if unplaced and found:
        found[-1] = replace(found[-1], left_out=(*found[-1].left_out, *unplaced))
    return tuple(found)


def _settled(day: _Day, facts: WeekFacts) -> PlannedSession:
    lines = [_by_finding(_first_side(line, facts), facts) for line in day.lines]
    return replace(day.session, lines=tuple(_in_order(lines)))


# needs


def _meets(line: PlannedLine, need: Need) -> bool:
    """Whether a line does what is needed; work for a weaker side is small work, whose sets can be more on one side."""
    lift = exercise(line.exercise_id)
    if need.because is Because.SIDE and line.role is not BlockRole.SMALL:
        return False
    return lift.id in need.exercises or bool(frozenset(need.roles) & frozenset(lift.roles))


def _meet(need: Need, days: Sequence[_Day], facts: WeekFacts) -> str:
    """Fill a need: lines that meet it say so, what is missing is added; return words for what found no place, or nothing."""
    open_days = [day for day in days if _is_open(day, need, facts)]
    wanted = min(need.times, len(open_days)) if need.prepares else min(need.times, max(len(open_days), 1))
    for day in days:
        at = next((i for i, line in enumerate(day.lines) if _meets(line, need)), None)
        if at is not None and wanted > 0:
            day.lines[at] = _also_for(day.lines[at], need)
            wanted -= 1
            open_days = [d for d in open_days if d is not day]
    candidates = _candidates(need, facts)
    if wanted > 0 and not candidates:
        return "" if need.may_miss else f"{'; '.join(need.words)}: {_why_none(need, facts)}"
    room = _room(facts)
    for day in sorted(open_days, key=lambda d: d.added):
        if wanted <= 0:
            break
        if not need.prepares and day.added >= room:
            continue
        here, elsewhere = {x.exercise_id for x in day.lines}, {x.exercise_id for d in days for x in d.lines if not x.slot}
        lift = next((e for e in candidates if e not in here), None)
        if lift != need.first:
            lift = next((e for e in candidates if e not in here | elsewhere), lift)
        if lift is None:
            continue
        _add(need, lift, day, facts.week.is_light)
        wanted -= 1
    if wanted <= 0 or need.may_miss or need.prepares:
        return ""
    why = "no day far enough from a match" if not open_days and need.before_match else f"{room} such lines fit into a session"
    return f"{'; '.join(need.words)}: {wanted} × a week left out ({why})"


def _room(facts: WeekFacts) -> int:
    if facts.minutes is None:
        return MOST_ADDED
    return sum(1 for least in (ONE_FROM_MIN, TWO_FROM_MIN) if facts.minutes >= least)


def _is_open(day: _Day, need: Need, facts: WeekFacts) -> bool:
    """Whether a day may take it: not just before the competition, nor a match where that matters, nor on a short fast day."""
    if need.prepares:
        return sum(1 for line in day.lines if line.role is BlockRole.PREPARE) < MOST_PREPARE
    on = day.session.day
    if facts.week.days_out(on) <= LAST_DAYS or (facts.week.match_days and day.session.load == "low"):
        return False
    return not any(0 <= (match - on).days < need.before_match for match in facts.week.match_days)


def _also_for(line: PlannedLine, need: Need) -> PlannedLine:
    words = [w for w in need.words if w not in line.reason]
    return replace(line, reason="; ".join((line.reason, *words)), wish=line.wish or need.id)


def _candidates(need: Need, facts: WeekFacts) -> tuple[str, ...]:
    """What can fill it here: by name in the order given, else by role, the easiest to teach first; what is liked comes first."""
    named = [e for e in need.exercises if e in exercises() and facts.limits.allows(exercise(e))]
    by_role = [e for role in need.roles for e in pool(role, facts.limits) if exercise(e).kind != "jump"]
    rows = list(dict.fromkeys((*named, *by_role)))
    rows.sort(key=lambda e: (e != need.first, -facts.wishes.points(exercise(e))))
    turn = facts.week.index // CHANGE_WEEKS
    if need.first in rows[:1]:
        return tuple(rows)
    top = [e for e in rows if facts.wishes.points(exercise(e)) == facts.wishes.points(exercise(rows[0]))] if rows else []
    at = turn % len(top) if top else 0
    return (*top[at:], *top[:at], *(e for e in rows if e not in top))


CHANGE_WEEKS = 3  # [C] a small exercise stays so long before the next one takes its turn


def _why_none(need: Need, facts: WeekFacts) -> str:
    names = [*need.exercises, *(e.id for e in exercises().values() if frozenset(need.roles) & frozenset(e.roles))]
    reasons = dict.fromkeys(facts.limits.why_not(exercise(e)) for e in names if e in exercises())
    return next((r for r in reasons if r), "nothing here for it")


def _add(need: Need, lift_id: str, day: _Day, is_light: bool) -> None:
    lift = exercise(lift_id)
    prescription = fitted(_parse(need.text if need.prepares else f"{need.text}, {SMALL_REST}"), lift)
    if is_light:
        prescription = replace(prescription, groups=tuple(replace(g, sets=max(1, g.sets - 1)) for g in prescription.groups))
    block = PREPARE_NAME if need.prepares else OWN_BLOCK
    role = BlockRole.PREPARE if need.prepares else BlockRole.SMALL
    new_id = line_id(role, need.id, [line.line_id for line in day.lines])
    line = PlannedLine(
        "", block, lift.id, prescription, "; ".join(need.words), False, role=role, line_id=new_id, wish=need.id
    )  # fmt: skip
    day.lines.append(line)
    if not need.prepares:
        day.added += 1


def _in_order(lines: Sequence[PlannedLine]) -> list[PlannedLine]:
    """The added lines in their places, and their slots: the warm-up's at its end, small work before what ends the session."""
    added = [line for line in lines if not line.slot]
    if not added:
        return list(lines)
    warm = [line for line in lines if line.role is BlockRole.PREPARE and line.slot]
    rest = [line for line in lines if line.role is not BlockRole.PREPARE and line.slot]
    new_warm = [line for line in added if line.role is BlockRole.PREPARE]
    warm += [replace(line, slot=f"P{len(warm) + i}") for i, line in enumerate(new_warm, start=1)]
    own = [line for line in added if line.role is not BlockRole.PREPARE]
    ending = [line for line in rest if exercise(line.exercise_id).kind == "conditioning" and not line.is_main]
    last = {line.block for line in ending if line.block == rest[-1].block}
    tail = [line for line in rest if line.block in last]
    rest = [line for line in rest if line.block not in last]
    if own:
        letter = tail[0].slot[0] if tail else _after(rest)
        style = PAIR if len(own) > 1 else STRAIGHT
        own = [
            replace(line, slot=f"{letter}{i}", block=f"{letter} · {OWN_BLOCK}", style=style)
            for i, line in enumerate(own, start=1)
        ]
        if tail:
            tail = [_lettered(line, chr(ord(letter) + 1)) for line in tail]
    return [*warm, *rest, *own, *tail]


def _after(lines: Sequence[PlannedLine]) -> str:
    return chr(max((ord(line.slot[0]) for line in lines), default=ord("A") - 1) + 1)


def _lettered(line: PlannedLine, letter: str) -> PlannedLine:
    block = letter + line.block[1:] if line.block[:1] == line.slot[0] else line.block
    return replace(line, slot=letter + line.slot[1:], block=block)


# sides


DOUBLED_KINDS = frozenset({"strength", "accessory"})


def _double(gap: SideGap, days: Sequence[_Day]) -> None:
    """The first set of the weaker side is done twice, in small work of that region that each side does by itself."""
    for day in days:
        for at, line in enumerate(day.lines):
            lift = exercise(line.exercise_id)
            if line.role is not BlockRole.SMALL or not lift.per_side or lift.region != gap.region or line.note:
                continue
            if lift.kind not in DOUBLED_KINDS:
                continue
            if line.style.grouping not in (Grouping.STRAIGHT, Grouping.PAIR) or not _can_double(line.prescription):
                continue
            words = side_words(gap)
            reason = line.reason if words in line.reason else f"{line.reason}; {words}"
            day.lines[at] = replace(
                line,
                prescription=_doubled(line.prescription),
                note=f"First set: {gap.weaker} only. Then both, {gap.weaker} first",
                reason=reason,
                wish=line.wish or side_need(gap),
            )


def _can_double(prescription: Prescription) -> bool:
    return len(prescription.groups) == 1 and prescription.groups[0].per_side


def _doubled(prescription: Prescription) -> Prescription:
    group: SetGroup = prescription.groups[0]
    return replace(prescription, groups=(replace(group, sets=1, per_side=False), group))


def _first_side(line: PlannedLine, facts: WeekFacts) -> PlannedLine:
    """Where a side is the stronger one, the other begins."""
    strong = facts.wishes.stronger_side
    if not strong or line.note or not exercise(line.exercise_id).per_side or line.role is BlockRole.PREPARE:
        return line
    first = "left" if strong == "right" else "right"
    words = f"{first.capitalize()} first: the {strong} is the stronger side"
    return replace(line, note=words, wish=line.wish or "stronger-side")


# findings


def _by_finding(line: PlannedLine, facts: WeekFacts) -> PlannedLine:
    """Jumps hold no more repetitions a set than the athlete's own test found worth doing."""
    reps = next((f.reps for f in facts.wishes.findings if f.exercise_id == line.exercise_id), None)
    if reps is None or not any((g.reps or 0) > reps for g in line.prescription.groups):
        return line
    groups = tuple(replace(g, reps=reps) if (g.reps or 0) > reps else g for g in line.prescription.groups)
    reason = f"{line.reason}; {reps} a set: your own test found that later ones fall off"
    return replace(line, prescription=replace(line.prescription, groups=groups), reason=reason, wish=line.wish or "own-test")

"""Weeks lost to days away or illness: a block without a date is pushed on, phases before a fixed date are divided anew.

What was done stays; the phase in which the time was lost goes on behind it with what it still needs, and the ones after it
share what is left. Common practice.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from datetime import date, timedelta

from jarvok.core.quantities.days import said_day
from jarvok.core.season.arrangement import PhaseRule
from jarvok.core.season.calendar import Span, SpanKind
from jarvok.core.season.model import SeasonNote, monday_of, weeks_words

OFF = (SpanKind.HOLIDAY, SpanKind.AWAY, SpanKind.ILL)  # nothing is trained on such days
LOST_RUN_DAYS = 8  # [C] more than a week off in a row: less is made good by the week it lies in
LOST_DAYS = 5  # [J] a week with so many of them has nothing left
WEEK_DAYS = 7  # [T]

ShareOut = Callable[[int, Sequence[PhaseRule]], tuple[dict[str, int], list[SeasonNote]]]


def days_off(spans: Sequence[Span]) -> frozenset[date]:
    """The days on which nothing is trained."""
    return frozenset(s.start + timedelta(days=i) for s in spans if s.kind in OFF for i in range((s.end - s.start).days + 1))


def lost_weeks(start: date, end: date, spans: Sequence[Span]) -> tuple[date, ...]:
    """Return the Mondays of the weeks from the one of `start` to the one of `end` that are lost: five days off and more, in a
    run of more than a week.
    """
    off = days_off(spans)
    long = {d for d in off if _run_around(d, off) >= LOST_RUN_DAYS}
    count = (monday_of(end) - monday_of(start)).days // WEEK_DAYS + 1
    mondays = [monday_of(start) + timedelta(days=WEEK_DAYS * i) for i in range(count)]
    return tuple(m for m in mondays if sum(m + timedelta(days=i) in long for i in range(WEEK_DAYS)) >= LOST_DAYS)


def _run_around(day: date, off: frozenset[date]) -> int:
    first = last = day
    while first - timedelta(days=1) in off:
        first -= timedelta(days=1)
    while last + timedelta(days=1) in off:
        last += timedelta(days=1)
    return (last - first).days + 1


def pushed_on(start: date, day: date, spans: Sequence[Span]) -> date:
    """Return the last day of a block that has no date: a week later for each week that is lost in it."""
    end = day
    while (wanted := day + timedelta(days=WEEK_DAYS * len(lost_weeks(start, end, spans)))) > end:
        end = wanted
    return end


def with_lost(weeks: Mapping[str, int], rules: Sequence[PhaseRule], start: date, lost: Sequence[date]) -> dict[str, int]:
    """Return the lengths of the phases of a block that is pushed on: each lost week makes the phase it falls in longer."""
    found = dict(weeks)
    order = [r for r in rules if r.id != "taper"]
    for monday in lost:
        place, _ = _place((monday - start).days // WEEK_DAYS, order, found)
        found[order[place].id if place is not None else order[-1].id] += 1
    return found


def pushed_note(count: int, day: date) -> SeasonNote:
    """That a block has no date and is pushed on, in words."""
    return SeasonNote(
        id="pushed-on",
        title=f"{weeks_words(count).capitalize()} lost: the block is pushed on.",
        text=f"What was done stays, the rest comes later; it ends on {said_day(day, weekday=True, is_long=True)}.",
        source="common practice",
    )


def divided_anew(
    weeks: Mapping[str, int], rules: Sequence[PhaseRule], start: date, lost: Sequence[date], share_out: ShareOut
) -> tuple[dict[str, int], list[SeasonNote]]:
    """Return the lengths of the phases, in weeks, with the lost ones in those they fall in, and what that costs in words.

    `weeks` are the lengths without a loss, in the order of `rules`, the taper last; `share_out` divides a number of weeks
    among some phases, and says what is given up. The sum stays.
    """
    found = dict(weeks)
    order = [r for r in rules if r.id != "taper"]
    said: list[SeasonNote] = []
    spoilt = {r.id: 0 for r in order}  # weeks of a phase that were lost
    for monday in lost:
        at = (monday - start).days // WEEK_DAYS
        place, before = _place(at, order, found)
        if place is None:
            continue  # in the taper: its days are counted back from the competition whatever comes
        rule = order[place]
        done = before - spoilt[rule.id]
        room = sum(found[r.id] for r in order[place:]) - before - 1
        rest = [replace(rule, least_weeks=max(0, rule.least_weeks - done), most_weeks=max(0, rule.most_weeks - done))]
        keep = [*rest, *(r for r in order[place + 1 :] if found[r.id])]
        lengths, notes = share_out(room, [r for r in keep if r.most_weeks])
        spare = room - sum(lengths.values())
        spoilt[rule.id] += 1
        later = [r.id for r in order[place + 1 :]]
        found |= {key: lengths.get(key, 0) for key in later}
        found[rule.id] = before + 1 + lengths.get(rule.id, 0)
        found["general" if "general" in later else rule.id] += spare
        said += [n for n in notes if n.id not in {x.id for x in said}]
    if dict(weeks) != found:
        said.insert(0, _anew(weeks, found, spoilt, order))
    return found, said


def _place(at: int, order: Sequence[PhaseRule], weeks: Mapping[str, int]) -> tuple[int | None, int]:
    """Which phase a week lies in, and how many weeks of it lie before that one."""
    first = 0
    for i, rule in enumerate(order):
        if first <= at < first + weeks.get(rule.id, 0):
            return i, at - first
        first += weeks.get(rule.id, 0)
    return None, 0


def _anew(
    before: Mapping[str, int], after: Mapping[str, int], spoilt: Mapping[str, int], order: Sequence[PhaseRule]
) -> SeasonNote:
    """What the lost weeks cost, phase by phase."""
    count = sum(spoilt.values())
    changed = [
        f"{r.name.lower()} {weeks_words(after[r.id] - spoilt[r.id])} of training where {before[r.id]} were planned"
        for r in order
        if after[r.id] - spoilt[r.id] != before[r.id]
    ]
    return SeasonNote(
        id="divided-anew",
        title=f"{weeks_words(count).capitalize()} lost: the phases are divided anew.",
        text=f"What was done stays. {'; '.join(changed)}." if changed else "What was done stays.",
        source="common practice",
        decision=True,
    )

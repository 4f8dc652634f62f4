"""A week's dose spent over its sessions and lines: main sets in whole numbers that add up to what the season asks.

A dose is main sets: those of fast and main lines. A full week is the one the week model lays out for full work; the season
says how much of it a week holds. Inside a taper the days of the window are given out together, so that the cut is the
chosen one whatever weekday the competition is.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from functools import lru_cache
from math import ceil, floor

from jarvok.core.frozen import changed
from jarvok.core.season.model import TaperWindow
from jarvok.core.week.layout import LaidSession, Layout, full_week_sets, lay_out
from jarvok.core.week.main_minutes import fits
from jarvok.core.week.plan import Draft, WeekFacts
from jarvok.core.week.same_facts import Asked

MOST_SHARE = 1.25  # [J] of the full sets of a line: no week makes one line the whole session
LEAST_MAIN_SETS = 3  # [J] however short the hour is
FEW = 1e-9  # [T] below any share of a set
WEEK_DAYS = 7  # [T]


@dataclass(frozen=True)
class Slot:
    """A line that takes part of a dose: its full sets, how much it weighs in sharing, and the fewest and most it may hold.

    `rank` orders what is left out when the dose is smaller than the least of all: the highest goes first.
    """

    full: int
    weight: float
    least: int = 1
    most: int = 99  # [T]
    rank: int = 0


def spend(sets: int, slots: Sequence[Slot]) -> tuple[int, ...]:
    """Return whole sets for each slot that add up to `sets`, in proportion to their weights (largest remainder).

    Where the least of all together is more, slots are left out from the highest rank, with none. The sum is smaller only
    where every slot stands at its most, and more only where the last one left stands at its least.
    """
    kept = list(range(len(slots)))
    found = [0] * len(slots)
    if sets <= 0 or not kept:
        return tuple(found)
    while len(kept) > 1 and sum(slots[i].least for i in kept) > sets:
        kept.remove(max(kept, key=lambda i: (slots[i].rank, i)))
    sets = max(sets, sum(slots[i].least for i in kept))
    quotas = _quotas(sets, [slots[i] for i in kept])
    for i, quota in zip(kept, quotas, strict=True):
        found[i] = floor(quota + FEW)
    open_slots = sorted(zip(kept, quotas, strict=True), key=lambda row: (found[row[0]] - row[1], row[0]))
    for i, _ in open_slots:
        if sum(found) >= sets:
            break
        found[i] += 1 if found[i] < slots[i].most else 0
    return tuple(found)


def _quotas(sets: int, slots: Sequence[Slot]) -> list[float]:
    """Shares of the sets by weight, held between the least and the most of each slot; the others take up the difference."""
    held: dict[int, float] = {}
    while True:
        free = [i for i in range(len(slots)) if i not in held]
        if not free:
            break
        left = sets - sum(held.values())
        total = sum(slots[i].weight for i in free)
        share = {i: left * slots[i].weight / total if total > 0 else left / len(free) for i in free}
        # those that ask for too little come first: they take from the others, who then may not reach their most
        low = {i: float(slots[i].least) for i in free if share[i] < slots[i].least - FEW}
        high = {i: float(slots[i].most) for i in free if share[i] > slots[i].most + FEW}
        if not low and not high:
            held |= share
            break
        short = sum(low[i] - share[i] for i in low)
        over = sum(share[i] - high[i] for i in high)
        held |= low if short >= over else high
    return [held[i] for i in range(len(slots))]


@dataclass(frozen=True)
class SpentSession:
    """A session with its share of the dose: the sets each of its drafts keeps, its main sets, the dose before rounding,
    and how many main sets its minutes took from it.
    """

    laid: LaidSession
    line_sets: tuple[int, ...]
    sets: int
    dose: float
    held: int = 0

    @property
    def exposure_sets(self) -> int:
        """Main sets of last heavy sessions before a contest in it: they are what the event asks for, whatever the dose."""
        return sum(n for n, d in zip(self.line_sets, self.laid.draft.drafts, strict=True) if d.counts and d.is_exposure)

    @property
    def drafts(self) -> tuple[Draft, ...]:
        """Its drafts with the sets they keep."""
        return tuple(changed(d, sets=n) for d, n in zip(self.laid.draft.drafts, self.line_sets, strict=True))


@dataclass(frozen=True)
class SpentWeek:
    """A week's dose and how its sessions spend it. `full_sets` is what a dose of 1.0 means in main sets."""

    layout: Layout
    sessions: tuple[SpentSession, ...]
    full_sets: int

    @property
    def dose(self) -> float:
        """Main sets the season asks of the week."""
        return sum(s.dose for s in self.sessions)

    @property
    def sets(self) -> int:
        """Main sets its sessions hold."""
        return sum(s.sets for s in self.sessions)


def spend_week(key: str, facts: WeekFacts) -> SpentWeek:
    """Return the week's dose spent over the sessions of a week model. Raises `CoachError` for an unknown model.

    Before a taper a session for which no main set is left falls away; in one it stays, because frequency is chosen apart from
    depth. One that would lie on a day of the contest falls away. What is worked out for some facts is kept for a while.
    """
    return _spent(Asked(key, facts))


@lru_cache(maxsize=512)
def _spent(asked: Asked) -> SpentWeek:
    key, facts = asked.model, asked.facts
    layout = lay_out(key, facts)
    full = full_week_sets(layout.arrangement, changed(layout.facts, days=layout.full_days))
    week = layout.facts.week
    if layout.arrangement.is_test and week.taper is None:
        kept = tuple(
            SpentSession(s, tuple(d.full_sets for d in s.draft.drafts), s.full_sets, float(s.full_sets)) for s in layout.sessions
        )
        return SpentWeek(layout, kept, full)
    window = week.taper
    outside = [s for s in layout.sessions if window is None or s.day < window.first]
    dose = _dose_outside(layout, outside, full)
    small = week.volume if window is None else week.volume_before_taper
    found = {s.laid.draft.key: s for s in _inside_the_hour(outside, dose, small, layout.facts)}
    if window is not None:
        found |= {s.laid.draft.key: s for s in _spend_window(key, facts, window, full) if s.laid.day in _days_of(week.start)}
    sessions = (found[s.draft.key] for s in layout.sessions if s.draft.key in found)
    first = window.first if window is not None else week.end + timedelta(days=1)
    return SpentWeek(layout, tuple(s for s in sessions if s.sets or not s.laid.full_sets or s.laid.day >= first), full)


def forget_spent() -> None:
    """Forget what was kept: for tests that change how weeks are made."""
    _spent.cache_clear()


def _inside_the_hour(sessions: Sequence[LaidSession], dose: float, small: float, facts: WeekFacts) -> list[SpentSession]:
    """The dose over the sessions before a taper; where the main work of one does not fit into its minutes, others take it up."""
    most: list[int | None] = [None] * len(sessions)
    free = _spend_over(sessions, dose, [1.0] * len(sessions), [small] * len(sessions))
    found = free
    while over := [i for i, s in enumerate(found) if _is_too_long(s, facts)]:
        for i in over:
            most[i] = found[i].sets - 1
        now = _spend_over(sessions, dose, [1.0] * len(sessions), [small] * len(sessions), most=most)
        if [s.sets for s in now] == [s.sets for s in found]:
            break  # what is fixed or asked at least is more
        found = now
    return [changed(s, held=max(0, before.sets - s.sets)) for s, before in zip(found, free, strict=True)]


def _is_too_long(session: SpentSession, facts: WeekFacts) -> bool:
    return session.sets > LEAST_MAIN_SETS and not fits(session.laid.draft.drafts, session.line_sets, facts)


def _days_of(monday: date) -> list[date]:
    return [monday + timedelta(days=d) for d in range(WEEK_DAYS)]


def _dose_outside(layout: Layout, outside: Sequence[LaidSession], full: int) -> float:
    """The dose of the sessions before a taper: all of the week's, or their part of a week whose last days lie in it.

    A session that the last days leave without main sets counts as one like the others: its part is nobody's to take up.
    """
    week = layout.facts.week
    if week.taper is None or not outside:
        return full * week.volume
    held = [s.full_sets for s in layout.sessions if s.full_sets]
    all_sets = sum(held) * len(layout.sessions) / len(held) if held else 0
    return full * week.volume_before_taper * sum(s.full_sets for s in outside) / all_sets if all_sets else 0.0


def _spend_window(key: str, facts: WeekFacts, window: TaperWindow, full: int) -> list[SpentSession]:
    """All sessions of a taper: its days take off the chosen depth together, each by its place in the shape."""
    inside: list[LaidSession] = []
    for week in facts.window_weeks:
        moved = facts.moved if week.start == facts.week.start else {}
        laid = lay_out(key, changed(facts, week=week, moved=moved)).sessions
        inside += [s for s in laid if window.first <= s.day < window.day]
    shares = [window.share_on(s.day) or 0.0 for s in inside]
    style = window.style
    dose = full * window.volume_before * style.days / WEEK_DAYS * (1 - style.depth_pct / 100)
    small = [window.volume_before * share for share in shares]
    return _spend_over(inside, dose, shares, small, before=window.volume_before)


def _spend_over(
    sessions: Sequence[LaidSession],
    dose: float,
    shares: Sequence[float],
    small: Sequence[float],
    before: float | None = None,
    most: Sequence[int | None] = (),
) -> list[SpentSession]:
    """Give a dose in main sets to the lines of some sessions, each weighing its share; small work keeps its own.

    No line grows past a quarter more than its full sets, nor in a taper past what it held `before` (relative volume), nor a
    session past its `most`.
    """
    lines = [_slots_of(s, before) for s in sessions]
    fixed = [s.fixed_sets for s in sessions]
    weights = [s.full_sets * share * s.share for s, share in zip(sessions, shares, strict=True)]
    asked = floor(dose + 0.5)
    every = sum(fixed) + sum(len(slots) for slots in lines)
    # a set a session more, so that what is held in the background stays; in a taper the cut comes first
    keeps_all = before is None and every <= dose + len(sessions)
    totals = spend(
        max(asked, every) if keeps_all else asked,
        [
            Slot(
                s.full_sets,
                weight,
                set_by + (len(slots) if keeps_all else min(1, len(slots))),
                set_by + sum(x.most for x in slots) if cap is None else cap,
            )
            for s, slots, set_by, weight, cap in zip(sessions, lines, fixed, weights, most or [None] * len(sessions), strict=True)
        ],
    )
    total = sum(weights)
    found: list[SpentSession] = []
    for i, session in enumerate(sessions):
        given = spend(totals[i] - fixed[i], lines[i])
        kept = _line_sets(session, given, small[i] * session.share)
        main = fixed[i] + sum(given)
        found.append(SpentSession(session, kept, main, dose * weights[i] / total if total else 0.0))
    return found


def _slots_of(session: LaidSession, before: float | None) -> list[Slot]:
    """The lines of a session that take part of a dose, in order: what stands last goes first."""
    spendable = [d.full_sets for d in session.main_lines if not d.is_fixed]
    return [
        Slot(n, n, 1, max(n + 1, floor(n * MOST_SHARE)) if before is None else max(1, ceil(n * before - FEW)), rank)
        for rank, n in enumerate(spendable)
    ]


def _line_sets(session: LaidSession, given: Sequence[int], share: float) -> tuple[int, ...]:
    """Sets of each line: what is given to those that take part; the warm-up stays whole, small work follows its day's volume."""
    left = iter(given)
    found: list[int] = []
    for draft in session.draft.drafts:
        full = draft.full_sets
        if draft.counts:
            found.append(full if draft.is_fixed else next(left))
        else:
            found.append(full if draft.prepares else max(1, min(full + 1, round(full * share))))
    return tuple(found)

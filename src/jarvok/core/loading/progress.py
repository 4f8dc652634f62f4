"""Progress without a percentage: beat last week, longer holds, more contacts."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.core.loading.state import LiftState, PastSession
from jarvok.core.working import COMMON_PRACTICE, Source


@dataclass(frozen=True)
class Target:
    """What beats the last session: an amount, its unit (`s`, `contacts`, `reps`, `kg`), words and their source."""

    amount: float
    unit: str
    words: str
    source: Source = COMMON_PRACTICE


def next_hold_s(last: PastSession | None, planned_s: int, state: LiftState) -> Target:
    """Return the seconds to hold: the last ones plus a step when every hold was met, else the last again."""
    if last is None or not last.sets:
        return Target(planned_s, "s", f"{planned_s} s as written: no earlier hold")
    held = [s.seconds if s.seconds is not None else s.reps for s in last.sets]
    shortest = min(held)
    if shortest >= planned_s:
        longer = shortest + state.rules["load.hold_step_s"]
        return Target(longer, "s", f"{shortest:g} s were held in every set: {longer:g} s")
    return Target(planned_s, "s", f"{shortest:g} of {planned_s} s: the same again")


def next_contacts(last_contacts: int | None, cap: int, state: LiftState) -> Target:
    """Return the contacts of the next session: a share more than the last, never above the session's `cap`."""
    if last_contacts is None:
        return Target(cap, "contacts", f"up to {cap}: no earlier session")
    grown = round(last_contacts * (1 + state.rules["load.contacts_step_pct"] / 100))
    words = f"{last_contacts} last time, {grown} now" if grown <= cap else f"{last_contacts} last time, capped at {cap}"
    return Target(min(cap, grown), "contacts", words)


def beat_last(last: PastSession, state: LiftState) -> tuple[Target, Target | None]:
    """Return what beats a session in at least one set: one more repetition, or a little more load (None unloaded)."""
    best = max(last.sets, key=lambda s: ((s.load_kg or 0.0), s.reps))
    reps = Target(best.reps + 1, "reps", f"{best.reps + 1} reps in one set")
    if not best.load_kg:
        return reps, None
    load = best.load_kg * (1 + state.rules["load.beat_load_pct"] / 100)
    return reps, Target(load, "kg", f"{load:.1f} kg in one set, {state.rules['load.beat_load_pct']:g} % more")

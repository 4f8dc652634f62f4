"""What a finding changes, how long it stands, and what the application notices by itself. Common practice."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum

from jarvok.core.equations import EPLEY, MOST_REPS
from jarvok.core.errors import CoachError
from jarvok.core.loading.methods.reserve import Reserve, Rpe
from jarvok.core.loading.rule import LoadRule
from jarvok.core.loading.shorthand import parse
from jarvok.core.marks.past import PastSession
from jarvok.core.marks.reserve_offset import ReserveOffset, ReservePair
from jarvok.core.quantities.days import said_day
from jarvok.core.quantities.mass import said_mass

RETEST_WEEKS = 8  # [J] a profile is asked for anew after about eight weeks; a cue is for good
VARIATION_WEEKS, TAPER_WEEKS = 26, 52  # [J] what took half a year, or several competitions, to be seen
TOO_LIGHT_SESSIONS = 3  # [C] three in a row are no chance
FRESH_DAYS = 28  # [J] what a lift was like longer ago says nothing of the next load
TOO_LIGHT_RESERVE = 4.0  # [J] with four and more left in every set a load does not train strength
MORE_THAN_WRITTEN = 1.5  # [J] repetitions beyond what a percentage leaves by the equation
RESERVE_OFF = 0.75  # [J] nearer to a whole repetition than to none
LEAST_PAIRS = 4  # [J] checks of the count by a later set to failure
LONGEST = 200
OPEN = "Open: "  # what a question begins with beside its lift


class Kind(StrEnum):
    """What a finding is about."""

    CUE = "cue"
    SETUP = "setup"
    REST = "rest"
    JUMPS = "jumps"
    LOAD = "load"
    RESERVE = "reserve"
    VELOCITY = "velocity"
    LINE = "line"
    FAST = "fast"
    VARIATION = "variation"
    LEAD_IN = "lead_in"
    TAPER = "taper"
    QUESTION = "question"
    NOTE = "note"


KIND_WORDS: Mapping[Kind, tuple[str, str]] = {  # name; what it changes
    Kind.CUE: ("Cue", "shown on the sheet and at the rack with this lift"),
    Kind.SETUP: ("Set-up", "shown on the sheet and at the rack with this lift"),
    Kind.REST: ("Rest", "the rest of that pair"),
    Kind.JUMPS: ("Jumps a set", "jumps a set of this lift"),
    Kind.LOAD: ("Load", "said beside the next load of this lift"),
    Kind.RESERVE: ("Reps in reserve", "said where sets are logged"),
    Kind.VELOCITY: ("Velocity at an effort", "shown on the sheet and at the rack with this lift"),
    Kind.LINE: ("Load–velocity line", "loads of this lift come from its newer velocities alone"),
    Kind.FAST: ("Fast load", "where the next wave of this lift done fast starts"),
    Kind.VARIATION: ("Variation", "goes before others where a variation of its lift is chosen"),
    Kind.LEAD_IN: ("Lead-in day", "whether the low day before a sprint day holds starts"),
    Kind.TAPER: ("Taper", "the length that a new season’s taper is proposed with"),
    Kind.QUESTION: ("Open question", "stands at the top of the next session of this lift"),
    Kind.NOTE: ("Note", "kept here and on the athlete’s file"),
}
TYPED = (Kind.CUE, Kind.SETUP, Kind.QUESTION, Kind.NOTE)  # what a coach types; the others are measured
BESIDE_A_LIFT = (Kind.CUE, Kind.SETUP, Kind.LOAD, Kind.VELOCITY, Kind.QUESTION)
LASTS_FOR_GOOD = (Kind.CUE, Kind.SETUP, Kind.NOTE, Kind.QUESTION)


def checked(kind: str, exercise_id: str, sentence: str) -> tuple[Kind, str]:
    """Return a finding's kind and sentence as they are kept; raise `CoachError` for what cannot be one."""
    if kind not in set(Kind):
        raise CoachError(f"“{kind}” is no kind of finding.", where="kind", accepted=", ".join(Kind))
    words = " ".join(sentence.split())
    if not 3 <= len(words) <= LONGEST:
        raise CoachError("What was learned is wanted in a sentence.", where="sentence", accepted=f"3 to {LONGEST} characters.")
    if Kind(kind) in BESIDE_A_LIFT and not exercise_id:
        raise CoachError("It belongs to a lift: choose one.", where="exercise_id", accepted="A lift of the library.")
    return Kind(kind), words


def asks_again_on(kind: Kind, day: date) -> date | None:
    """Return the day on which a finding asks for a test again, None for one that stands for good."""
    if kind in LASTS_FOR_GOOD:
        return None
    weeks = {Kind.VARIATION: VARIATION_WEEKS, Kind.TAPER: TAPER_WEEKS}.get(kind, RETEST_WEEKS)
    return day + timedelta(weeks=weeks)


def line_words(kind: Kind, sentence: str, test: str = "") -> str:
    """Return a finding as it is said beside its lift."""
    if kind is Kind.QUESTION:
        return f"{OPEN}{sentence}" + (f" Test: {test}." if test else "")
    return sentence


def rest_words(rest_s: int, since: str, *, asks_again: bool) -> str:
    """Return why a line has a rest of the athlete's own: `1:30 to the jump, finding of 12 Nov`."""
    due = "; a new test is due" if asks_again else ""
    return f"{rest_s // 60}:{rest_s % 60:02d} to the jump, {since}{due}"


@dataclass(frozen=True)
class Noticed:
    """What the application noticed: a proposal until a coach says a word on it. `ref` names it for good."""

    ref: str
    kind: Kind
    exercise_id: str
    sentence: str
    evidence: tuple[tuple[str, str], ...]  # words, reference
    day: date
    value: float | None = None  # a rest in s, jumps a set, a velocity in m/s


def too_light(lift_name: str, exercise_id: str, history: Sequence[PastSession], today: date, unit: str = "kg") -> Noticed | None:
    """Return that a lift was too light in its last three sessions: in every counted set four or more were left, and more than
    a line with a percentage leaves by itself, the last time within four weeks. What is written light is not too light.
    """
    counted = [s for s in history if any(x.rir is not None for x in s.sets)][-TOO_LIGHT_SESSIONS:]
    if len(counted) < TOO_LIGHT_SESSIONS or (today - counted[-1].day).days > FRESH_DAYS:
        return None
    if not all((x.rir or 0.0) >= _light_from(s, x.reps) for s in counted for x in s.sets if x.rir is not None):
        return None
    least = min(x.rir for s in counted for x in s.sets if x.rir is not None)
    last = counted[-1]
    return Noticed(
        f"too-light:{exercise_id}:{last.day}",
        Kind.LOAD,
        exercise_id,
        f"{lift_name} was too light three times: {least:g} or more left in every set.",
        tuple((f"{said_day(s.day)}: {_sets_words(s, unit)}", s.ref) for s in counted),
        last.day,
    )


def _light_from(session: PastSession, reps: int) -> float:
    """The reserve from which a set of a session is too light."""
    try:
        groups = parse(session.text).groups
    except CoachError:
        return TOO_LIGHT_RESERVE
    left = max((_left_by(g.load, reps) for g in groups if g.load is not None), default=0.0)
    return max(TOO_LIGHT_RESERVE, left + MORE_THAN_WRITTEN)


def _left_by(load: LoadRule, reps: int) -> float:
    """The repetitions that a load as written leaves: as it says, or by the equation from its percentage; else 0."""
    if isinstance(load, Reserve):
        return load.rir_high or load.rir
    if isinstance(load, Rpe):
        return 10 - load.rpe
    share = load.share_of_bar
    if share is None:
        return 0.0
    to_failure = max((n for n in range(1, MOST_REPS + 1) if 1 / EPLEY.ratio(n) >= share), default=1)
    return math.inf if to_failure == MOST_REPS else float(to_failure - reps)


def _sets_words(session: PastSession, unit: str) -> str:
    rows = [x for x in session.sets if x.rir is not None]
    best = max(rows, key=lambda x: x.load_kg or 0.0)
    load = f"{said_mass(best.load_kg, unit)} × " if best.load_kg else ""
    return f"{load}{best.reps}, {best.rir:g} left"


def miscounts(offset: ReserveOffset | None, unit: str = "kg") -> Noticed | None:
    """Return that an athlete's count of reps in reserve is about one off, from sets that a later one to failure has checked."""
    if offset is None or len(offset.pairs) < LEAST_PAIRS or abs(offset.off_by) < RESERVE_OFF:
        return None
    off = round(abs(offset.off_by)) or 1
    few = "few" if offset.off_by > 0 else "many"
    last = max(p.day for p in offset.pairs)
    return Noticed(
        f"reserve:{few}:{last:%Y-%m}",
        Kind.RESERVE,
        "",
        f"Counts {off} too {few} in reserve, in {len(offset.pairs)} sets that were checked.",
        tuple(_pair_words(p, unit) for p in offset.pairs[-5:]),
        last,
    )


def _pair_words(pair: ReservePair, unit: str) -> tuple[str, str]:
    load = said_mass(pair.load_kg, unit)
    return f"{said_day(pair.day)}: {load}, {pair.said_reps:g} said, {pair.there_reps} there", pair.ref


def cues_typed(notes: Iterable[tuple[date, str, str, str]]) -> list[Noticed]:
    """Return what was typed beside sets, newest first, once each. `notes` are day, exercise, words, reference."""
    found: dict[tuple[str, str], Noticed] = {}
    for day, exercise_id, words, ref in sorted(notes, key=lambda n: n[0], reverse=True):
        text = " ".join(words.split())
        key = (exercise_id, text.lower())
        if len(text) >= 3 and key not in found:
            found[key] = Noticed(f"said:{ref}", Kind.CUE, exercise_id, text, ((f"typed on {said_day(day)}", ref),), day)
    return list(found.values())

"""Reps in reserve and RPE: the load that leaves the stated repetitions, by the relation in use."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.core.equations import MOST_REPS
from jarvok.core.errors import CoachError
from jarvok.core.loading.reader import NUMBER, Reader, number
from jarvok.core.loading.rule import Example, Intent, LoadRule, Method, Target, by_effort
from jarvok.core.loading.state import Ask, LiftState, Offer
from jarvok.core.marks.effort import RIR_BY_RPE, rir_for_rpe
from jarvok.core.quantities.days import said_day
from jarvok.core.quantities.mass import format_kg
from jarvok.core.working import Input

HIGHEST_RELIABLE_RIR = 4  # common practice
HIGHEST_RELIABLE_REPS = 12  # common practice
# [T]
WORDS = {"no": 0, "none": 0, "zero": 0, "one": 1, "two": 2, "three": 3, "four": 4}
MOST_WRITTEN_RIR, LEAST_STEPPED_RIR, MOST_STEPPED_RIR = 10, 0.0, 9.0  # [T]
RIR_STEP = 1.0  # [J]


def offer(ask: Ask, rir: float, words: str, state: LiftState) -> Offer | None:
    """Return the load for `ask.reps` with `rir` left, or None without a max or beyond 15 repetitions to failure."""
    to_failure = ask.reps + rir
    if state.max_kg is None or to_failure > MOST_REPS:
        return None
    relation, whole_kg = state.equation, state.max_kg + state.body_kg
    load_kg = relation.load_kg(state.max_kg, to_failure)
    unsure = to_failure > HIGHEST_RELIABLE_REPS or rir > HIGHEST_RELIABLE_RIR
    return Offer(
        load_kg,
        "reps in reserve",
        f"{ask.reps} reps with {words} is a {to_failure:g}RM: {whole_kg:.1f} / {relation.ratio(to_failure):.3f} "
        f"({relation.name})",
        relation.source,
        state.max_inputs,
        caution="Unreliable above 12 repetitions or beyond 4 in reserve." if unsure else "",
    )


def reserve_at(share: float, reps: int, state: LiftState) -> float:
    """Return the repetitions left at a share of the max, in halves up to four (four stands for four and more)."""
    for halves in range(9):
        rir = halves / 2
        if reps + rir <= MOST_REPS and 1 / state.equation.ratio(reps + rir) <= share:
            return rir
    return float(HIGHEST_RELIABLE_RIR)


def at_effort(ask: Ask, rir: float, words: str, state: LiftState) -> Offer:
    """Return the load that leaves `rir`, else effort with what is missing."""
    found = offer(ask, rir, words, state)
    if found is not None:
        return found
    if state.max_kg is None:
        return by_effort("no max in this lift: the first set finds the load")
    return by_effort(f"{ask.reps + rir:g} repetitions to failure is beyond any relation")


def instead(ask: Ask, state: LiftState, missing: str) -> Offer:
    """Return the load of the usual reserve where another rule lacks its facts, else effort."""
    rir = state.rules["load.fallback_rir"]
    found = offer(ask, rir, f"{rir:g} in reserve", state)
    if found is not None:
        return found._replace(missing=(missing,))
    return by_effort(missing, "no max in this lift: enter a tested max or a rep-max")


@dataclass(frozen=True)
class Reserve(LoadRule):
    """The load that leaves `rir` repetitions in reserve, or the middle from there to `rir_high`.

    `beat_last` makes last week's load the floor under it.
    """

    rir: float
    beat_last: bool = False
    rir_high: float | None = None

    method = "reserve"
    examples = (
        Example("3x8, two in reserve", "the load that leaves two"),
        Example("3x5, 2 in reserve, beat last week", "reserve is the ceiling, last week the floor; the reserve wins"),
    )

    @classmethod
    def begins(cls, reader: Reader) -> Reserve | None:
        """Read 2 in reserve, two left, 2 RIR, RIR 2, and beat last week behind it."""
        ends = rf"{NUMBER}\s*[-–]\s*{NUMBER}"
        if m := reader.take(rf"(?:{ends}\s*(?:reps?\s+)?(?:in reserve|RIR|left)\b|RIR\s*{ends})"):
            low, up = (g for g in m.groups() if g is not None)
            value, high, at = number(low), number(up), m.start()
            if not value < high <= MOST_WRITTEN_RIR:
                raise reader.fail(f"A range of repetitions in reserve goes from low to high, up to {MOST_WRITTEN_RIR}.", at=at)
            return Reserve(value, rir_high=high)
        m = reader.take(rf"(?:{NUMBER}|({'|'.join(WORDS)}))\s*(?:reps?\s+)?(?:in reserve|RIR|left)\b")
        if m:
            value, at = (number(m.group(1)) if m.group(1) else float(WORDS[m.group(2).lower()])), m.start()
        elif m := reader.take(rf"RIR\s*{NUMBER}"):
            value, at = number(m.group(1)), m.start(1)
        else:
            return None
        if not 0 <= value <= MOST_WRITTEN_RIR:
            accepted = f"0 to {MOST_WRITTEN_RIR} repetitions in reserve are accepted"
            raise reader.fail(f"{accepted}; beyond {HIGHEST_RELIABLE_RIR} the count is a guess.", at=at)
        heavier = reader.take(r"(?:[,;]\s*)?(?:and\s+)?(?:beat(?:s|ing)?|heavier\s+than|more\s+than)\s+last\s+(?:week|time)\b")
        return Reserve(value, heavier is not None)

    def written(self) -> str:
        """Return the reserve in words."""
        to = f"–{self.rir_high:g}" if self.rir_high is not None else ""
        return f", {self.rir:g}{to} in reserve" + (", beat last week" if self.beat_last else "")

    def offer(self, ask: Ask, state: LiftState) -> Offer:
        """Return the load that leaves the reserve, said beside last time's where it should be beaten."""
        found = at_effort(ask, self.middle, self.written().removeprefix(", ").removesuffix(", beat last week"), state)
        last = state.last
        if not self.beat_last or last is None or last.top_kg is None or found.load_kg is None:
            return found
        holds = found.load_kg > last.top_kg
        text = f"{format_kg(last.top_kg)} kg, {said_day(last.day)}"
        said = "heavier than last time, as wished" if holds else "not above last time: the reserve wins"
        return found._replace(rule=f"{found.rule}; {said}", inputs=(*found.inputs, Input("last time", text, last.ref)))

    def step(self, by: int) -> Reserve:
        """Return one repetition fewer in reserve for a step up."""
        rir = self.rir - RIR_STEP * by
        if not LEAST_STEPPED_RIR <= rir <= MOST_STEPPED_RIR:
            ends = f"{LEAST_STEPPED_RIR:g} to {MOST_STEPPED_RIR:g}."
            raise CoachError("There is no step left.", where="load", accepted=ends)
        high = self.rir_high - RIR_STEP * by if self.rir_high is not None else None
        return Reserve(rir, self.beat_last, high)

    @property
    def middle(self) -> float:
        """The reserve, or the middle of its range."""
        return self.rir if self.rir_high is None else (self.rir + self.rir_high) / 2

    def target(self, state: LiftState) -> Target:
        """Return the reserve."""
        return Target(rir=self.middle)

    @property
    def is_to_failure(self) -> bool:
        """Whether nothing is left."""
        return self.rir < 1

    @property
    def uses_past(self) -> bool:
        """Whether last time's load is looked at."""
        return self.beat_last

    def unreliable(self, reps: int) -> bool:
        """Whether so many repetitions, or so many left, cannot be counted well."""
        return reps > HIGHEST_RELIABLE_REPS or self.rir > HIGHEST_RELIABLE_RIR


@dataclass(frozen=True)
class Rpe(LoadRule):
    """The load that feels like `rpe` (5-10), or like the middle from there to `rpe_high`."""

    rpe: float
    rpe_high: float | None = None

    method = "reserve"
    examples = (Example("3x5 @ RPE 8", "the load that feels like 8"),)

    @classmethod
    def begins(cls, reader: Reader) -> Rpe | None:
        """Read RPE 8."""
        m = reader.take(rf"RPE\s*{NUMBER}(?:\s*[-–]\s*{NUMBER}(?!\s*%))?")
        if not m:
            return None
        for place in (1, 2):
            if m.group(place) and number(m.group(place)) not in RIR_BY_RPE:
                said = number(m.group(place))
                raise reader.fail(f"RPE {said:g} is not on the scale of 5 to 10 (halves from 7).", at=m.start(place))
        low, high = number(m.group(1)), number(m.group(2)) if m.group(2) else None
        if high is not None and high <= low:
            raise reader.fail("A range of effort goes from low to high.", at=m.start(2))
        return Rpe(low, high)

    def written(self) -> str:
        """Return the effort."""
        return f" @ RPE {self.rpe:g}" + (f"–{self.rpe_high:g}" if self.rpe_high is not None else "")

    def offer(self, ask: Ask, state: LiftState) -> Offer:
        """Return the load of that effort by repetitions in reserve."""
        return at_effort(ask, self.rir, self.written().removeprefix(" @ "), state)

    def step(self, by: int) -> Rpe:
        """Return the next effort on the scale; the ends stay."""
        scale = sorted(RIR_BY_RPE)
        ends = [scale[max(0, min(len(scale) - 1, scale.index(e) + by))] for e in (self.rpe, self.rpe_high) if e is not None]
        return Rpe(ends[0], ends[1] if len(ends) > 1 and ends[1] > ends[0] else None)

    def target(self, state: LiftState) -> Target:
        """Return the reserve the effort stands for."""
        return Target(rir=self.rir)

    @property
    def rir(self) -> float:
        """Repetitions left at that effort, or in the middle of the range."""
        high = self.rpe if self.rpe_high is None else self.rpe_high
        return (rir_for_rpe(self.rpe) + rir_for_rpe(high)) / 2


RULES = (Reserve, Rpe)


def _express(intent: Intent, state: LiftState) -> Reserve:
    return Reserve(float(round(intent.rir)))


METHOD = Method(
    key="reserve",
    place=5,
    name="Reps in reserve",
    how="the load that leaves some repetitions",
    good_for="trained athletes",
    limits="under-reported by beginners; unreliable above 12 reps or beyond 4 in reserve; poor for light power work",
    spoken="reps in reserve",
    express=_express,
)

"""Percentage of the max, or of the training max, or of the day's max from velocity."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Self

from jarvok.core.loading.reader import NUMBER, Reader, number, share_pct
from jarvok.core.loading.rule import Example, Intent, LoadRule, Method, by_effort, stepped_pct
from jarvok.core.loading.state import Ask, LiftState, Offer
from jarvok.core.working import COMMON_PRACTICE, Input, Source

CAUTION = "The max moves daily; repetitions at a percentage differ by athlete."
OF_MAX = r"(?:\s*(?:of\s+)?(?:the\s+)?(?:e?1RM|max)\b)?"
NO_MAX = "no max in this lift: enter a tested max or a rep-max"
NO_VELOCITIES = "no velocities yet today: four warm-up loads with the sensor say it"


def offer(pct: float, state: LiftState) -> Offer | None:
    """Return `pct` per cent of the (training) max, or None without a max."""
    base = state.training_max_kg
    if base is None:
        return None
    of = "of" if base == state.max_kg else "of the training max,"
    load_kg, whole = state.at_share(pct / 100, base), f"{base + state.body_kg:.1f} kg"
    if state.body_kg:
        whole += f", {state.body_kg:.0f} kg of it bodyweight"
    return Offer(load_kg, "percent", f"{pct:g} % {of} {whole}", COMMON_PRACTICE, state.max_inputs, caution=CAUTION)


def offer_of_today(pct: float, state: LiftState) -> Offer | None:
    """Return `pct` per cent of the max that today's warm-up velocities imply, or None while they imply none."""
    if state.today is None or state.today.load_kg is None:
        return None
    base = state.today.load_kg
    interval = state.today.interval_kg
    text = f"{base:.1f} kg" + (f", 95 % between {interval[0]:.0f} and {interval[1]:.0f}" if interval else "")
    return Offer(
        pct / 100 * base,
        "percent of today",
        f"{pct:g} % of the day's max, {base:.1f} kg",
        Source("fact", "today's own velocities"),
        (Input("max from today's velocities", text),),
        caution="Without full intent in the warm-up it reads low; profiles tend to read high.",
    )


@dataclass(frozen=True)
class Percent(LoadRule):
    """A share of the working max. One value for all sets, or one per set (75/80/85 %); in per cent."""

    percents: tuple[float, ...]

    method = "percent"
    examples = (
        Example("4x3 @ 82%", "four sets of three at 82 % of the max"),
        Example("4x3 @ 75/80/85/85 %", "a share for each set"),
    )
    is_read_last = True
    carries_progress = True

    @classmethod
    def begins(cls, reader: Reader) -> Percent | None:
        """Read 82 %, or 75/80/85 %."""
        m = reader.take(rf"{NUMBER}((?:\s*/\s*\d+(?:[.,]\d+)?)*)\s*(?:%|percent\b){OF_MAX}")
        if not m:
            return None
        values = (m.group(1) + m.group(2)).replace(" ", "").split("/")
        return Percent(tuple(share_pct(reader, number(v), m.start(1)) for v in values))

    def written(self) -> str:
        """Return the shares."""
        return f" @ {'/'.join(f'{p:g}' for p in self.percents)} %"

    def offer(self, ask: Ask, state: LiftState) -> Offer:
        """Return the first share of the max, else effort."""
        return offer(self.percents[0], state) or by_effort(NO_MAX)

    def step(self, by: int) -> Percent:
        """Return every share a step on."""
        return Percent(tuple(stepped_pct(p, by) for p in self.percents))

    def of_set(self, position: int, sets: int) -> Percent:
        """Return the share of one set; the last one goes on."""
        return Percent((self.percents[min(position, len(self.percents) - 1)],)) if self.varies else self

    @property
    def varies(self) -> bool:
        """Whether each set has a share of its own."""
        return len(self.percents) > 1

    @property
    def share_meant(self) -> float | None:
        """The first share (0-1.3)."""
        return self.percents[0] / 100

    def capped(self, most_pct: float) -> Self:
        """Return the shares with none above `most_pct`."""
        return type(self)(tuple(min(most_pct, p) for p in self.percents)) if max(self.percents) > most_pct else self


@dataclass(frozen=True)
class PercentRange(LoadRule):
    """Between two shares of the working max, in per cent: the first set at the low end, the last at the high end."""

    low_pct: float
    high_pct: float

    method = "percent"
    examples = (Example("3x5 @ 80-85 %", "first set at the low end, last at the high end"),)
    carries_progress = True
    varies = True

    @classmethod
    def begins(cls, reader: Reader) -> PercentRange | None:
        """Read 80-85 %."""
        m = reader.take(rf"{NUMBER}\s*[-–]\s*{NUMBER}\s*%(?!\s*of\s+best)")
        if not m:
            return None
        low, high = (share_pct(reader, number(m.group(i)), m.start(i)) for i in (1, 2))
        if high <= low:
            raise reader.fail("A range of percentages goes from low to high.", at=m.start(2))
        return PercentRange(low, high)

    def written(self) -> str:
        """Return both ends."""
        return f" @ {self.low_pct:g}–{self.high_pct:g} %"

    def offer(self, ask: Ask, state: LiftState) -> Offer:
        """Return the low end of the range, else effort."""
        return offer(self.low_pct, state) or by_effort(NO_MAX)

    def step(self, by: int) -> PercentRange:
        """Return both ends a step on."""
        return PercentRange(stepped_pct(self.low_pct, by), stepped_pct(self.high_pct, by))

    def of_set(self, position: int, sets: int) -> Percent:
        """Return the share of one set, evenly from the low to the high end."""
        along = position / (sets - 1) if sets > 1 else 0.0
        return Percent((round(self.low_pct + (self.high_pct - self.low_pct) * along, 1),))

    @property
    def share_meant(self) -> float | None:
        """The middle of the range (0-1.3)."""
        return (self.low_pct + self.high_pct) / 2 / 100


@dataclass(frozen=True)
class TodayPercent(LoadRule):
    """A share of the max that the day's warm-up velocities imply, in per cent."""

    pct: float

    method = "percent"
    examples = (Example("3x3 @ 80 % of today", "of the max that today's warm-up velocities say"),)
    needs_velocities_of_today = True

    @classmethod
    def begins(cls, reader: Reader) -> TodayPercent | None:
        """Read 80 % of today, of the day, of the day's max."""
        m = reader.take(rf"{NUMBER}\s*(?:%|percent\b)\s*of\s+(?:the\s+)?(?:day|today)(?:'s)?(?:\s+max)?\b")
        return TodayPercent(share_pct(reader, number(m.group(1)), m.start(1))) if m else None

    def written(self) -> str:
        """Return the share of today."""
        return f" @ {self.pct:g} % of today"

    def offer(self, ask: Ask, state: LiftState) -> Offer:
        """Return the share of the day's max, else of the max, else effort."""
        found = offer_of_today(self.pct, state)
        if found is not None:
            return found
        missing = state.today.missing if state.today is not None and state.today.missing else (NO_VELOCITIES,)
        by_max = offer(self.pct, state)
        return by_max._replace(missing=missing) if by_max is not None else by_effort(*missing, NO_MAX)

    def step(self, by: int) -> TodayPercent:
        """Return the share a step on."""
        return TodayPercent(stepped_pct(self.pct, by))

    @property
    def share_meant(self) -> float | None:
        """The share (0-1.3)."""
        return self.pct / 100


RULES = (Percent, PercentRange, TodayPercent)


def _express(intent: Intent, state: LiftState) -> Percent | None:
    return Percent((round(200 * intent.share) / 2,)) if intent.share else None


METHOD = Method(
    key="percent",
    place=3,
    name="Percent of the max",
    how="a share of the e1RM, or of the training max",
    good_for="everyone with a max",
    limits="the max moves daily; reps at a percentage differ by athlete and exercise",
    spoken="percent",
    express=_express,
)

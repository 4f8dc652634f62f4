"""What suited an athlete when it was done one way and another: the length of a taper, a variation beside its lift.

Three times each way are the least of which anything is said: a year or two of competitions, half a year of training.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from statistics import fmean, median

from jarvok.core.learning.findings import Kind, Noticed
from jarvok.core.learning.noise import differ
from jarvok.core.quantities.days import said_day

EACH_WAY = 3  # [C] fewer are an anecdote
BY_CHANCE = 0.05  # [J] of what is asked at once: shared out among the questions
LEAST_DAYS_APART = 3  # [J] tapers nearer in length are the same taper
TAPER_ASKED_DAYS = 90  # [J] after the newest competition, as long as its result is asked for
LEAST_SESSIONS = 3  # [J] of a variation in four weeks, for them to count as done with it


@dataclass(frozen=True)
class TaperResult:
    """A competition with a result: the days its taper took, and its lifts beside what was known before the taper, in %."""

    day: date
    name: str
    taper_days: int
    over_pct: float
    ref: str


def taper_that_suits(results: Sequence[TaperResult], today: date) -> Noticed | None:
    """Return whether longer or shorter tapers went with better results, by more than chance; its value is the days that did.

    The results are parted between two lengths at least three days apart, with three or more on each side; of several such
    places the clearest counts, and the chance is shared out among them.
    """
    rows = sorted(results, key=lambda r: (r.taper_days, r.day))
    if not rows or (today - max(r.day for r in rows)).days > TAPER_ASKED_DAYS:
        return None
    places = [
        n
        for n in range(EACH_WAY, len(rows) - EACH_WAY + 1)
        if median(r.taper_days for r in rows[n:]) - median(r.taper_days for r in rows[:n]) >= LEAST_DAYS_APART
        and rows[n].taper_days > rows[n - 1].taper_days
    ]
    parted = [(rows[:n], rows[n:]) for n in places]
    found = [
        (shorter, longer)
        for shorter, longer in parted
        if differ([r.over_pct for r in shorter], [r.over_pct for r in longer], BY_CHANCE / len(parted))
    ]
    if not found:
        return None
    shorter, longer = max(found, key=lambda sides: abs(_mean(sides[1]) - _mean(sides[0])))
    better, worse, word = (longer, shorter, "longer") if _mean(longer) > _mean(shorter) else (shorter, longer, "shorter")
    days = round(median(r.taper_days for r in better))
    said = f"Tapers of {_span(better)} days suited better than those of {_span(worse)}"
    last = max(r.day for r in rows)
    return Noticed(
        f"taper:{word}:{days}",
        Kind.TAPER,
        "",
        f"{said}: results {_mean(better) - _mean(worse):.1f} % higher beside what was known before.",
        tuple((f"{said_day(r.day, year=True)}, {r.name}: {r.taper_days} days, {r.over_pct:+.1f} %", r.ref) for r in rows[-8:]),
        last,
        float(days),
    )


def _mean(rows: Sequence[TaperResult]) -> float:
    return fmean(r.over_pct for r in rows)


def _span(rows: Sequence[TaperResult]) -> str:
    days = [r.taper_days for r in rows]
    return f"{min(days)}" if min(days) == max(days) else f"{min(days)} to {max(days)}"


@dataclass(frozen=True)
class FourWeeks:
    """Four weeks of a lift: their last day, how its max changed in them in %, and sessions in them by variation."""

    last: date
    gain_pct: float
    sessions: Mapping[str, int]


def variation_that_moved(lift_name: str, names: Mapping[str, str], windows: Sequence[FourWeeks]) -> Noticed | None:
    """Return the variation with which a lift has gained more than without it, by more than chance, or None.

    `names` are the variations that may be meant, by id. Four weeks are with one where it was trained three times or more, and
    without it where it was not trained at all; three of each are wanted, the chance is shared out among the variations.
    """
    asked: dict[str, tuple[list[FourWeeks], list[FourWeeks]]] = {}
    for variation in names:
        done = [w for w in windows if w.sessions.get(variation, 0) >= LEAST_SESSIONS]
        left = [w for w in windows if not w.sessions.get(variation, 0)]
        if min(len(done), len(left)) >= EACH_WAY:
            asked[variation] = done, left
    found = [
        (_gain(done) - _gain(left), variation)
        for variation, (done, left) in asked.items()
        if differ([w.gain_pct for w in left], [w.gain_pct for w in done], BY_CHANCE / len(asked))
    ]
    if not found or max(found)[0] <= 0:
        return None
    more, variation = max(found)
    done, left = asked[variation]
    return Noticed(
        f"variation:{variation}",
        Kind.VARIATION,
        variation,
        f"{lift_name} gained {more:.1f} % more in four weeks with {names[variation].lower()} than without.",
        tuple(
            (f"four weeks to {said_day(w.last)}: {w.gain_pct:+.1f} % {'with' if w in done else 'without'}", "") for w in windows
        ),
        max(w.last for w in done),
    )


def _gain(windows: Sequence[FourWeeks]) -> float:
    return fmean(w.gain_pct for w in windows)

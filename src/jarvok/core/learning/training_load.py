"""Training load over days: a week's load, its monotony and strain, and two weighted averages of the days before."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from statistics import fmean, stdev

from jarvok.core.working import Input, Source, Working

ACUTE_DAYS, CHRONIC_DAYS = 7, 28  # published spans of the two averages: Williams et al. 2017, quoted from memory
WEEK = 7  # [T] days
LEAST_WEEKS, USUAL_WEEKS = 4, 8  # [J] so many weeks make a usual; so many are looked at
FAR_SD = 1.5  # [J] further from one's own usual week than this is said
LEAST_SD_SHARE = 0.1  # [J] weeks that are all alike still vary by a tenth
FOSTER = Source("P", "Foster 1998, quoted from memory")
CAUTION = (
    "The ratio of the two lines does not predict injury (Impellizzeri et al. 2020, quoted from memory). Read it beside what the "
    "athlete says."
)
SEED = "Both lines start at the first load of the last nine weeks, or of the weeks shown if they are more."


@dataclass(frozen=True)
class WeekLoad:
    """A week's load in AU, its daily mean, monotony and strain; monotony is None where every day is alike."""

    load_au: float
    mean_au: float
    monotony: float | None
    strain_au: float | None
    working: Working


def week_load(days_au: Sequence[float]) -> WeekLoad:
    """Return the figures of seven days in AU, days without training among them as nought.

    Monotony is the daily mean over the standard deviation of the seven (of a sample, n − 1), strain load × monotony.
    Raises ValueError for another number of days.
    """
    if len(days_au) != WEEK:
        raise ValueError(f"seven days are wanted, not {len(days_au)}")
    load, mean, spread = sum(days_au), fmean(days_au), stdev(days_au)
    monotony = mean / spread if spread > 0 else None
    strain = load * monotony if monotony is not None else None
    return WeekLoad(
        load, mean, monotony, strain,
        Working(
            f"{monotony:.1f}" if monotony is not None else "none: every day alike",
            "daily mean over standard deviation (of a sample), seven days, days off as 0",
            FOSTER,
            (Input("load of the week", f"{load:.0f} AU"), Input("daily mean", f"{mean:.0f} AU"), Input("SD", f"{spread:.0f} AU")),
        ),
    )  # fmt: skip


def weighted(days_au: Sequence[float], span_days: int) -> list[float]:
    """Return the exponentially weighted average after each day in AU: 2 / (span + 1) of the day, the rest of what stood before.

    It starts at the first day's load. Williams et al. 2017, quoted from memory.
    """
    share = 2 / (span_days + 1)
    found: list[float] = []
    for load in days_au:
        found.append(load if not found else share * load + (1 - share) * found[-1])
    return found


@dataclass(frozen=True)
class Usual:
    """A week beside the athlete's own weeks before: both in AU, how many standard deviations apart, and whether that is far."""

    load_au: float
    usual_au: float
    apart_sd: float
    is_far: bool

    @property
    def words(self) -> str:
        """It in words."""
        if not self.is_far:
            return "as usual"
        return f"{'above' if self.apart_sd > 0 else 'below'} their own usual of {self.usual_au:.0f} AU"


def beside_usual(load_au: float, weeks_before_au: Sequence[float]) -> Usual | None:
    """Return a week beside the athlete's own last weeks, None before there are enough of them to say what is usual."""
    before = list(weeks_before_au[-USUAL_WEEKS:])
    if len(before) < LEAST_WEEKS:
        return None
    usual = fmean(before)
    spread = max(stdev(before), LEAST_SD_SHARE * usual)
    if spread <= 0:
        return None
    apart = (load_au - usual) / spread
    return Usual(load_au, usual, apart, abs(apart) >= FAR_SD)

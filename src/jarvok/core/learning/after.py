"""After a competition: the result beside the forecast, and what the taper was. Common practice."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

TAPER_WEEKS, BEFORE_WEEKS = 2, 4  # [C] the last fortnight beside the month before it


def beside_forecast(result_kg: float, forecast_kg: float, error_kg: float, unit: str = "kg") -> str:
    """Return in words how a result lies beside its forecast, which has one standard error; loads in one unit."""
    apart = result_kg - forecast_kg
    said = f"{forecast_kg:.0f} ± {error_kg:.0f} {unit} forecast"
    if abs(apart) <= error_kg:
        return f"{said}: as forecast"
    return f"{said}: {abs(apart):.1f} {unit} {'over' if apart > 0 else 'under'} it, more than its error"


@dataclass(frozen=True)
class TaperSeen:
    """Main sets a week in the last fortnight and in the month before it, and the cut between them in %."""

    last_sets: float
    before_sets: float
    cut_pct: float

    @property
    def words(self) -> str:
        """It in words."""
        how = f"{abs(self.cut_pct):.0f} % {'fewer' if self.cut_pct >= 0 else 'more'}"
        weeks = f"in the last {TAPER_WEEKS} weeks than in the {BEFORE_WEEKS} before"
        return f"{how} main sets {weeks}: {self.last_sets:.0f} a week in place of {self.before_sets:.0f}."


def taper_seen(weeks_sets: Sequence[int]) -> TaperSeen | None:
    """Return what the taper was from the main sets done in the six weeks before a competition, oldest first; None without any
    in the month before the last fortnight.
    """
    rows = list(weeks_sets)[-(TAPER_WEEKS + BEFORE_WEEKS) :]
    before, last = rows[:-TAPER_WEEKS], rows[-TAPER_WEEKS:]
    if len(rows) < TAPER_WEEKS + BEFORE_WEEKS or not sum(before):
        return None
    usual, now = sum(before) / len(before), sum(last) / len(last)
    return TaperSeen(now, usual, 100 * (1 - now / usual))

"""What a taper takes off, counted from the sessions and not from the wish."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta

from jarvok.core.plan.season_spending import WEEK_DAYS, SeasonSpending
from jarvok.core.quantities.sentence import counted
from jarvok.core.season.model import PhaseKey, SeasonNote, SeasonPlan, SeasonWeek, TaperWindow
from jarvok.core.season.taper import PUBLISHED_DAYS

FULL_WEEKS = 2  # [C] a taper is measured against the last two full weeks
NEAR_POINTS = 5.0  # [C] so near the chosen depth counts as met
DAYS_OF_START = timedelta(days=WEEK_DAYS - 1)  # [T] the season is planned on a day of its first week


@dataclass(frozen=True)
class TaperCut:
    """One taper as its sessions hold it: main sets in the window, and those a window as long held before it.

    `full_weeks` is how many full weeks it is measured against; with none there is nothing to measure. `exposure_sets` are
    those of last heavy sessions, which the taper does not cut.
    """

    window: TaperWindow
    sets: int
    sets_before: float
    full_weeks: int
    exposure_sets: int = 0

    @property
    def cut_pct(self) -> float | None:
        """Main sets taken off, in % of those before, or None with nothing to measure against."""
        return round(100 * (1 - self.sets / self.sets_before), 1) if self.sets_before else None

    @property
    def is_met(self) -> bool:
        """Whether it comes within five points of the chosen depth, or within one set where sets are few."""
        wanted = self.sets_before * (1 - self.window.style.depth_pct / 100)
        return abs(self.sets - wanted) <= max(1.0, NEAR_POINTS / 100 * self.sets_before)


def taper_cut(season: SeasonPlan, spending: SeasonSpending, window: TaperWindow) -> TaperCut:
    """Return what a taper takes off: a day's main sets in it against a day's in the last two full weeks before it."""
    full = [w for w in season.weeks if w.is_full and w.end < window.first and w.competition_day == window.day][-FULL_WEEKS:]
    before = sum(spending.weeks[w.index].sets for w in full)
    a_day = before / (WEEK_DAYS * len(full)) if full else 0.0
    return TaperCut(
        window,
        spending.between(window.first, window.day),
        a_day * window.style.days,
        len(full),
        spending.exposures_between(window.first, window.day),
    )


def windows_of(season: SeasonPlan) -> list[tuple[TaperWindow, SeasonWeek]]:
    """Return the tapers of a season, each with the first week that lies mostly in it."""
    found: dict[TaperWindow, SeasonWeek] = {}
    for week in season.weeks:
        if week.taper is not None and (week.taper not in found or found[week.taper].phase is not PhaseKey.TAPER):
            found[week.taper] = week
    return list(found.items())


def taper_notes(season: SeasonPlan, spending: SeasonSpending) -> tuple[SeasonNote, ...]:
    """Return what is said beside each taper: its days, what its sessions take off, what becomes of loads, what is not met."""
    found: list[SeasonNote] = []
    for i, (window, week) in enumerate(windows_of(season)):
        cut = taper_cut(season, spending, window)
        days = window.style.days
        title = f"{week.phase_name if week.phase is PhaseKey.TAPER else 'Taper'}: {days} {'day' if days == 1 else 'days'}."
        words = [_cut_words(cut, week), _load_words(week), "Nothing new, no test attempts."]
        low, high = PUBLISHED_DAYS
        if days < low:
            words.insert(0, f"Shorter than {low} to {high} days: {_why_short(season, window)}.")
        elif days > high:
            words.insert(0, f"Longer than {low} to {high} days, as you chose.")
        found.append(
            SeasonNote(
                "taper" if i == 0 else f"taper-{week.competition}",
                title,
                " ".join(words),
                "Bosquet et al. 2007; Mujika & Padilla 2003",
                decision=not cut.is_met and cut.full_weeks > 0,
                week=week.index,
            )
        )
    return tuple(found)


def _cut_words(cut: TaperCut, week: SeasonWeek) -> str:
    sets = f"{cut.sets} main {'set' if cut.sets == 1 else 'sets'}"
    if cut.cut_pct is None:
        return f"{sets} in it; no full week stands before it to measure against."
    chosen = cut.window.style.depth_pct
    size = "down" if cut.cut_pct >= 0 else "up"
    text = f"Volume {size} by {abs(cut.cut_pct):.0f} %: {sets}, {cut.sets_before:.0f} in as many days before."
    if cut.is_met:
        return text
    out = week.last_session_days_out
    more = cut.cut_pct > chosen
    why = (
        f"the last session lies {counted(out, 'day')} out and days away hold none"
        if more and week.closed
        else f"the last session lies {counted(out, 'day')} before"
        if more
        else f"last heavy sessions hold {cut.exposure_sets} of the sets"
        if cut.exposure_sets
        else "each session keeps its least"
    )
    return f"{text} {chosen:g} % was chosen; {why}."


def _load_words(week: SeasonWeek) -> str:
    if week.keeps_strength:
        return "Percentages stay, up to what the last days allow."
    return "Speed stays; loads fall, because the lifts have moved along their chains."


def _why_short(season: SeasonPlan, window: TaperWindow) -> str:
    earlier = [t for t in season.targets if t.end < window.day]
    if earlier and (window.first - max(t.end for t in earlier)).days <= WEEK_DAYS:
        return "the last competition stands close before it"
    return "there is no more time" if season.start <= window.first <= season.start + DAYS_OF_START else "as you chose"

"""Checks of a season. Each stays silent where an arrangement does the thing on purpose."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from datetime import date, timedelta
from itertools import pairwise
from types import MappingProxyType

from jarvok.core.checks.flag import Check, Fix, Flag, Severity
from jarvok.core.checks.guards import why_guarded
from jarvok.core.quantities.days import said_day
from jarvok.core.quantities.sentence import counted, first_upper
from jarvok.core.season.arrangements import BY_KEY
from jarvok.core.season.calendar import Span, SpanKind
from jarvok.core.season.exposures import ClassGap
from jarvok.core.season.missed import Return
from jarvok.core.season.model import Phase, PhaseKey, Rank, SeasonPlan, SeasonWeek, weeks_words
from jarvok.core.season.residuals import WANTED
from jarvok.core.season.taper import STRENGTH_CUT_PCT, TaperStyle, remarks
from jarvok.core.working import COMMON_PRACTICE, Source

OWN = Source("J", "Jarvok's default")
PRITCHARD = Source("P", "Pritchard et al. 2015")
BOSQUET = Source("P", "Bosquet et al. 2007")
ISSURIN = Source("P", "Issurin 2008")
SAME_LOAD = 1.01  # [T] so little more is the rounding of sets
LEAST_DAYS_BETWEEN = 14  # [C] between two main competitions, for a taper of their own
MOST_LOADING = 4  # [C] loading weeks in a row


@dataclass(frozen=True)
class SeasonView:
    """A planned season and what lies beside it: the chosen taper, the calendar, work added by hand per Monday (in words),
    the gap to a class, and a break that has just ended.
    """

    plan: SeasonPlan
    today: date
    taper: TaperStyle | None = None
    spans: tuple[Span, ...] = ()
    added: Mapping[date, str] = field(default_factory=lambda: MappingProxyType({}))
    gap: ClassGap | None = None
    back: Return | None = None

    @property
    def is_reactive(self) -> bool:
        """Whether the arrangement regulates fatigue as it comes, without planned easier weeks."""
        return BY_KEY[self.plan.arrangement].loading_weeks is None


def long_loading(view: SeasonView) -> Iterator[Flag]:
    """More than four loading weeks without an easier one."""
    if view.is_reactive:
        return
    run: list[SeasonWeek] = []
    for week in (*view.plan.weeks, None):
        if week is not None and not week.is_light:
            run.append(week)
            continue
        if len(run) > MOST_LOADING:
            easiest = run[MOST_LOADING - 1]
            fix = Fix(
                f"Make the week of {said_day(easiest.start)} easier", "easy_week", {"monday": str(easiest.start), "easy": True}
            )
            yield Flag(
                "long-loading",
                Severity.THINK,
                f"{len(run)} loading weeks in a row.",
                "A deload week shows what the work has built; after at most four weeks it is due.",
                COMMON_PRACTICE,
                str(run[0].start),
                run[0].index,
                fix,
            )
        run = []


def taper_outside(view: SeasonView) -> Iterator[Flag]:
    """A chosen taper outside the published ranges."""
    if view.taper is None:
        return
    for words in remarks(view.taper):
        fix = Fix("Go back to the usual taper", "taper", {"days": None})
        yield Flag("taper-range", Severity.NOTE, "The taper is not the usual one.", f"{words}.", BOSQUET, "taper", None, fix)


def taper_cut(view: SeasonView) -> Iterator[Flag]:
    """A taper that takes off clearly less or more than strength tapers do."""
    for phase in view.plan.phases:
        week = next((w for w in view.plan.weeks if w.start == phase.start), None)
        window = week.taper if week is not None and phase.key is PhaseKey.TAPER else None
        if week is None or window is None:
            continue
        cut = window.style.depth_pct
        low, high = STRENGTH_CUT_PCT
        if not low <= cut <= high:
            word = "little" if cut < low else "much"
            yield Flag(
                "taper-cut",
                Severity.THINK,
                f"The taper to {phase.toward} takes off {word}: {cut:.0f} %.",
                f"Strength tapers cut {low:g} to {high:g} % of the volume and keep the loads.",
                PRITCHARD,
                phase.toward,
                week.index,
                Fix("Take the usual taper", "taper", {"days": None}),
            )


def gone_on_the_day(view: SeasonView) -> Iterator[Flag]:
    """A quality past its residual on the day."""
    for residual in view.plan.residuals:
        if residual.covers_competition:
            continue
        name = first_upper(residual.quality)
        severity = Severity.THINK if residual.quality in WANTED else Severity.NOTE
        yield Flag("gone", severity, f"{name} may be gone on the day.", f"{residual.text}.", ISSURIN, residual.quality)


def added_to_a_light_week(view: SeasonView) -> Iterator[Flag]:
    """An easier week or a taper to which somebody added work."""
    for week in view.plan.weeks:
        words = view.added.get(week.start)
        kind = why_guarded(week)
        if not words or not kind or week.end < view.today:
            continue
        why = "What is built is protected now: nothing new, no heroic extra session." if kind == "taper" else ""
        why = "Now the work shows." if kind == "deload week" else why
        fix = Fix("Take the added work out", "remove_added", {"monday": str(week.start)})
        title = f"Work was added to the {kind}."
        yield Flag(
            "added-work", Severity.CAUTION, title, f"{words} {why}".strip(), COMMON_PRACTICE, str(week.start), week.index, fix
        )


def load_rises_while_life_does(view: SeasonView) -> Iterator[Flag]:
    """Load rising in a week of camp, travel or exams."""
    for before, week in pairwise(view.plan.weeks):
        busy = [s for s in view.spans if s.kind in (SpanKind.CAMP, SpanKind.TRAVEL, SpanKind.EXAMS) and s.days_in(week.start)]
        if busy and not week.is_light and not before.is_light and week.load > before.load * SAME_LOAD:
            fix = Fix("Make it a deload week", "easy_week", {"monday": str(week.start), "easy": True})
            yield Flag(
                "load-rises",
                Severity.THINK,
                f"Load rises in the week of {busy[0].words}.",
                "Training and what is outside it go up in the same week: cut one of the two.",
                COMMON_PRACTICE,
                str(week.start),
                week.index,
                fix,
            )


def too_close(view: SeasonView) -> Iterator[Flag]:
    """Main competitions with no room to prepare between them."""
    mains = [t for t in view.plan.targets if t.rank is Rank.MAIN]
    for first, second in pairwise(mains):
        gap = (second.day - first.end).days
        if gap < LEAST_DAYS_BETWEEN:
            fix = Fix(f"Make {first.name} secondary", "rank", {"name": first.name, "day": str(first.day), "rank": "secondary"})
            yield Flag(
                "too-close",
                Severity.THINK,
                f"{first.name} and {second.name} lie {counted(gap, 'day')} apart.",
                "Both cannot be peaked for: the second lives on what is left of the first.",
                COMMON_PRACTICE,
                second.name,
                None,
                fix,
            )


def phase_set_unusually(view: SeasonView) -> Iterator[Flag]:
    """A phase set shorter or longer than usual."""
    for phase in view.plan.phases:
        if phase.pinned and not phase.least_weeks <= phase.weeks <= phase.most_weeks:
            word = "shorter" if phase.weeks < phase.least_weeks else "longer"
            yield Flag(
                "phase-length",
                Severity.THINK,
                f"{phase.name} is {word} than usual.",
                f"You set {_weeks(phase)}; {phase.least_weeks} to {phase.most_weeks} are usual.",
                COMMON_PRACTICE,
                f"{phase.toward}:{phase.id}",
                None,
                Fix("Back to the proposed length", "unpin", {"toward": phase.toward, "phase": phase.id}),
            )


def _weeks(phase: Phase) -> str:
    return weeks_words(phase.weeks)


def class_gap(view: SeasonView) -> Iterator[Flag]:
    """A body mass far from the class."""
    if view.gap is not None and view.gap.is_large:
        yield Flag("class-gap", Severity.CAUTION, "Far from the class limit.", view.gap.words, OWN, "class")


def back_from_a_break(view: SeasonView) -> Iterator[Flag]:
    """A break that asks for a repeated week or a new ramp. Once the days are marked as away, the plan goes on from there."""
    if view.back is None:
        return
    first, last = view.today - timedelta(days=view.back.days_away - 1), view.today - timedelta(days=1)
    marked = any(s.kind in (SpanKind.AWAY, SpanKind.HOLIDAY) and s.start <= last and s.end >= first for s in view.spans)
    if marked and view.back.max_pct >= 100:
        return
    fix = Fix("Mark the days as away: the plan goes on where it stopped", "away", {"start": str(first), "end": str(last)})
    yield Flag(
        "break", Severity.THINK, "Back after a break.", view.back.words, view.back.source, "break", None, None if marked else fix
    )


CHECKS: tuple[Check[SeasonView], ...] = (
    Check("class-gap", "body mass far from the class", OWN, class_gap),
    Check("added-work", "work added to a deload week or a taper", COMMON_PRACTICE, added_to_a_light_week),
    Check("break", "the way back after a break", COMMON_PRACTICE, back_from_a_break),
    Check("long-loading", "too many loading weeks in a row", COMMON_PRACTICE, long_loading),
    Check("load-rises", "load rising with camp, travel or exams", COMMON_PRACTICE, load_rises_while_life_does),
    Check("too-close", "main competitions too close together", COMMON_PRACTICE, too_close),
    Check("taper-cut", "a taper that takes off too little or too much", PRITCHARD, taper_cut),
    Check("gone", "a quality past its residual on the day", ISSURIN, gone_on_the_day),
    Check("phase-length", "a phase set shorter or longer than usual", COMMON_PRACTICE, phase_set_unusually),
    Check("taper-range", "a chosen taper outside the published ranges", BOSQUET, taper_outside),
)


def season_flags(view: SeasonView) -> tuple[Flag, ...]:
    """Return every flag of a season, cautions first."""
    found = [flag for check in CHECKS for flag in check.look(view)]
    return tuple(sorted(found, key=lambda f: list(Severity).index(f.severity)))

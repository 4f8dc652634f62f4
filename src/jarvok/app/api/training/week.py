"""A week as the API sends it: each day's weight, practices, sessions and sums, beside the week before."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from datetime import date, timedelta

from jarvok.app.api.training.flags import FlagBook
from jarvok.app.api.training.shapes import DayOut, DayPracticeOut, MissedOptionOut, MissedOut, SumsOut, WeekViewOut
from jarvok.app.api.training.sheet import sheet_out
from jarvok.app.athletes.reading import practices_of
from jarvok.app.centre.in_force import kit_of
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.seasons.flag_words import words_kept
from jarvok.app.training.planned_weeks import SUMS, WeekStyle, of_week, order_of, week_style_of
from jarvok.app.training.sheets import AthleteWeek, Sheet, sheets_before, week_days
from jarvok.core.checks.flag import Severity
from jarvok.core.library.exercises import exercise
from jarvok.core.quantities.mass import in_unit
from jarvok.core.rules import Rules
from jarvok.core.season.match_days import label_of
from jarvok.core.season.missed import options_for
from jarvok.core.season.model import PhaseKey, SeasonWeek
from jarvok.core.season.time_lost import OFF
from jarvok.core.week.arrangements import days_words
from jarvok.core.week.order import ORDER_WAITS, order_words
from jarvok.core.week.placement import Practice, day_weights
from jarvok.core.week.sums import LineSum, sum_up
from jarvok.core.week.weight import DayWeight, WeighedLine, weigh_day


def _weight(practice: float, sheets: Sequence[Sheet], rules: Rules) -> DayWeight:
    lines = [
        WeighedLine(
            cost=exercise(line.planned.exercise_id).cost,
            kind=exercise(line.planned.exercise_id).kind,
            sets=len(line.sets),
            role=line.planned.role,
            volume_kg=sum(s.volume_kg for s in line.sets),
        )
        for sheet in sheets
        for line in sheet.lines
    ]
    return weigh_day(practice, lines, rules)


def sums_of(sheets: Iterable[Sheet], unit: str) -> SumsOut:
    """A week's sessions in sums; volume load in the unit of the room."""
    rows = list(sheets)
    found = sum_up(
        LineSum(exercise(x.planned.exercise_id), x.planned.role, x.prescription, x.sets) for s in rows for x in s.lines
    )
    return SumsOut(
        hard_sets=found.hard_sets,
        by_pattern=dict(Counter(found.by_pattern).most_common()),
        lifts=found.lifts,
        average_intensity_pct=found.average_intensity_pct,
        volume=round(in_unit(found.volume_kg, unit)),
        unit=unit,
        contacts=found.contacts,
        sprint_metres=found.sprint_metres,
        minutes=round(sum(s.minutes for s in rows)),
    )


def next_day(week: SeasonWeek, day: date) -> date:
    """What a day is counted to: the next match of a season, else the competition."""
    ahead = [m for m in week.match_days if m >= day]
    return min(ahead) if week.phase is PhaseKey.IN_SEASON and ahead else week.competition_day


def _trains(week: SeasonWeek, day: date) -> bool:
    return day < week.competition_day and day not in week.closed


def _away_words(found: AthleteWeek, day: date) -> str:
    """Why nothing is trained on a day, or nothing."""
    here = [s.words for s in found.plan.spans if s.start <= day <= s.end and s.kind in OFF]
    return ", ".join(here)


def _day_out(
    athlete: Athlete, found: AthleteWeek, day: date, *, today: date, flags: FlagBook, practices: Sequence[Practice], busy: float
) -> DayOut:
    held = [s for s in found.sheets if s.planned.day == day]
    here: list[Practice] = [p for p in practices if p.weekday == day.weekday()] if _trains(found.week, day) else []
    sheets = [sheet_out(athlete, found, s, flags, unfolds=False) for s in held]
    weight = _weight(busy if here else 0.0, held, found.rules)
    return DayOut(
        day=day,
        days_to_go=(next_day(found.week, day) - day).days,
        practices=[DayPracticeOut(hour=p.hour, minutes=p.minutes, hardness=p.hardness) for p in here],
        practice_weight=round(weight.practice, 2),
        session_weight=weight.session,
        band=weight.band,
        sheet=sheets[0] if sheets else None,
        second=sheets[1] if len(sheets) > 1 else None,
        is_today=day == today,
        is_past=day < today,
        is_competition=day == found.week.competition_day,
        label=label_of(day, found.week.match_days) if found.week.match_days else "",
        is_match=day in found.week.match_days,
        away=_away_words(found, day),
        can_take=today <= day < found.week.competition_day and day not in found.week.match_days,
        hard_sets=weight.hard_sets,
        volume_kg=round(weight.volume_kg),
        flags=[f for out in sheets for f in out.flags if f.severity != Severity.NOTE],
    )


def week_out(athlete: Athlete, found: AthleteWeek, today: date) -> WeekViewOut:
    practices = practices_of(athlete, found.week.start)
    weights = day_weights(practices)
    flags = FlagBook(athlete, found)
    days = [
        _day_out(athlete, found, day, today=today, flags=flags, practices=practices, busy=weights[day.weekday()])
        for day in week_days(found.week.start)
    ]
    unit = kit_of(athlete.kit).unit
    before, after = found.week.start - timedelta(days=7), found.week.start + timedelta(days=7)
    last = found.plan.week_of(before)
    style = week_style_of(athlete, found.week.start)
    now = max(found.week.start, min(today, found.week.end))
    return WeekViewOut(
        athlete_id=athlete.pk,
        athlete_name=athlete.name,
        group=athlete.group,
        start=found.week.start,
        previous=before if last else None,
        following=after if found.plan.week_of(after) else None,
        phase_name=found.week.phase_name,
        phase=found.week.phase,
        week_of_phase=found.week.week_of_phase,
        weeks_in_phase=found.week.weeks_in_phase,
        is_easy=found.week.is_easy,
        days_to_go=(next_day(found.week, now) - now).days,
        competition=found.week.competition,
        days=days,
        sums=sums_of(found.sheets, unit),
        sums_before=_sums_before(athlete, found, last, unit) if last is not None else None,
        arrangement=style.arrangement.key,
        arrangement_name=style.arrangement.name,
        arrangement_days=style.days,
        only_this_week=style.only_this,
        flags=flags.of_week(),
        can_undo=flags.can_undo,
        missed=_missed(athlete, found, today),
        by_order=style.by_order,
        days_words=_days_words(athlete, style, found),
        order_words=_order_words(athlete, found, today) if style.by_order else "",
    )


def _sums_before(athlete: Athlete, found: AthleteWeek, last: SeasonWeek, unit: str) -> SumsOut:
    return of_week(athlete, found.plan, last.start, SUMS, lambda: sums_of(sheets_before(athlete, found, last), unit))


def _days_words(athlete: Athlete, style: WeekStyle, found: AthleteWeek) -> str:
    """That the week holds other than the sessions on record, where neither a match nor the season says so."""
    week = found.week
    if week.match_days or week.taper is not None or week.closed or style.only_this:
        return ""
    return days_words(style.arrangement, athlete.sessions_a_week, style.days)


def _order_words(athlete: Athlete, found: AthleteWeek, today: date) -> str:
    """Where the order stands; nothing for weeks that are over."""
    if found.week.end < today:
        return ""
    order = order_of(athlete, found.plan, found.week, found.rules)
    return ORDER_WAITS if order.waits else order_words(order.missed)


def _missed(athlete: Athlete, found: AthleteWeek, today: date) -> list[MissedOut]:
    if not found.week.start <= today <= found.week.end or week_style_of(athlete, found.week.start).by_order:
        return []  # what is missed in an order is done next
    words = {where for check, where in words_kept(athlete) if check == "missed"}
    coming = [s.planned.day for s in found.sheets if s.planned.day >= today]
    said: list[MissedOut] = []
    offered: set[date] = set()
    for sheet in found.sheets:
        planned = sheet.planned
        if (
            not found.plan.planned_on <= planned.day < today
            or sheet.started is not None
            or f"{planned.day}:{planned.key}" in words
        ):
            continue
        every = options_for(
            planned.day,
            today,
            coming,
            found.week.end,
            is_sequence=False,
            is_light_week=found.week.is_light,
            competition_day=found.week.competition_day if found.week.has_competition else None,
        )
        ways = [w for w in every if w.day not in offered]  # what is missed is not crammed into one day
        offered |= {w.day for w in ways if w.day is not None}
        options = [MissedOptionOut(choice=w.choice, words=w.words, day=w.day, is_proposed=not i) for i, w in enumerate(ways)]
        said.append(MissedOut(key=planned.key, day=planned.day, theme=planned.theme, options=options))
    return said

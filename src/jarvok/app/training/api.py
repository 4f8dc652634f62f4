from __future__ import annotations

from datetime import date, timedelta

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.athletes.models import Athlete
from jarvok.app.athletes.queries import practices_of, restrictions_of
from jarvok.app.problems import Problem
from jarvok.app.schema import Schema
from jarvok.app.seasons.models import FlagWord
from jarvok.app.shapes import ResolvedSetOut, resolved_out
from jarvok.app.training import services
from jarvok.app.training.queries import AthleteWeek, Sheet, SheetLine, athlete_week, week_days
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.methods import METHOD_BY_KEY
from jarvok.core.loading.progress import contacts_words
from jarvok.core.loading.shorthand import write
from jarvok.core.rules import Rules
from jarvok.core.season.missed import options_for
from jarvok.core.season.model import PhaseKey, monday_of
from jarvok.core.week.placement import MORNING_ENDS, Practice, day_weights
from jarvok.core.week.weight import DayWeight, WeighedLine, weigh_day

router = Router(tags=["training"])
ERRORS = {401: Problem, 403: Problem, 404: Problem, 409: Problem, 422: Problem, 428: Problem}
MINUTES_THERE = 60  # an hour of room time, where the record says nothing


class LineOut(Schema):
    slot: str
    block: str
    exercise_id: str
    exercise: str
    cue: str
    cost: str
    text: str
    proposed_text: str
    edited: bool
    method_words: str
    can_compare: bool
    to_beat: str
    reason: str
    replaced: str
    is_main: bool
    sets: list[ResolvedSetOut]
    minutes: float
    rest_s: int


class MarginOut(Schema):
    id: str
    title: str
    text: str
    decision: bool
    slot: str = ""


class SheetOut(Schema):
    athlete_id: int
    athlete_name: str
    day: date
    days_to_go: int
    key: str
    theme: str
    day_reason: str
    phase: str
    phase_name: str
    week_of_phase: int
    weeks_in_phase: int
    is_easy: bool
    lines: list[LineOut]
    notes: list[MarginOut]
    warm_up_minutes: float
    minutes: float
    minutes_there: int
    session_id: int | None
    state: str


class DayPracticeOut(Schema):
    hour: float
    minutes: int
    hardness: int


class DayOut(Schema):
    day: date
    days_to_go: int
    practices: list[DayPracticeOut]
    practice_weight: float
    session_weight: float
    band: str
    sheet: SheetOut | None
    is_today: bool
    is_competition: bool
    hard_sets: int
    volume_kg: float


class MissedOptionOut(Schema):
    choice: str
    words: str
    day: date | None
    is_proposed: bool


class MissedOut(Schema):
    """A session of this week whose day has passed without it, and the ways on."""

    key: str
    day: date
    theme: str
    options: list[MissedOptionOut]


class WeekViewOut(Schema):
    athlete_id: int
    athlete_name: str
    start: date
    previous: date | None
    following: date | None
    phase_name: str
    phase: str
    week_of_phase: int
    weeks_in_phase: int
    is_easy: bool
    days_to_go: int
    competition: str
    days: list[DayOut]
    hard_sets: int
    volume_kg: float
    minutes: float
    missed: list[MissedOut]


class WeekAnswer(Schema):
    athlete_id: int
    athlete_name: str
    week: WeekViewOut | None
    reason: str


class NewText(Schema):
    text: str


class NewDay(Schema):
    day: date


def state_of(sheet: Sheet) -> str:
    if sheet.started is None:
        return "planned"
    return "finished" if sheet.started.finished_at else "started"


def _method_words(line: SheetLine) -> str:
    if line.choice is None:
        return ""
    return f"by {METHOD_BY_KEY[line.choice.method].name.lower()} to {line.choice.until_day:%-d %b}, your choice"


def _can_compare(line: SheetLine) -> bool:
    lift = exercise(line.planned.exercise_id)
    return lift.is_loaded and any(g.reps and g.load is not None for g in line.prescription.groups)


def minutes_there(athlete: Athlete) -> int:
    return athlete.minutes_a_session or MINUTES_THERE


def sheet_out(athlete: Athlete, week: AthleteWeek, sheet: Sheet) -> SheetOut:
    return SheetOut(
        athlete_id=athlete.pk,
        athlete_name=athlete.name,
        day=sheet.planned.day,
        days_to_go=(week.week.competition_day - sheet.planned.day).days,
        key=sheet.planned.key,
        theme=sheet.planned.theme,
        day_reason=sheet.planned.day_reason,
        phase=week.week.phase,
        phase_name=week.week.phase_name,
        week_of_phase=week.week.week_of_phase,
        weeks_in_phase=week.week.weeks_in_phase,
        is_easy=week.week.is_easy,
        lines=[
            LineOut(
                slot=line.planned.slot,
                block=line.planned.block,
                exercise_id=line.planned.exercise_id,
                exercise=exercise(line.planned.exercise_id).name,
                cue=exercise(line.planned.exercise_id).cue,
                cost=exercise(line.planned.exercise_id).cost,
                text=line.text,
                proposed_text=write(line.planned.prescription),
                edited=line.edited,
                method_words=_method_words(line),
                can_compare=_can_compare(line),
                to_beat="" if week.week.is_easy or week.week.phase is PhaseKey.TAPER else line.to_beat,
                reason=line.planned.reason,
                replaced=line.planned.replaced,
                is_main=line.planned.is_main,
                sets=[resolved_out(s) for s in line.sets],
                minutes=round(line.minutes, 1),
                rest_s=line.rest_s,
            )
            for line in sheet.lines
        ],
        notes=_notes(athlete, week, sheet),
        warm_up_minutes=round(sheet.warm_up_minutes, 1),
        minutes=round(sheet.minutes, 1),
        minutes_there=minutes_there(athlete),
        session_id=sheet.started.pk if sheet.started else None,
        state=state_of(sheet),
    )


def _notes(athlete: Athlete, week: AthleteWeek, sheet: Sheet) -> list[MarginOut]:
    notes: list[MarginOut] = []
    here = [p for p in practices_of(athlete) if p.weekday == sheet.planned.day.weekday()]
    hard = next((p for p in here if p.hardness >= week.rules["week.hard_practice"] and p.hour < MORNING_ENDS), None)
    if hard is not None:
        notes.append(
            MarginOut(
                id="hard-morning",
                title="Hard practice was this morning.",
                text="Heavy lifting the same evening usually costs the next day. Move the session, or take a set off A1.",
                decision=True,
            )
        )
    for line in sheet.lines:
        if line.planned.replaced:
            restriction = next(iter(restrictions_of(athlete, sheet.planned.day)), None)
            who = f" Set by {restriction.set_by}; stays until cleared." if restriction else ""
            text = f"{exercise(line.planned.exercise_id).name} stands in for {line.planned.replaced.lower()}.{who}"
            title = f"{restriction.words}." if restriction else "Restricted."
            notes.append(MarginOut(id=f"r-{line.planned.slot}", title=title, text=text, decision=False, slot=line.planned.slot))
        lift = exercise(line.planned.exercise_id)
        if not sheet.kit.allows(lift):
            text = f"{lift.name} takes a {lift.implement}. Change the kit in the record, or leave {line.planned.slot} out today."
            title = f"Not in “{sheet.kit.name}”."
            notes.append(MarginOut(id=f"k-{line.planned.slot}", title=title, text=text, decision=True, slot=line.planned.slot))
        missing = next((s.working.missing for s in line.sets if s.working and s.working.missing), ())
        if missing:
            notes.append(
                MarginOut(
                    id=f"m-{line.planned.slot}",
                    title=f"{line.planned.slot}: by {line.sets[0].method}.",
                    text="; ".join(missing).capitalize() + ".",
                    decision=False,
                    slot=line.planned.slot,
                )
            )
        if any(g.or_more for g in line.prescription.groups) or any((s.share_of_max or 0) >= 0.97 for s in line.sets):
            notes.append(
                MarginOut(
                    id=f"s-{line.planned.slot}",
                    title="Near the limit.",
                    text="Spotters or safeties, collars, a clear platform. Without a spotter stop one short.",
                    decision=False,
                    slot=line.planned.slot,
                )
            )
    added = [x for x in sheet.lines if x.edited and x.prescription.total_sets > x.planned.prescription.total_sets]
    if week.week.is_light and added:
        kind = "taper" if week.week.phase is PhaseKey.TAPER else "easier week"
        text = f"{', '.join(x.planned.slot for x in added)}: more sets than planned. What is built is protected now; write less."
        notes.append(MarginOut(id="added", title=f"Work was added to the {kind}.", text=text, decision=True))
    if sheet.contacts:
        text = contacts_words(sheet.contacts, sheet.contacts_before, athlete.training_age_years, sheet.rules)
        notes.append(MarginOut(id="contacts", title=f"{sheet.contacts} contacts.", text=text.capitalize(), decision=False))
    if week.week.is_easy:
        notes.append(MarginOut(id="easy", title="Easy week.", text="Half the work, nothing added: now it shows.", decision=False))
    there = minutes_there(athlete)
    if sheet.minutes > there:
        last = sheet.lines[-1].planned.slot
        over = sheet.minutes - there
        text = f"{over:.0f} min over the {there} there are. {last} goes first, never the fast work."
        notes.append(MarginOut(id="hour", title="It does not fit.", text=text, decision=True))
    else:
        text = f"{sheet.minutes:.0f} of {there} min. If short, {sheet.lines[-1].planned.slot} goes first."
        notes.append(MarginOut(id="hour", title="Minutes fit.", text=text, decision=False))
    for edit in sheet.unused_edits:
        text = f"“{edit.text}” was written for {exercise(edit.exercise_id).name}, which is not here now. It is kept."
        notes.append(MarginOut(id=f"e-{edit.pk}", title=f"{edit.slot} has an older line.", text=text, decision=False))
    return notes


def _weight(practice: float, sheet: Sheet | None, rules: Rules) -> DayWeight:
    lines = [
        WeighedLine(
            cost=exercise(line.planned.exercise_id).cost,
            kind=exercise(line.planned.exercise_id).kind,
            sets=len(line.sets),
            is_main=line.planned.is_main,
            volume_kg=sum((s.load_kg or 0) * (s.reps or 0) for s in line.sets),
        )
        for line in (sheet.lines if sheet else ())
    ]
    return weigh_day(practice, lines, rules)


def _week_out(athlete: Athlete, found: AthleteWeek, today: date) -> WeekViewOut:
    practices = practices_of(athlete)
    weights = day_weights(practices)
    by_day = {s.planned.day: s for s in found.sheets}
    days: list[DayOut] = []
    for day in week_days(found.week.start):
        sheet = by_day.get(day)
        here: list[Practice] = [p for p in practices if p.weekday == day.weekday()] if day < found.week.competition_day else []
        weight = _weight(weights[day.weekday()] if here else 0.0, sheet, found.rules)
        days.append(
            DayOut(
                day=day,
                days_to_go=(found.week.competition_day - day).days,
                practices=[DayPracticeOut(hour=p.hour, minutes=p.minutes, hardness=p.hardness) for p in here],
                practice_weight=round(weight.practice, 2),
                session_weight=weight.session,
                band=weight.band,
                sheet=sheet_out(athlete, found, sheet) if sheet else None,
                is_today=day == today,
                is_competition=day == found.week.competition_day,
                hard_sets=weight.hard_sets,
                volume_kg=round(weight.volume_kg),
            )
        )
    before = found.week.start - timedelta(days=7)
    after = found.week.start + timedelta(days=7)
    return WeekViewOut(
        athlete_id=athlete.pk,
        athlete_name=athlete.name,
        start=found.week.start,
        previous=before if found.plan.week_of(before) else None,
        following=after if found.plan.week_of(after) else None,
        phase_name=found.week.phase_name,
        phase=found.week.phase,
        week_of_phase=found.week.week_of_phase,
        weeks_in_phase=found.week.weeks_in_phase,
        is_easy=found.week.is_easy,
        days_to_go=(found.week.competition_day - max(found.week.start, min(today, found.week.end))).days,
        competition=found.week.competition,
        days=days,
        hard_sets=sum(d.hard_sets for d in days),
        volume_kg=sum(d.volume_kg for d in days),
        minutes=round(sum(s.minutes for s in found.sheets)),
        missed=_missed(athlete, found, today),
    )


def _missed(athlete: Athlete, found: AthleteWeek, today: date) -> list[MissedOut]:
    if not found.week.start <= today <= found.week.end:
        return []
    words = FlagWord.objects.filter(athlete=athlete, check_id="missed", lifted_at__isnull=True).values_list("where", flat=True)
    coming = [s.planned.day for s in found.sheets if s.planned.day >= today]
    said: list[MissedOut] = []
    for sheet in found.sheets:
        planned = sheet.planned
        if planned.day >= today or sheet.started is not None or f"{planned.day}:{planned.key}" in words:
            continue
        ways = options_for(
            planned.day,
            today,
            coming,
            found.week.end,
            is_sequence=False,
            is_light_week=found.week.is_light,
            competition_day=found.week.competition_day,
        )
        options = [MissedOptionOut(choice=w.choice, words=w.words, day=w.day, is_proposed=w.is_proposed) for w in ways]
        said.append(MissedOut(key=planned.key, day=planned.day, theme=planned.theme, options=options))
    return said


def athlete_of(athlete_id: int) -> Athlete:
    return get_object_or_404(Athlete.objects.select_related("squad", "kit").prefetch_related("restrictions"), pk=athlete_id)


@router.get("/athletes/{int:athlete_id}/week", response={200: WeekAnswer, **ERRORS})
def read_week(request: HttpRequest, athlete_id: int, start: date | None = None) -> WeekAnswer:
    athlete, today = athlete_of(athlete_id), clock.today()
    found = athlete_week(athlete, start or today, today)
    reason = ""
    if found is None:
        reason = "This week lies outside the season." if start else "No competition ahead yet."
        if start and athlete_week(athlete, today, today) is None:
            reason = "No competition ahead yet."
    return WeekAnswer(
        athlete_id=athlete.pk,
        athlete_name=athlete.name,
        week=_week_out(athlete, found, today) if found else None,
        reason=reason,
    )


@router.get("/athletes/{int:athlete_id}/sessions/{day}/{key}", response={200: SheetOut, **ERRORS})
def read_sheet(request: HttpRequest, athlete_id: int, day: date, key: str) -> SheetOut:
    athlete = athlete_of(athlete_id)
    week, sheet = services.find_sheet(athlete, day, key)
    return sheet_out(athlete, week, sheet)


@router.put("/athletes/{int:athlete_id}/sessions/{day}/{key}/lines/{slot}", response={200: SheetOut, **ERRORS})
def write_line(request: HttpRequest, athlete_id: int, day: date, key: str, slot: str, payload: NewText) -> SheetOut:
    athlete = athlete_of(athlete_id)
    services.write_line(athlete, day, key, slot, payload.text)
    return sheet_out(athlete, *services.find_sheet(athlete, day, key))


@router.put("/athletes/{int:athlete_id}/sessions/{day}/{key}/day", response={200: WeekAnswer, **ERRORS})
def move_session(request: HttpRequest, athlete_id: int, day: date, key: str, payload: NewDay) -> WeekAnswer:
    services.move_session(athlete_of(athlete_id), day, key, payload.day)
    return read_week(request, athlete_id, monday_of(payload.day))


@router.put("/athletes/{int:athlete_id}/sessions/{day}/{key}/merge", response={200: WeekAnswer, **ERRORS})
def merge_session(request: HttpRequest, athlete_id: int, day: date, key: str, payload: NewDay) -> WeekAnswer:
    """Put a missed session's main lift into the session of another day of the week."""
    services.merge_session(athlete_of(athlete_id), day, key, payload.day)
    return read_week(request, athlete_id, monday_of(payload.day))

from __future__ import annotations

from datetime import date

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.athletes.models import Athlete
from jarvok.app.athletes.queries import practices_of
from jarvok.app.problems import Problem
from jarvok.app.schema import Schema
from jarvok.app.seasons import services
from jarvok.app.seasons.models import Competition
from jarvok.app.seasons.queries import current_competition, plan_of
from jarvok.app.shapes import WorkingOut, working_out
from jarvok.app.training.queries import done_load_by_week
from jarvok.core.season.model import PhaseKey
from jarvok.core.season.planner import plan_season
from jarvok.core.week.placement import day_weights

router = Router(tags=["seasons"])
ERRORS = {401: Problem, 403: Problem, 404: Problem, 409: Problem, 422: Problem, 428: Problem}


class PhaseOut(Schema):
    key: str
    name: str
    start: date
    end: date
    weeks: int
    least_weeks: int
    most_weeks: int
    pinned: bool


class WeekOut(Schema):
    index: int
    start: date
    phase: str
    week_of_phase: int
    weeks_in_phase: int
    is_easy: bool
    load: float
    volume: float
    intensity_pct: float
    days_to_go: int
    done_share: float | None


class NoteOut(Schema):
    id: str
    title: str
    text: str
    source: str
    decision: bool
    week: int | None


class ResidualOut(Schema):
    quality: str
    from_day: date
    last_exposure: date
    expires: date
    earliest: date
    latest: date
    covers_competition: bool
    text: str


class SeasonOut(Schema):
    athlete_id: int
    athlete_name: str
    competition_id: int
    name: str
    day: date
    days_to_go: int
    today: date
    start: date
    phases: list[PhaseOut]
    weeks: list[WeekOut]
    notes: list[NoteOut]
    residuals: list[ResidualOut]
    working: WorkingOut
    practice_weights: list[float]
    last_change: str | None


class SeasonAnswer(Schema):
    athlete_id: int
    athlete_name: str
    squad_name: str
    season: SeasonOut | None


class NewCompetition(Schema):
    name: str
    day: date


class MoveCompetition(Schema):
    name: str | None = None
    day: date | None = None


class PhaseLengths(Schema):
    weeks: dict[PhaseKey, int]


def season_out(competition: Competition) -> SeasonOut:
    plan, today, athlete = plan_of(competition), clock.today(), competition.athlete
    done = done_load_by_week(athlete.pk, plan)
    change = competition.changes.filter(undone_at__isnull=True).first()
    return SeasonOut(
        athlete_id=athlete.pk,
        athlete_name=athlete.name,
        competition_id=competition.pk,
        name=competition.name,
        day=competition.day,
        days_to_go=(competition.day - today).days,
        today=today,
        start=plan.start,
        phases=[
            PhaseOut(
                key=p.key,
                name=p.name,
                start=p.start,
                end=p.end,
                weeks=p.weeks,
                least_weeks=LIMITS_WEEKS.get(p.key, (1, 26))[0],
                most_weeks=LIMITS_WEEKS.get(p.key, (1, 26))[1],
                pinned=p.pinned,
            )
            for p in plan.phases
        ],
        weeks=[
            WeekOut(
                index=w.index,
                start=w.start,
                phase=w.phase,
                week_of_phase=w.week_of_phase,
                weeks_in_phase=w.weeks_in_phase,
                is_easy=w.is_easy,
                load=round(w.load, 3),
                volume=w.volume,
                intensity_pct=w.intensity_pct,
                days_to_go=(competition.day - w.start).days,
                done_share=done.get(w.index),
            )
            for w in plan.weeks
        ],
        notes=[NoteOut(**n.__dict__) for n in plan.notes],
        residuals=[
            ResidualOut(
                quality=r.quality,
                from_day=r.spans[0][0],
                last_exposure=r.last_exposure,
                expires=r.expires,
                earliest=date.fromordinal(r.last_exposure.toordinal() + r.holds_days[0]),
                latest=date.fromordinal(r.last_exposure.toordinal() + r.holds_days[1]),
                covers_competition=r.covers_competition,
                text=r.text,
            )
            for r in plan.residuals
        ],
        working=working_out(plan.working),
        practice_weights=list(day_weights(practices_of(athlete))),
        last_change=change.words if change else None,
    )


def _answer(athlete: Athlete) -> SeasonAnswer:
    competition = current_competition(athlete.pk, clock.today())
    return SeasonAnswer(
        athlete_id=athlete.pk,
        athlete_name=athlete.name,
        squad_name=athlete.squad.name,
        season=season_out(competition) if competition else None,
    )


def _competition(competition_id: int) -> Competition:
    return get_object_or_404(Competition.objects.select_related("athlete"), pk=competition_id, withdrawn_at__isnull=True)


@router.get("/athletes/{int:athlete_id}/season", response={200: SeasonAnswer, **ERRORS})
def read_season(request: HttpRequest, athlete_id: int) -> SeasonAnswer:
    return _answer(get_object_or_404(Athlete.objects.select_related("squad", "kit"), pk=athlete_id))


@router.post("/athletes/{int:athlete_id}/competitions/preview", response={200: list[str], **ERRORS})
def preview_competition(request: HttpRequest, athlete_id: int, payload: NewCompetition) -> list[str]:
    """Phase lengths a competition would give, in words, without storing anything."""
    get_object_or_404(Athlete, pk=athlete_id)
    plan = plan_season(clock.today(), payload.day)
    words = [f"{p.name} {p.weeks} {'week' if p.weeks == 1 else 'weeks'}" for p in plan.phases]
    return words + [n.title for n in plan.notes if n.decision]


@router.post("/athletes/{int:athlete_id}/competitions", response={200: SeasonAnswer, **ERRORS})
def add_competition(request: HttpRequest, athlete_id: int, payload: NewCompetition) -> SeasonAnswer:
    athlete = get_object_or_404(Athlete.objects.select_related("squad", "kit"), pk=athlete_id)
    services.add_competition(athlete, payload.name, payload.day)
    return _answer(athlete)


@router.patch("/competitions/{int:competition_id}", response={200: SeasonAnswer, **ERRORS})
def move_competition(request: HttpRequest, competition_id: int, payload: MoveCompetition) -> SeasonAnswer:
    competition = services.move_competition(_competition(competition_id), payload.name, payload.day)
    return _answer(competition.athlete)


@router.put("/competitions/{int:competition_id}/phases", response={200: SeasonAnswer, **ERRORS})
def set_phases(request: HttpRequest, competition_id: int, payload: PhaseLengths) -> SeasonAnswer:
    return _answer(services.set_phases(_competition(competition_id), payload.weeks).athlete)


@router.post("/competitions/{int:competition_id}/undo", response={200: SeasonAnswer, **ERRORS})
def undo(request: HttpRequest, competition_id: int) -> SeasonAnswer:
    return _answer(services.undo(_competition(competition_id)).athlete)


@router.delete("/competitions/{int:competition_id}", response={200: SeasonAnswer, **ERRORS})
def withdraw(request: HttpRequest, competition_id: int) -> SeasonAnswer:
    competition = _competition(competition_id)
    services.withdraw(competition)
    return _answer(competition.athlete)

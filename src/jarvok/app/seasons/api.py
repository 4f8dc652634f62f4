from __future__ import annotations

from datetime import date, timedelta

from django.db import transaction
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.athletes.models import Athlete
from jarvok.app.athletes.queries import FOR_A_WEEK
from jarvok.app.problems import Problem
from jarvok.app.seasons import services
from jarvok.app.seasons.models import Competition, FlagWord
from jarvok.app.seasons.queries import SeasonBook, facts_from, plan_from, snapshot_of
from jarvok.app.seasons.shapes import (
    ArrangementOut,
    BaselineIn,
    ChangeCompetition,
    ChoiceWords,
    EasyIn,
    EventOut,
    FlagIn,
    NewCompetition,
    PhaseLengths,
    PhaseRuleOut,
    RemoveAdded,
    SeasonAnswer,
    SeasonPreviewOut,
    StyleIn,
    TaperOut,
)
from jarvok.app.seasons.view import season_of
from jarvok.app.training.models import LineEdit
from jarvok.core.errors import CoachError
from jarvok.core.season.arrangements import ARRANGEMENTS
from jarvok.core.season.model import RANK_NAMES, SeasonPlan
from jarvok.core.season.taper import Shape, TaperStyle

router = Router(tags=["seasons"])
ERRORS = {401: Problem, 403: Problem, 404: Problem, 409: Problem, 422: Problem, 428: Problem}


def _athlete(athlete_id: int) -> Athlete:
    rows = Athlete.objects.select_related("squad", "kit").prefetch_related(*FOR_A_WEEK)
    return get_object_or_404(rows, pk=athlete_id)


def _competition(competition_id: int) -> Competition:
    return get_object_or_404(Competition.objects.select_related("athlete"), pk=competition_id, withdrawn_at__isnull=True)


def answer(athlete_id: int) -> SeasonAnswer:
    athlete = _athlete(athlete_id)
    return SeasonAnswer(
        athlete_id=athlete.pk,
        athlete_name=athlete.name,
        squad_name=athlete.squad.name,
        group=athlete.group,
        season=season_of(athlete, SeasonBook([athlete], clock.today())),
        arrangements=[ChoiceWords(id=a.key, name=a.name) for a in ARRANGEMENTS],
        ranks=[ChoiceWords(id=r.value, name=name) for r, name in RANK_NAMES.items()],
    )


def typed_events(events: list[EventOut]) -> tuple[services.TypedEvent, ...]:
    return tuple(services.TypedEvent(e.kind, e.name.strip(), e.contest_day, e.load_kg) for e in events)


def typed_taper(raw: TaperOut | None) -> TaperStyle | None:
    if raw is None:
        return None
    if raw.shape not in set(Shape):
        raise CoachError("There is no such shape.", where="shape", accepted=", ".join(Shape))
    return TaperStyle(raw.days, Shape(raw.shape), raw.depth_pct, raw.frequency_pct)


@router.get("/athletes/{int:athlete_id}/season", response={200: SeasonAnswer, **ERRORS})
def read_season(request: HttpRequest, athlete_id: int) -> SeasonAnswer:
    return answer(athlete_id)


def _phases_in_words(plan: SeasonPlan | None) -> list[str]:
    if plan is None:
        return []
    several = len({p.toward for p in plan.phases}) > 1
    return [f"{p.name}{f' → {p.toward}' if several else ''} {p.weeks} {'week' if p.weeks == 1 else 'weeks'}" for p in plan.phases]


@router.post("/athletes/{int:athlete_id}/competitions/preview", response={200: SeasonPreviewOut, **ERRORS})
def preview_competition(
    request: HttpRequest, athlete_id: int, payload: NewCompetition, moves: int | None = None
) -> SeasonPreviewOut:
    """What adding a competition, or moving the one called by `moves`, would do to the phases. Nothing is stored."""
    athlete, today = _athlete(athlete_id), clock.today()
    services.checked(services.TypedCompetition(payload.name, payload.day, payload.rank, payload.last_day))
    book = SeasonBook([athlete], today)
    snapshot = snapshot_of(athlete)
    before = _phases_in_words(book.plan(athlete_id))
    row = next((r for r in snapshot["competitions"] if r["id"] == moves), None)
    if payload.day <= today:
        raise CoachError(
            f"{payload.day:%-d %B %Y} is not ahead of {today:%-d %B %Y}.",
            where="day",
            accepted="A competition from tomorrow on can be planned for.",
        )
    if row is None:
        row = {"id": 0, "planned_from": today.isoformat(), "pinned_weeks": {}, "events": [], "weigh_in": None}
        snapshot["competitions"].append(row)
    last = payload.last_day.isoformat() if payload.last_day else None
    row.update(name=payload.name, day=payload.day.isoformat(), last_day=last, rank=payload.rank)
    plan = plan_from(facts_from(snapshot, book.entries(athlete_id), today, book.rules))
    decisions = [n.title for n in plan.notes if n.decision] if plan else []
    return SeasonPreviewOut(phases=_phases_in_words(plan), decisions=decisions, before=before)


@router.post("/athletes/{int:athlete_id}/competitions", response={200: SeasonAnswer, **ERRORS})
def add_competition(request: HttpRequest, athlete_id: int, payload: NewCompetition) -> SeasonAnswer:
    typed = services.TypedCompetition(
        payload.name, payload.day, payload.rank, payload.last_day, payload.weigh_in, typed_events(payload.events)
    )
    services.add_for(_athlete(athlete_id), payload.scope, typed)
    return answer(athlete_id)


@router.patch("/competitions/{int:competition_id}", response={200: SeasonAnswer, **ERRORS})
def change_competition(request: HttpRequest, competition_id: int, payload: ChangeCompetition) -> SeasonAnswer:
    """Change what is sent, for the athlete or for everybody in the scope who has it; what is not sent stays.

    A moved competition keeps its length and its weigh-in's distance.
    """
    competition = _competition(competition_id)
    with transaction.atomic():
        for each in services.everywhere(competition, payload.scope):
            services.change_competition(each, _changed(each, payload))
    return answer(competition.athlete_id)


def _changed(c: Competition, payload: ChangeCompetition) -> services.TypedCompetition:
    sent = payload.dict(exclude_unset=True)
    day = sent.get("day") or c.day
    return services.TypedCompetition(
        name=sent.get("name") or c.name,
        day=day,
        rank=sent.get("rank") or c.rank,
        last_day=_moved(sent, "last_day", c.last_day, day - c.day),
        weigh_in=_moved(sent, "weigh_in", c.weigh_in, day - c.day),
        events=typed_events(payload.events) if payload.events is not None else tuple(services.TypedEvent(**e) for e in c.events),
    )


def _moved(sent: dict[str, date | None], key: str, stood: date | None, shift: timedelta) -> date | None:
    if key in sent:
        return sent[key]
    return stood + shift if stood is not None else None


@router.delete("/competitions/{int:competition_id}", response={200: SeasonAnswer, **ERRORS})
def withdraw(request: HttpRequest, competition_id: int, scope: str = "athlete") -> SeasonAnswer:
    competition = _competition(competition_id)
    with transaction.atomic():
        for each in services.everywhere(competition, scope):
            services.withdraw(each)
    return answer(competition.athlete_id)


@router.put("/competitions/{int:competition_id}/phases", response={200: SeasonAnswer, **ERRORS})
def set_phases(request: HttpRequest, competition_id: int, payload: PhaseLengths) -> SeasonAnswer:
    competition = _competition(competition_id)
    services.set_phases(competition, payload.weeks)
    return answer(competition.athlete_id)


@router.put("/athletes/{int:athlete_id}/season/style", response={200: SeasonAnswer, **ERRORS})
def set_style(request: HttpRequest, athlete_id: int, payload: StyleIn) -> SeasonAnswer:
    """Arrange one athlete's season, or that of the whole group or squad."""
    style = services.TypedStyle(payload.arrangement, payload.loading_weeks, typed_taper(payload.taper))
    services.set_style(services.in_scope(_athlete(athlete_id), payload.scope), style)
    return answer(athlete_id)


@router.put("/athletes/{int:athlete_id}/season/easy", response={200: SeasonAnswer, **ERRORS})
def set_easy(request: HttpRequest, athlete_id: int, payload: EasyIn) -> SeasonAnswer:
    services.set_easy(_athlete(athlete_id), payload.monday, payload.easy, payload.to)
    return answer(athlete_id)


@router.post("/athletes/{int:athlete_id}/season/undo", response={200: SeasonAnswer, **ERRORS})
def undo(request: HttpRequest, athlete_id: int) -> SeasonAnswer:
    services.undo(_athlete(athlete_id))
    return answer(athlete_id)


@router.post("/athletes/{int:athlete_id}/season/original", response={200: SeasonAnswer, **ERRORS})
def keep_or_restore(request: HttpRequest, athlete_id: int, payload: BaselineIn) -> SeasonAnswer:
    services.keep_or_restore(_athlete(athlete_id), payload.keep)
    return answer(athlete_id)


@router.post("/athletes/{int:athlete_id}/season/flags", response={200: SeasonAnswer, **ERRORS})
def keep_flag(request: HttpRequest, athlete_id: int, payload: FlagIn) -> SeasonAnswer:
    services.keep_flag(_athlete(athlete_id), payload.check_id, payload.where, payload.reason)
    return answer(athlete_id)


@router.delete("/season-flags/{int:word_id}", response={200: SeasonAnswer, **ERRORS})
def lift_flag(request: HttpRequest, word_id: int) -> SeasonAnswer:
    word = get_object_or_404(FlagWord, pk=word_id, lifted_at__isnull=True)
    services.lift_flag(word)
    return answer(word.athlete_id)


@router.post("/athletes/{int:athlete_id}/season/remove-added", response={200: SeasonAnswer, **ERRORS})
def remove_added(request: HttpRequest, athlete_id: int, payload: RemoveAdded) -> SeasonAnswer:
    """Take lines typed into a light week back to the proposal; what was typed stays in the history."""
    athlete = _athlete(athlete_id)
    with transaction.atomic():
        days = (payload.monday, payload.monday + timedelta(days=6))
        for edit in list(LineEdit.objects.filter(athlete=athlete, day__range=days, undone_at__isnull=True).exclude(text="")):
            LineEdit.objects.create(
                athlete=athlete,
                day=edit.day,
                session_key=edit.session_key,
                slot=edit.slot,
                exercise_id=edit.exercise_id,
                text="",
            )
    return answer(athlete_id)


@router.get("/arrangements", response={200: list[ArrangementOut], **ERRORS})
def read_arrangements(request: HttpRequest) -> list[ArrangementOut]:
    """Every arrangement over time with what it is good and bad for."""
    return [
        ArrangementOut(
            key=a.key,
            name=a.name,
            good_for=a.good_for,
            for_whom=a.for_whom,
            weakness=a.weakness,
            fatigue=a.fatigue,
            how=a.how,
            source=a.source.text,
            loading_weeks=a.loading_weeks,
            phases=[
                PhaseRuleOut(
                    name=r.name,
                    least_weeks=r.least_weeks,
                    most_weeks=r.most_weeks,
                    builds=list(r.builds),
                    keeps=list(r.keeps),
                    volume=r.volume,
                    low_pct=r.intensity_pct[0],
                    high_pct=r.intensity_pct[1],
                    exercises=r.exercises,
                    accessories=r.accessories,
                )
                for r in a.phases_for(30)
                if r.id != "general"
            ],
        )
        for a in ARRANGEMENTS
    ]

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.api.kept_page import kept_page
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.seasons.season_page import season_of
from jarvok.app.api.seasons.shapes import (
    ArrangementOut,
    BaselineIn,
    BlockIn,
    ChangeCompetition,
    ChoiceWords,
    EasyIn,
    EventOut,
    FlagIn,
    HandWeekIn,
    NewCompetition,
    PhaseLengths,
    PhaseRuleOut,
    ScopeIn,
    SeasonAnswer,
    SeasonFixIn,
    SeasonPreviewOut,
    SeasonStepOut,
    StyleIn,
    TaperOut,
)
from jarvok.app.api.who import who_of
from jarvok.app.athletes.reading import athlete_of
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.seasons.models import Change, Entry, FlagWord
from jarvok.app.seasons import typed_season as services
from jarvok.app.seasons.actions import (
    add_block,
    add_competition_for,
    ask_flag_again,
    change_competitions,
    fix_season,
    keep_or_restore_season,
    rehearse_competition,
    set_easy_week,
    set_season_style,
    set_week_by_hand,
    undo_season,
    withdraw_competitions,
)
from jarvok.app.seasons.actions import keep_flag as keep
from jarvok.app.seasons.actions import set_phases as phases
from jarvok.app.seasons.calendar_rows import Scope
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.seasons.steps import last_and_next, people_of
from jarvok.app.training.kept_athlete import changer_of, reader_of, replanned
from jarvok.app.training.planned_weeks import season_book_of
from jarvok.core.errors import CoachError
from jarvok.core.quantities.mass import in_kg
from jarvok.core.season.arrangements import ARRANGEMENTS
from jarvok.core.season.blocks import BLOCK_WAYS, USUAL_WEEKS
from jarvok.core.season.exposures import STANDING_NAMES, Event, Standing, typed_divisions
from jarvok.core.season.model import RANK_NAMES, RANKS, SeasonPlan, weeks_words
from jarvok.core.season.taper import Shape, TaperStyle

router = Router(tags=["seasons"])


def _competition(competition_id: int) -> Entry:
    """What an athlete has entered: pages name a competition by it."""
    return get_object_or_404(services.standing().select_related("athlete__squad"), pk=competition_id)


def answer(athlete_id: int, read: Athlete | None = None) -> SeasonAnswer:
    """The season's page of an athlete, read anew unless it has been read since it changed."""
    athlete = read or athlete_of(athlete_id)
    last, undone = last_and_next(athlete)
    return SeasonAnswer(
        athlete_id=athlete.pk,
        athlete_name=athlete.name,
        squad_id=athlete.squad_id,
        squad_name=athlete.squad.name,
        group=athlete.group,
        season=season_of(athlete, season_book_of(athlete, clock.today())),
        arrangements=[ChoiceWords(id=a.key, name=a.name) for a in ARRANGEMENTS],
        ranks=[ChoiceWords(id=r.value, name=RANK_NAMES[r]) for r in RANKS],
        undo=step_out(last),
        redo=step_out(undone),
        block_ways=[ChoiceWords(id=w.value, name=words) for w, words in BLOCK_WAYS.items()],
        usual_block_weeks=USUAL_WEEKS,
    )


def step_out(step: Change | None) -> SeasonStepOut | None:
    """A step of undo or redo as the page shows it."""
    if step is None:
        return None
    person = step.act.person if step.act is not None else None
    return SeasonStepOut(words=step.words, by=person.name if person is not None else "", people=people_of(step))


def typed_events(events: list[EventOut]) -> tuple[Event, ...]:
    return tuple(
        Event(
            e.kind,
            e.name.strip(),
            e.contest_day,
            in_kg(e.load, e.unit) if e.load is not None else e.load_kg,
            e.exercise_id,
            e.reps,
            e.distance_m,
            e.time_s,
            _standing(e.standing),
            typed_divisions(e.divisions, e.unit),
        )
        for e in events
    )


def _standing(raw: str) -> Standing:
    if raw not in set(Standing):
        raise CoachError("There is no such standing.", where="events", accepted=", ".join(STANDING_NAMES.values()))
    return Standing(raw)


def typed_taper(raw: TaperOut | None) -> TaperStyle | None:
    if raw is None:
        return None
    if raw.shape not in set(Shape):
        raise CoachError("There is no such shape.", where="shape", accepted=", ".join(Shape))
    return TaperStyle(raw.days, Shape(raw.shape), raw.depth_pct, raw.frequency_pct)


@router.get("/athletes/{int:athlete_id}/season", response={200: SeasonAnswer, **ERRORS})
def read_season(request: HttpRequest, athlete_id: int) -> HttpResponse:
    return kept_page(request, athlete_id, "season", lambda: answer(athlete_id, reader_of(athlete_id)))


def _phases_in_words(plan: SeasonPlan | None) -> list[str]:
    if plan is None:
        return []
    several = len({p.toward for p in plan.phases}) > 1
    return [f"{p.name}{f' → {p.toward}' if several else ''} {weeks_words(p.weeks)}" for p in plan.phases]


@router.post("/athletes/{int:athlete_id}/competitions/preview", response={200: SeasonPreviewOut, **ERRORS})
def preview_competition(
    request: HttpRequest, athlete_id: int, payload: NewCompetition, moves: int | None = None
) -> SeasonPreviewOut:
    """What adding a competition, or moving the one called by `moves`, would do to the phases. Nothing is stored."""
    athlete = athlete_of(athlete_id)
    before = _phases_in_words(SeasonBook([athlete], clock.today()).plan(athlete_id))
    typed = services.TypedCompetition(payload.name, payload.day, payload.rank, payload.last_day)
    plan = rehearse_competition.run(who_of(request), athlete, typed, moves)
    decisions = [n.title for n in plan.notes if n.decision] if plan else []
    return SeasonPreviewOut(phases=_phases_in_words(plan), decisions=decisions, before=before)


@router.post("/athletes/{int:athlete_id}/competitions", response={200: SeasonAnswer, **ERRORS})
def add_competition(request: HttpRequest, athlete_id: int, payload: NewCompetition) -> SeasonAnswer:
    typed = services.TypedCompetition(
        payload.name, payload.day, payload.rank, payload.last_day, payload.weigh_in, typed_events(payload.events)
    )
    athlete = athlete_of(athlete_id)
    add_competition_for.run(who_of(request), Scope.of(athlete, payload.scope), typed, athlete)
    return answer(athlete_id)


@router.patch("/competitions/{int:competition_id}", response={200: SeasonAnswer, **ERRORS})
def change_competition(request: HttpRequest, competition_id: int, payload: ChangeCompetition) -> SeasonAnswer:
    """Change what is sent, for the athlete or for everybody in the scope who has it; what is not sent stays.

    A moved competition keeps its length and its weigh-in's distance.
    """
    competition = _competition(competition_id)
    sent = payload.dict(exclude_unset=True, exclude={"scope", "events"})
    events = typed_events(payload.events) if payload.events is not None else None
    change_competitions.run(who_of(request), competition, payload.scope, sent, events)
    return answer(competition.athlete_id)


@router.delete("/competitions/{int:competition_id}", response={200: SeasonAnswer, **ERRORS})
def withdraw(request: HttpRequest, competition_id: int, scope: str = "athlete") -> SeasonAnswer:
    competition = _competition(competition_id)
    withdraw_competitions.run(who_of(request), competition, scope)
    return answer(competition.athlete_id)


@router.put("/competitions/{int:competition_id}/phases", response={200: SeasonAnswer, **ERRORS})
def set_phases(request: HttpRequest, competition_id: int, payload: PhaseLengths) -> SeasonAnswer:
    competition = _competition(competition_id)
    competition.athlete = athlete = changer_of(competition.athlete_id)
    phases.run(who_of(request), competition, payload.weeks)
    return answer(athlete.pk, replanned(athlete))


@router.put("/athletes/{int:athlete_id}/season/style", response={200: SeasonAnswer, **ERRORS})
def set_style(request: HttpRequest, athlete_id: int, payload: StyleIn) -> SeasonAnswer:
    """Arrange one athlete's season, or that of the whole group or squad."""
    style = services.TypedStyle(payload.arrangement, payload.loading_weeks, typed_taper(payload.taper))
    set_season_style.run(who_of(request), services.in_scope(athlete_of(athlete_id), payload.scope), style)
    return answer(athlete_id)


@router.put("/athletes/{int:athlete_id}/season/easy", response={200: SeasonAnswer, **ERRORS})
def set_easy(request: HttpRequest, athlete_id: int, payload: EasyIn) -> SeasonAnswer:
    athlete = changer_of(athlete_id)
    set_easy_week.run(who_of(request), athlete, payload.monday, payload.easy, payload.to)
    return answer(athlete_id, replanned(athlete))


@router.post("/athletes/{int:athlete_id}/blocks", response={200: SeasonAnswer, **ERRORS})
def add_a_block(request: HttpRequest, athlete_id: int, payload: BlockIn) -> SeasonAnswer:
    """Add a block of weeks with no competition at its end."""
    add_block.run(
        who_of(request),
        athlete_of(athlete_id),
        payload.name,
        payload.starts,
        payload.weeks,
        payload.way,
        has_test_week=payload.has_test_week,
        scope=payload.scope,
    )
    return answer(athlete_id)


@router.put("/athletes/{int:athlete_id}/season/week", response={200: SeasonAnswer, **ERRORS})
def set_week(request: HttpRequest, athlete_id: int, payload: HandWeekIn) -> SeasonAnswer:
    """Set one week's volume and top by hand; with neither it goes back to the plan."""
    athlete = changer_of(athlete_id)
    set_week_by_hand.run(who_of(request), athlete, payload.monday, payload.volume_pct, payload.top_pct)
    return answer(athlete_id, replanned(athlete))


@router.post("/athletes/{int:athlete_id}/season/undo", response={200: SeasonAnswer, **ERRORS})
def undo(request: HttpRequest, athlete_id: int, payload: ScopeIn | None = None) -> SeasonAnswer:
    """Take the newest change back, for this athlete or for all it was made for."""
    undo_season.run(who_of(request), athlete_of(athlete_id), payload.scope if payload else "athlete")
    return answer(athlete_id)


@router.post("/athletes/{int:athlete_id}/season/redo", response={200: SeasonAnswer, **ERRORS})
def redo(request: HttpRequest, athlete_id: int, payload: ScopeIn | None = None) -> SeasonAnswer:
    """Bring again what was taken back, for this athlete or for all it was made for."""
    undo_season.again(who_of(request), athlete_of(athlete_id), payload.scope if payload else "athlete")
    return answer(athlete_id)


@router.post("/athletes/{int:athlete_id}/season/original", response={200: SeasonAnswer, **ERRORS})
def keep_or_restore(request: HttpRequest, athlete_id: int, payload: BaselineIn) -> SeasonAnswer:
    keep_or_restore_season.run(who_of(request), athlete_of(athlete_id), payload.keep)
    return answer(athlete_id)


@router.post("/athletes/{int:athlete_id}/season/flags", response={200: SeasonAnswer, **ERRORS})
def keep_flag(request: HttpRequest, athlete_id: int, payload: FlagIn) -> SeasonAnswer:
    keep.run(who_of(request), athlete_of(athlete_id), payload.check_id, payload.where, payload.reason)
    return answer(athlete_id)


@router.post("/athletes/{int:athlete_id}/season/fix", response={200: SeasonAnswer, **ERRORS})
def fix(request: HttpRequest, athlete_id: int, payload: SeasonFixIn) -> SeasonAnswer:
    """Do what a flag proposes, in one step."""
    fix_season.run(who_of(request), athlete_of(athlete_id), payload.kind, payload.values)
    return answer(athlete_id)


@router.delete("/season-flags/{int:word_id}", response={200: SeasonAnswer, **ERRORS})
def lift_flag(request: HttpRequest, word_id: int) -> SeasonAnswer:
    word = get_object_or_404(FlagWord, pk=word_id, lifted_at__isnull=True)
    ask_flag_again.run(who_of(request), word)
    return answer(word.athlete_id)


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

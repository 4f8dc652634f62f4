"""The season of a squad on one page: its competitions once, its variants, and who departs from them."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Sequence
from datetime import date

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.api.kept_page import kept_squad_page
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.seasons.seasons import step_out
from jarvok.app.api.seasons.shapes import ChangeCompetition, ChoiceWords, NewCompetition, ScopeIn, SeasonStepOut
from jarvok.app.api.who import who_of
from jarvok.app.athletes.reading import read_for_a_week
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.facts.seasons.models import Change, Entry
from jarvok.app.schema import Schema
from jarvok.app.seasons.actions import add_competition_for, change_competitions, share_competition, withdraw_competitions
from jarvok.app.seasons.calendar_rows import Scope
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.seasons.steps import steps_of
from jarvok.app.seasons.typed_season import TypedCompetition, of_nobody, standing
from jarvok.app.training.planned_weeks import week_style_of
from jarvok.core.quantities.days import said_day
from jarvok.core.season.arrangements import arrangement
from jarvok.core.season.model import RANK_NAMES, RANKS, Rank, SeasonPlan, monday_of

router = Router(tags=["squad season"])


class SquadCompetitionOut(Schema):
    id: int  # of one who has it: what is changed for the squad is changed through it; of nobody yet: its own
    is_of_nobody: bool = False
    name: str
    day: date
    last_day: date | None
    rank: str
    rank_name: str
    days_to_go: int
    holders: int
    missing: list[str]
    departures: list[str]


class VariantPhaseOut(Schema):
    key: str
    name: str
    start: date
    end: date


class VariantOut(Schema):
    athlete_id: int  # of one of them
    names: list[str]
    groups: list[str]
    season_model: str
    week_model: str
    phases: list[VariantPhaseOut]


class SquadStepOut(Schema):
    athlete_id: int
    step: SeasonStepOut


class SquadSeasonOut(Schema):
    squad_id: int
    squad_name: str
    today: date
    start: date
    end: date
    athletes: int
    lead_id: int | None  # one of the squad, through whom the squad is given something
    competitions: list[SquadCompetitionOut]
    variants: list[VariantOut]
    without: list[str]
    ranks: list[ChoiceWords]
    undo: SquadStepOut | None
    redo: SquadStepOut | None


@router.get("/squads/{int:squad_id}/season", response={200: SquadSeasonOut, **ERRORS})
def read_squad_season(request: HttpRequest, squad_id: int) -> HttpResponse:
    return kept_squad_page(request, squad_id, "season", lambda: _season(squad_id))


def _season(squad_id: int) -> SquadSeasonOut:
    squad = get_object_or_404(Squad, pk=squad_id)
    people = read_for_a_week(Athlete.here.filter(squad=squad).order_by("name"))
    book = SeasonBook(people, clock.today())
    plans = {a.pk: book.plan(a.pk) for a in people}
    last, undone = steps_of(people)
    shown = [p for p in plans.values() if p is not None]
    return SquadSeasonOut(
        squad_id=squad.pk,
        squad_name=squad.name,
        today=book.today,
        start=min([p.start for p in shown], default=monday_of(book.today)),
        end=max([p.weeks[-1].end for p in shown], default=book.today),
        athletes=len(people),
        lead_id=people[0].pk if people else None,
        competitions=sorted([*_competitions(people, book), *_of_nobody(squad, people)], key=lambda c: (c.day, c.name)),
        variants=_variants(people, plans, book),
        without=[a.name for a in people if plans[a.pk] is None],
        ranks=[ChoiceWords(id=r.value, name=RANK_NAMES[r]) for r in RANKS],
        undo=_newest(last),
        redo=_newest(undone),
    )


def _competitions(people: Sequence[Athlete], book: SeasonBook) -> list[SquadCompetitionOut]:
    """Each competition once: the day and rank most have, with those who have another day or rank, or none."""
    named: dict[str, list[tuple[Athlete, Entry]]] = defaultdict(list)
    for athlete in people:
        for c in book.competitions(athlete.pk):
            if c.day >= book.today:
                named[c.name].append((athlete, c))
    found: list[SquadCompetitionOut] = []
    for name, rows in named.items():
        (day, rank), _ = Counter((c.day, c.rank) for _, c in rows).most_common(1)[0]
        alike = [(a, c) for a, c in rows if (c.day, c.rank) == (day, rank)]
        lead = alike[0][1]
        has = {a.pk for a, _ in rows}
        other = [f"{a.name}: {said_day(c.day)}, {RANK_NAMES[Rank(c.rank)]}" for a, c in rows if (c.day, c.rank) != (day, rank)]
        found.append(
            SquadCompetitionOut(
                id=lead.pk,
                name=name,
                day=day,
                last_day=lead.last_day,
                rank=rank,
                rank_name=RANK_NAMES[Rank(rank)],
                days_to_go=(day - book.today).days,
                holders=len(rows),
                missing=[a.name for a in people if a.pk not in has],
                departures=other,
            )
        )
    return found


def _of_nobody(squad: Squad, people: Sequence[Athlete]) -> list[SquadCompetitionOut]:
    """Competitions of the squad that wait for somebody to take part."""
    return [
        SquadCompetitionOut(
            id=c.pk,
            is_of_nobody=True,
            name=c.name,
            day=c.day,
            last_day=c.last_day,
            rank=c.rank,
            rank_name=RANK_NAMES[Rank(c.rank)],
            days_to_go=(c.day - clock.today()).days,
            holders=0,
            missing=[a.name for a in people],
            departures=[],
        )
        for c in of_nobody(squad).filter(day__gte=clock.today())
    ]


def _variants(people: Sequence[Athlete], plans: dict[int, SeasonPlan | None], book: SeasonBook) -> list[VariantOut]:
    """Those whose phases, season model and week model are alike stand together, the most first."""
    alike: dict[tuple[object, ...], list[Athlete]] = defaultdict(list)
    for athlete in people:
        plan = plans[athlete.pk]
        if plan is not None:
            style = week_style_of(athlete, monday_of(book.today))
            phases = tuple((p.key, p.name, p.first_day, p.end) for p in plan.phases)
            alike[plan.arrangement, style.arrangement.name, style.days, phases].append(athlete)
    found: list[VariantOut] = []
    for members in sorted(alike.values(), key=lambda rows: (-len(rows), rows[0].name)):
        plan = plans[members[0].pk]
        if plan is None:
            continue
        style = week_style_of(members[0], monday_of(book.today))
        found.append(
            VariantOut(
                athlete_id=members[0].pk,
                names=[a.name for a in members],
                groups=sorted({a.group for a in members if a.group}),
                season_model=arrangement(plan.arrangement).name,
                week_model=f"{style.arrangement.name}, {style.days} {'session' if style.days == 1 else 'sessions'}",
                phases=[VariantPhaseOut(key=p.key, name=p.name, start=p.first_day, end=p.end) for p in plan.phases],
            )
        )
    return found


def _newest(steps: Sequence[Change]) -> SquadStepOut | None:
    """The newest step of anybody in the squad; of one made for several, through any of them."""
    newest = max(steps, key=lambda c: (c.act_id or 0, -c.pk), default=None)
    step = step_out(newest)
    if newest is None or newest.athlete is None or step is None:
        return None
    if step.people == 1:  # on the page of a squad it has to say whose
        step.words = f"{newest.athlete.name}: {step.words}"
    return SquadStepOut(athlete_id=newest.athlete.pk, step=step)


@router.post("/competitions/{int:competition_id}/share", response={200: SquadSeasonOut, **ERRORS})
def share(request: HttpRequest, competition_id: int, payload: ScopeIn) -> SquadSeasonOut:
    """Give a competition to everybody of the group or squad who does not have it."""
    entry = get_object_or_404(standing().select_related("athlete__squad"), pk=competition_id)
    share_competition.run(who_of(request), entry, payload.scope)
    return _season(entry.athlete.squad_id)


@router.post("/squads/{int:squad_id}/competitions", response={200: SquadSeasonOut, **ERRORS})
def add_for_squad(request: HttpRequest, squad_id: int, payload: NewCompetition) -> SquadSeasonOut:
    """Add a competition for the squad: who is in it takes part, and who comes later."""
    squad = get_object_or_404(Squad, pk=squad_id)
    typed = TypedCompetition(payload.name, payload.day, payload.rank, payload.last_day, payload.weigh_in)
    add_competition_for.run(who_of(request), Scope(None, squad), typed)
    return _season(squad_id)


WAITING = "/squads/{int:squad_id}/competitions/{int:competition_id}"


@router.patch(WAITING, response={200: SquadSeasonOut, **ERRORS})
def change_waiting(request: HttpRequest, squad_id: int, competition_id: int, payload: ChangeCompetition) -> SquadSeasonOut:
    """Change a competition of the squad in which nobody takes part yet."""
    competition = get_object_or_404(of_nobody(get_object_or_404(Squad, pk=squad_id)), pk=competition_id)
    sent = payload.dict(exclude_unset=True, exclude={"scope", "events", "division"})
    change_competitions.of_nobody(who_of(request), competition, sent)
    return _season(squad_id)


@router.delete(WAITING, response={200: SquadSeasonOut, **ERRORS})
def withdraw_waiting(request: HttpRequest, squad_id: int, competition_id: int) -> SquadSeasonOut:
    """Take out a competition of the squad in which nobody takes part yet."""
    competition = get_object_or_404(of_nobody(get_object_or_404(Squad, pk=squad_id)), pk=competition_id)
    withdraw_competitions.of_nobody(who_of(request), competition)
    return _season(squad_id)


@router.post(f"{WAITING}/share", response={200: SquadSeasonOut, **ERRORS})
def share_waiting(request: HttpRequest, squad_id: int, competition_id: int) -> SquadSeasonOut:
    """Let everybody of the squad take part in a competition that nobody has yet."""
    competition = get_object_or_404(of_nobody(get_object_or_404(Squad, pk=squad_id)), pk=competition_id)
    share_competition.to_all(who_of(request), competition)
    return _season(squad_id)

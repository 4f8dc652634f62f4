"""A season as it is typed, and a change of it kept with its whole before and after."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, field, replace
from datetime import date, timedelta
from typing import Any

from jarvok.app import clock
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.seasons.models import Change, Competition, SeasonStyle
from jarvok.app.problems import Conflict
from jarvok.app.seasons.season_book import SeasonBook, snapshot_of, taper_of
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercises
from jarvok.core.quantities.mass import check_load_kg
from jarvok.core.season.exposures import Event, event_kinds
from jarvok.core.season.model import RANK_NAMES, RANKS, Rank
from jarvok.core.season.taper import TaperStyle

MOST_EVENTS = 12
MOST_DAYS = 14
MOST_DIVISIONS, MOST_DIVISION = 8, 40


@dataclass(frozen=True)
class TypedCompetition:
    """A competition as typed."""

    name: str
    day: date
    rank: str = Rank.MAIN
    last_day: date | None = None
    weigh_in: date | None = None
    events: tuple[Event, ...] = field(default=())
    uid: str = ""
    division: str = ""
    sequence: int | None = None  # of an imported calendar; by hand it is one more


@contextmanager
def changed(athlete: Athlete, words: list[str]) -> Iterator[None]:
    """Keep a change with the season's facts before and after; the plan must build, or everything stays as it was."""
    before = snapshot_of(athlete)
    yield
    SeasonBook([athlete], clock.today()).checked_plan(athlete.pk)
    after = snapshot_of(athlete)
    if after == before:
        return
    Change.objects.create(athlete=athlete, words="; ".join(words)[:200], before=before, after=after)
    style = style_of(athlete)
    if style.baseline is None and after["competitions"]:
        style.baseline = before if before["competitions"] else after
        style.save()


def style_of(athlete: Athlete) -> SeasonStyle:
    return SeasonStyle.objects.get_or_create(athlete=athlete)[0]


def checked(typed: TypedCompetition) -> TypedCompetition:
    """A competition that can be; raises `CoachError` for one that cannot."""
    name = typed.name.strip()
    if not 1 <= len(name) <= 80:
        raise CoachError("A competition needs a name.", where="name", accepted="1 to 80 characters are accepted.")
    if typed.rank not in RANKS:
        raise CoachError("There is no such rank.", where="rank", accepted=", ".join(RANK_NAMES[r] for r in RANKS))
    if typed.last_day is not None and not 0 <= (typed.last_day - typed.day).days < MOST_DAYS:
        raise CoachError("It ends before it begins, or lasts too long.", where="last_day", accepted=f"Up to {MOST_DAYS} days.")
    if typed.weigh_in is not None and not -2 <= (typed.day - typed.weigh_in).days <= 7:
        raise CoachError("The weigh-in lies far from the competition.", where="weigh_in", accepted="The week before its day.")
    if len(typed.events) > MOST_EVENTS:
        raise CoachError("That many events cannot be staggered.", where="events", accepted=f"Up to {MOST_EVENTS}.")
    for event in typed.events:
        if event.kind not in event_kinds():
            known = ", ".join(k.name for k in event_kinds().values())
            raise CoachError("There is no such kind of event.", where="events", accepted=known)
        for load_kg in (event.load_kg, *(kg for _, kg in event.divisions)):
            if load_kg is not None:
                check_load_kg(load_kg, "events")
        _check_amounts(event)
        if not 0 <= event.contest_day < MOST_DAYS or len(event.name) > 60:
            raise CoachError(
                "That event cannot be.", where="events", accepted="A day of the contest, and a name of 60 characters."
            )
    if len(typed.division) > MOST_DIVISION:
        raise CoachError("That name of a division is too long.", where="division", accepted=f"Up to {MOST_DIVISION} characters.")
    return replace(typed, name=name, division=typed.division.strip())


AMOUNTS = (("reps", 1, 200, "repetitions"), ("distance_m", 1, 2000, "m"), ("time_s", 3, 3600, "s"))


def _check_amounts(event: Event) -> None:
    if event.exercise_id and event.exercise_id not in exercises():
        raise CoachError("That exercise is not in the library.", where="events", accepted="One of the library, or none.")
    for name, low, high, unit in AMOUNTS:
        value = getattr(event, name)
        if value is not None and not low <= value <= high:
            raise CoachError(f"An event cannot ask for {value} {unit}.", where="events", accepted=f"{low} to {high} {unit}.")
    names = [name for name, _ in event.divisions]
    if len(names) > MOST_DIVISIONS or len(set(names)) < len(names) or any(not 1 <= len(n) <= MOST_DIVISION for n in names):
        raise CoachError(
            "Each division needs a name of its own.", where="events", accepted=f"Up to {MOST_DIVISIONS} divisions of an event."
        )


def write(competition: Competition, typed: TypedCompetition) -> None:
    competition.name, competition.day, competition.rank = typed.name, typed.day, typed.rank
    competition.last_day = typed.last_day if typed.last_day != typed.day else None
    competition.weigh_in = typed.weigh_in
    competition.events = [e.to_raw() for e in typed.events]
    competition.division = typed.division
    competition.uid = typed.uid or competition.uid
    by_hand = competition.sequence + (0 if competition.pk is None else 1)
    competition.sequence = by_hand if typed.sequence is None else typed.sequence
    competition.save()


def not_past(day: date) -> None:
    if day <= clock.today():
        raise CoachError(
            f"{day:%-d %B %Y} is not ahead of {clock.today():%-d %B %Y}.",
            where="day",
            accepted="A competition from tomorrow on can be planned for.",
        )


def same_name(athlete: Athlete, name: str, day: date) -> Competition | None:
    """The athlete's competition of that name within a year of a day: phases and flags name it."""
    near = (day - timedelta(days=365), day + timedelta(days=365))
    return Competition.objects.filter(athlete=athlete, withdrawn_at__isnull=True, name=name, day__range=near).first()


def own_name(athlete: Athlete, typed: TypedCompetition, but: Competition | None = None) -> None:
    other = same_name(athlete, typed.name, typed.day)
    if other is not None and (but is None or other.pk != but.pk):
        raise Conflict(f"{other.name} on {other.day:%-d %B %Y} is there already. Move that one, or give this one another name.")


def in_scope(athlete: Athlete, scope: str) -> list[Athlete]:
    """The athlete, all of the athlete's group, or all of the squad."""
    rows = Athlete.objects.filter(squad_id=athlete.squad_id)
    if scope == "athlete":
        return [athlete]
    if scope == "group" and athlete.group:
        return list(rows.filter(group=athlete.group))
    if scope == "squad":
        return list(rows)
    raise CoachError("It is for the athlete, the group or the squad.", where="scope", accepted="athlete, group or squad")


def everywhere(competition: Competition, scope: str) -> list[Competition]:
    """The same competition, by name and day, of everybody in the scope; the one asked about first."""
    people = [a.pk for a in in_scope(competition.athlete, scope) if a.pk != competition.athlete_id]
    rows = Competition.objects.select_related("athlete").filter(athlete_id__in=people, withdrawn_at__isnull=True)
    return [competition, *rows.filter(name=competition.name, day=competition.day)]


@dataclass(frozen=True)
class TypedStyle:
    """How a season is to be arranged: None in `loading_weeks` and `taper` is the arrangement's own."""

    arrangement: str
    loading_weeks: int | None
    taper: TaperStyle | None


def restore(athlete: Athlete, facts: dict[str, Any]) -> None:
    known = {row["id"]: row for row in facts["competitions"]}
    for competition in Competition.objects.filter(athlete=athlete):
        row = known.get(competition.pk)
        if row is None:
            if competition.withdrawn_at is None:
                competition.withdrawn_at = clock.now()
                competition.save()
            continue
        competition.name, competition.rank, competition.events = row["name"], row["rank"], row["events"]
        competition.division, competition.block = row.get("division", ""), row.get("block")
        for key in ("day", "last_day", "weigh_in", "planned_from"):
            setattr(competition, key, date.fromisoformat(row[key]) if row[key] else None)
        competition.pinned_weeks, competition.withdrawn_at = row["pinned_weeks"], None
        competition.sequence += 1
        competition.save()
    style = style_of(athlete)
    style.arrangement, style.loading_weeks = facts["style"]["arrangement"], facts["style"]["loading_weeks"]
    style.taper, style.easy_weeks = facts["style"]["taper"], facts["style"]["easy_weeks"]
    style.weeks_by_hand = facts["style"].get("weeks_by_hand", {})
    taper_of(style.taper)
    style.save()


def typed_over(c: Competition, sent: Mapping[str, Any], events: tuple[Event, ...] | None) -> TypedCompetition:
    """A competition with what is sent in place of what stands; a moved one keeps its length and its weigh-in's distance."""
    day = sent.get("day") or c.day

    def moved(key: str, stood: date | None) -> date | None:
        if key in sent:
            found: date | None = sent[key]
            return found
        return stood + (day - c.day) if stood is not None else None

    return TypedCompetition(
        name=sent.get("name") or c.name,
        day=day,
        rank=sent.get("rank") or c.rank,
        last_day=moved("last_day", c.last_day),
        weigh_in=moved("weigh_in", c.weigh_in),
        events=events if events is not None else tuple(Event.from_raw(e) for e in c.events),
        uid=c.uid,
        division=sent["division"] if sent.get("division") is not None else c.division,
    )

"""What a coach does with a season: one function each, in one transaction, each with its whole before and after."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import asdict, dataclass, field
from datetime import date, timedelta
from typing import Any

from django.db import transaction

from jarvok.app import clock
from jarvok.app.athletes.models import Athlete
from jarvok.app.problems import Conflict
from jarvok.app.seasons.models import Change, Competition, FlagWord, SeasonStyle
from jarvok.app.seasons.queries import SeasonBook, snapshot_of, taper_of
from jarvok.core.errors import CoachError
from jarvok.core.quantities.mass import check_load_kg
from jarvok.core.season.arrangements import arrangement
from jarvok.core.season.exposures import event_kinds
from jarvok.core.season.model import RANK_NAMES, Rank, monday_of
from jarvok.core.season.taper import TaperStyle, check_taper

MOST_EVENTS = 12
MOST_DAYS = 14


@dataclass(frozen=True)
class TypedEvent:
    """An event of a contest as typed."""

    kind: str
    name: str = ""
    contest_day: int = 0
    load_kg: float | None = None


@dataclass(frozen=True)
class TypedCompetition:
    """A competition as typed."""

    name: str
    day: date
    rank: str = Rank.MAIN
    last_day: date | None = None
    weigh_in: date | None = None
    events: tuple[TypedEvent, ...] = field(default=())
    uid: str = ""


@contextmanager
def _changed(athlete: Athlete, words: list[str]) -> Iterator[None]:
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
    if typed.rank not in set(Rank):
        raise CoachError("There is no such rank.", where="rank", accepted=", ".join(RANK_NAMES.values()))
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
        if event.load_kg is not None:
            check_load_kg(event.load_kg, "events")
        if not 0 <= event.contest_day < MOST_DAYS or len(event.name) > 60:
            raise CoachError(
                "That event cannot be.", where="events", accepted="A day of the contest, and a name of 60 characters."
            )
    return TypedCompetition(name, typed.day, typed.rank, typed.last_day, typed.weigh_in, typed.events, typed.uid)


def _write(competition: Competition, typed: TypedCompetition) -> None:
    competition.name, competition.day, competition.rank = typed.name, typed.day, typed.rank
    competition.last_day = typed.last_day if typed.last_day != typed.day else None
    competition.weigh_in = typed.weigh_in
    competition.events = [asdict(e) for e in typed.events]
    competition.uid = typed.uid or competition.uid
    competition.save()


def _not_past(day: date) -> None:
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


def _own_name(athlete: Athlete, typed: TypedCompetition, but: Competition | None = None) -> None:
    other = same_name(athlete, typed.name, typed.day)
    if other is not None and (but is None or other.pk != but.pk):
        raise Conflict(f"{other.name} on {other.day:%-d %B %Y} is there already. Move that one, or give this one another name.")


@transaction.atomic
def add_competition(athlete: Athlete, typed: TypedCompetition) -> Competition:
    typed = checked(typed)
    _not_past(typed.day)
    _own_name(athlete, typed)
    with _changed(athlete, [f"{typed.name} on {typed.day:%-d %b} added"]):
        competition = Competition(athlete=athlete, planned_from=clock.today())
        _write(competition, typed)
    return competition


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


@transaction.atomic
def add_for(athlete: Athlete, scope: str, typed: TypedCompetition) -> None:
    """Add a competition for the athlete, or for everybody in the scope who does not have it yet."""
    add_competition(athlete, typed)
    for other in in_scope(athlete, scope):
        if other.pk != athlete.pk and same_name(other, typed.name.strip(), typed.day) is None:
            add_competition(other, typed)


def everywhere(competition: Competition, scope: str) -> list[Competition]:
    """The same competition, by name and day, of everybody in the scope; the one asked about first."""
    people = [a.pk for a in in_scope(competition.athlete, scope) if a.pk != competition.athlete_id]
    rows = Competition.objects.select_related("athlete").filter(athlete_id__in=people, withdrawn_at__isnull=True)
    return [competition, *rows.filter(name=competition.name, day=competition.day)]


@transaction.atomic
def change_competition(competition: Competition, typed: TypedCompetition) -> Competition:
    typed = checked(typed)
    words: list[str] = []
    if typed.name != competition.name:
        _own_name(competition.athlete, typed, competition)
    if typed.day != competition.day:
        _not_past(typed.day)
        words.append(f"{competition.name} moved from {competition.day:%-d %b} to {typed.day:%-d %b}")
    if typed.name != competition.name:
        words.append(f"{competition.name} renamed to {typed.name}")
    if typed.rank != competition.rank:
        words.append(f"{typed.name} is {RANK_NAMES[Rank(typed.rank)]} now")
    with _changed(competition.athlete, words or [f"{typed.name} changed"]):
        _write(competition, typed)
    return competition


@transaction.atomic
def withdraw(competition: Competition) -> None:
    with _changed(competition.athlete, [f"{competition.name} taken out"]):
        competition.withdrawn_at = clock.now()
        competition.save()


@transaction.atomic
def set_phases(competition: Competition, weeks: dict[str, int]) -> None:
    """Keep the lengths the coach has set on the way to a competition; an empty mapping goes back to the proposal."""
    names = {p.id: p.name for p in arrangement(style_of(competition.athlete).arrangement).phases_for(30)} | {"taper": "Taper"}
    words = ", ".join(f"{names.get(k, k)} {w} weeks" for k, w in weeks.items()) or "phase lengths as proposed"
    with _changed(competition.athlete, [words]):
        competition.pinned_weeks = weeks
        competition.save()


@dataclass(frozen=True)
class TypedStyle:
    """How a season is to be arranged: None in `loading_weeks` and `taper` is the arrangement's own."""

    arrangement: str
    loading_weeks: int | None
    taper: TaperStyle | None


@transaction.atomic
def set_style(athletes: list[Athlete], typed: TypedStyle) -> None:
    """Arrange the season of one athlete, a group or a squad."""
    chosen = arrangement(typed.arrangement)
    if typed.loading_weeks is not None and not 0 <= typed.loading_weeks <= 4:
        raise CoachError("That rhythm cannot be.", where="loading_weeks", accepted="0 (as it comes), 2, 3 or 4 loading weeks.")
    taper = asdict(check_taper(typed.taper)) if typed.taper is not None else None
    for athlete in athletes:
        style = style_of(athlete)
        words = [f"arranged as {chosen.name.lower()}"] if style.arrangement != chosen.key else []
        if style.loading_weeks != typed.loading_weeks:
            words.append(f"{typed.loading_weeks}:1" if typed.loading_weeks else "the usual rhythm of easier weeks")
        if style.taper != taper:
            words.append(f"taper of {typed.taper.days} days" if typed.taper else "the usual taper")
        with _changed(athlete, words or ["arranged"]):
            style.arrangement, style.loading_weeks, style.taper = chosen.key, typed.loading_weeks, taper
            style.save()


@transaction.atomic
def set_easy(athlete: Athlete, monday: date, easy: bool | None, to: date | None = None) -> None:
    """Make a week easier or full, or go back to the rhythm with None; `to` moves an easier week to another."""
    if any(day != monday_of(day) for day in (monday, to) if day is not None):
        raise CoachError("A week is named by its Monday.", where="monday", accepted="A Monday of the season.")
    style = style_of(athlete)
    word = "as the rhythm has it" if easy is None else "easier" if easy else "full"
    words = f"week of {monday:%-d %b} {word}" if to is None else f"easier week moved from {monday:%-d %b} to {to:%-d %b}"
    with _changed(athlete, [words]):
        weeks = {k: v for k, v in style.easy_weeks.items() if k != monday.isoformat()}
        if to is not None:
            weeks |= {monday.isoformat(): False, to.isoformat(): True}
        elif easy is not None:
            weeks[monday.isoformat()] = easy
        style.easy_weeks = weeks
        style.save()


def _restore(athlete: Athlete, facts: dict[str, Any]) -> None:
    known = {row["id"]: row for row in facts["competitions"]}
    for competition in Competition.objects.filter(athlete=athlete):
        row = known.get(competition.pk)
        if row is None:
            if competition.withdrawn_at is None:
                competition.withdrawn_at = clock.now()
                competition.save()
            continue
        competition.name, competition.rank, competition.events = row["name"], row["rank"], row["events"]
        for key in ("day", "last_day", "weigh_in", "planned_from"):
            setattr(competition, key, date.fromisoformat(row[key]) if row[key] else None)
        competition.pinned_weeks, competition.withdrawn_at = row["pinned_weeks"], None
        competition.save()
    style = style_of(athlete)
    style.arrangement, style.loading_weeks = facts["style"]["arrangement"], facts["style"]["loading_weeks"]
    style.taper, style.easy_weeks = facts["style"]["taper"], facts["style"]["easy_weeks"]
    taper_of(style.taper)
    style.save()


@transaction.atomic
def undo(athlete: Athlete) -> None:
    """Take the newest change back; the season is exactly what it was before."""
    last = Change.objects.filter(athlete=athlete, undone_at__isnull=True).first()
    if last is None:
        raise Conflict("There is nothing to undo.")
    _restore(athlete, last.before)
    last.undone_at = clock.now()
    last.save()


@transaction.atomic
def keep_or_restore(athlete: Athlete, keep: bool) -> None:
    """Take the plan as it is now for the original, or go back to the original."""
    style = style_of(athlete)
    if keep:
        style.baseline = snapshot_of(athlete)
        style.save()
        return
    if style.baseline is None:
        raise Conflict("There is no original to go back to.")
    with _changed(athlete, ["back to the original plan"]):
        _restore(athlete, style.baseline)


@transaction.atomic
def keep_flag(athlete: Athlete, check_id: str, where: str, reason: str) -> FlagWord:
    """Answer a flag with a reason; it stays visible."""
    reason = reason.strip()
    if not 1 <= len(reason) <= 200:
        raise CoachError("Say why it stays.", where="reason", accepted="1 to 200 characters are accepted.")
    FlagWord.objects.filter(athlete=athlete, check_id=check_id, where=where, lifted_at__isnull=True).update(lifted_at=clock.now())
    return FlagWord.objects.create(athlete=athlete, check_id=check_id[:30], where=where[:120], reason=reason)


@transaction.atomic
def lift_flag(word: FlagWord) -> None:
    word.lifted_at = clock.now()
    word.save()

"""A season as it is typed, and a change of it kept with its whole before and after."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass, field, replace
from datetime import date
from typing import Any

from django.db.models import QuerySet

from jarvok.app import clock
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.facts.fact import going_on
from jarvok.app.facts.seasons.models import Change, Competition, Entry, SeasonStyle
from jarvok.app.kept import kept, own_of
from jarvok.app.problems import Conflict
from jarvok.app.seasons.season_book import SeasonBook, snapshot_of, taper_of
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercises
from jarvok.core.quantities.days import said_day
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


CHANGED_BOOK = "season_book_after_the_change"


@contextmanager
def changed(athlete: Athlete, words: list[str]) -> Iterator[None]:
    """Keep a change with the season's facts before and after; the plan must build, or everything stays as it was."""
    before = snapshot_of(athlete)
    yield
    book = SeasonBook([athlete], clock.today())
    book.checked_plan(athlete.pk)
    after = book.snapshot(athlete.pk)
    if after == before:
        return
    _keep(athlete, "; ".join(words), before, after)
    if book.style(athlete.pk).baseline is None and after["competitions"]:
        style = style_of(athlete)
        style.baseline = before if before["competitions"] else after
        style.save()
        return
    athlete.__dict__[CHANGED_BOOK] = book  # what the change was checked on is what stands after it


def _keep(athlete: Athlete, words: str, before: dict[str, Any], after: dict[str, Any]) -> None:
    """Keep a change; all that one act changes in a season is one step of undo."""
    act = going_on.get()
    same = Change.objects.filter(act=act, athlete=athlete).first() if act is not None else None
    if same is None:
        Change.objects.create(athlete=athlete, words=words[:200], before=before, after=after)
        return
    same.words, same.after = f"{same.words}; {words}"[:200], after
    same.save(update_fields=["words", "after"])


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
                "That event cannot be.", where="events", accepted="A day of the competition, and a name of 60 characters."
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


def told_of(typed: TypedCompetition) -> dict[str, Any]:
    """What is typed of a competition, as a competition stores it."""
    last_day = typed.last_day if typed.last_day != typed.day else None
    return {
        "name": typed.name,
        "day": typed.day.isoformat(),
        "last_day": last_day.isoformat() if last_day else None,
        "rank": str(typed.rank),
        "events": [e.to_raw() for e in typed.events],
        "weigh_in": typed.weigh_in.isoformat() if typed.weigh_in else None,
        "block": None,
    }


def write(entry: Entry, typed: TypedCompetition) -> None:
    """Store what is typed for one athlete: in the competition where it is the athlete's alone, else as the athlete's own."""
    entry.division = typed.division
    competition = entry.competition
    if competition.athlete_id is not None:
        is_new = competition._state.adding
        competition.uid = typed.uid or competition.uid
        by_hand = competition.sequence + (0 if is_new else 1)
        competition.sequence = by_hand if typed.sequence is None else typed.sequence
    tell(entry, told_of(typed))


def tell(entry: Entry, told: Mapping[str, Any]) -> None:
    """Let an athlete's part in a competition say these facts, and store it."""
    competition = entry.competition
    if competition.athlete_id is not None:
        competition.tell(told)
        competition.save()
        entry.competition = competition
    entry.own = own_of(competition, dict(told))
    entry.save()


def write_shared(competition: Competition, typed: TypedCompetition) -> None:
    """Store what is typed for all of a squad or a group; what each has of it is changed by itself."""
    with kept(competition):
        competition.tell(told_of(typed))
    competition.uid = typed.uid or competition.uid
    if typed.sequence is not None:
        competition.sequence = typed.sequence
    competition.save(update_fields=["uid", "sequence"])


def not_past(day: date) -> None:
    if day <= clock.today():
        raise CoachError(
            f"{said_day(day, year=True, is_long=True)} is not ahead of {said_day(clock.today(), year=True, is_long=True)}.",
            where="day",
            accepted="A competition from tomorrow on can be planned for.",
        )


def standing() -> QuerySet[Entry]:
    """Entries of those who take part."""
    return Entry.objects.select_related("athlete", "competition").filter(withdrawn_at__isnull=True)


def of_nobody(squad: Squad) -> QuerySet[Competition]:
    """Competitions of a squad in which nobody takes part yet."""
    rows = Competition.objects.filter(squad=squad, withdrawn_at__isnull=True, block__isnull=True)
    return rows.exclude(pk__in=standing().values("competition"))


def same_name(athlete: Athlete, name: str, day: date) -> Entry | None:
    """What the athlete has entered of that name within a year of a day: phases and flags name it."""
    mine = standing().filter(athlete=athlete)
    return next((e for e in mine if e.name == name and abs((e.day - day).days) <= 365), None)


def own_name(athlete: Athlete, typed: TypedCompetition, but: Entry | None = None) -> None:
    other = same_name(athlete, typed.name, typed.day)
    if other is not None and (but is None or other.pk != but.pk):
        on = said_day(other.day, year=True, is_long=True)
        raise Conflict(f"{other.name} on {on} is there already. Move that one, or give this one another name.")


def in_scope(athlete: Athlete, scope: str) -> list[Athlete]:
    """The athlete, all of the athlete's group, or all of the squad."""
    rows = Athlete.here.filter(squad_id=athlete.squad_id)
    if scope == "athlete":
        return [athlete]
    if scope == "group" and athlete.group:
        return list(rows.filter(group=athlete.group))
    if scope == "squad":
        return list(rows)
    raise CoachError("It is for the athlete, the group or the squad.", where="scope", accepted="athlete, group or squad")


def everywhere(entry: Entry, scope: str) -> list[Entry]:
    """The same competition, by name and day, of everybody in the scope; the one asked about first."""
    people = [a.pk for a in in_scope(entry.athlete, scope) if a.pk != entry.athlete_id]
    name, day = entry.name, entry.day
    return [entry, *(e for e in standing().filter(athlete_id__in=people) if (e.name, e.day) == (name, day))]


def covered(entry: Entry, scope: str) -> Competition | None:
    """The competition of all whom a scope names, where there is one: it is changed with their parts in it."""
    of = entry.competition
    wide = of.squad_id is not None and (scope == "squad" or (scope == "group" and of.group != ""))
    return of if wide and not of.is_out else None


@dataclass(frozen=True)
class TypedStyle:
    """How a season is to be arranged: None in `loading_weeks` and `taper` is the arrangement's own."""

    arrangement: str
    loading_weeks: int | None
    taper: TaperStyle | None


def restore(athlete: Athlete, facts: dict[str, Any]) -> None:
    """Let a season be what it was, entry by entry. What is the squad's stays; what the athlete had otherwise is own again."""
    known = {row["id"]: row for row in facts["competitions"]}
    for entry in Entry.objects.select_related("competition").filter(athlete=athlete):
        row = known.get(entry.pk)
        if row is None:
            if entry.withdrawn_at is None:
                entry.withdrawn_at = clock.now()
                entry.save()
            continue
        entry.division = row.get("division", "")
        entry.planned_from = date.fromisoformat(row["planned_from"])
        entry.pinned_weeks, entry.withdrawn_at = row["pinned_weeks"], None
        if entry.competition.athlete_id is not None:
            entry.competition.sequence += 1
        tell(entry, {k: row.get(k) for k in Competition.TOLD})
    style = style_of(athlete)
    style.arrangement, style.loading_weeks = facts["style"]["arrangement"], facts["style"]["loading_weeks"]
    style.taper, style.easy_weeks = facts["style"]["taper"], facts["style"]["easy_weeks"]
    style.weeks_by_hand = facts["style"].get("weeks_by_hand", {})
    taper_of(style.taper)
    style.save()


def typed_over(c: Entry | Competition, sent: Mapping[str, Any], events: tuple[Event, ...] | None) -> TypedCompetition:
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
        division=sent["division"] if sent.get("division") is not None else c.division if isinstance(c, Entry) else "",
    )

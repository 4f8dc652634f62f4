"""Sessions are put on days for some athletes: a copied one, a copied week, a template."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.training.models import WrittenSession
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.training.planned_weeks import planned_week, read_again
from jarvok.app.training.written import mark, own_key, put
from jarvok.core.quantities.days import said_day
from jarvok.core.season.model import monday_of
from jarvok.core.session.document import Document

Said = tuple[list[str], list[str]]  # for whom it was done, and in words where it could not be


def run(
    who: Who, words: str, sessions: Mapping[date, Sequence[Document]], people: Sequence[Athlete], *, whole_weeks: bool
) -> Said:
    """Put sessions on their days; `whole_weeks` takes out what else those weeks hold. One undo takes all of it back.

    What a day held before is replaced; a session that was started stays.
    """
    alone = people[0] if len(people) == 1 else None
    squad = people[0].squad if len(people) > 1 else None
    done: set[str] = set()
    left: list[str] = []
    with acting(who, "put_sessions", words, athlete=alone, squad=squad, also=people):
        for monday in sorted({monday_of(d) for d in sessions}):
            here = {d: x for d, x in sessions.items() if monday_of(d) == monday}
            if whole_weeks:
                _clear(here, words, people, monday)
            for day, documents in sorted(here.items()):
                ok, not_ok = _put_on(documents, words, people, day)
                done.update(ok)
                left += not_ok
    return sorted(done) if whole_weeks else [p.name for p in people if p.name in done], left


def _clear(sessions: Mapping[date, Sequence[Document]], words: str, people: Sequence[Athlete], monday: date) -> None:
    """Take out what a week holds on other days than those of the sessions to come."""
    seasons = SeasonBook(people, clock.today())
    for person in people:
        plan = seasons.plan(person.pk)
        week = plan.week_of(monday) if plan is not None else None
        if plan is None or week is None:
            continue
        begun = set(person.sessions.filter(day__range=(monday, week.end)).values_list("key", flat=True))
        for session in planned_week(person, plan, week, seasons.rules):
            if session.day not in sessions and session.key not in begun:
                mark(person, session.day, session.key, WrittenSession.TAKEN_OUT, words)


def _put_on(documents: Sequence[Document], words: str, people: Sequence[Athlete], day: date) -> Said:
    done: list[str] = []
    left: list[str] = []
    seasons = SeasonBook(people, clock.today())
    for person in people:
        plan = seasons.plan(person.pk)
        week = plan.week_of(day) if plan is not None else None
        if plan is None or week is None or day >= week.competition_day:
            left.append(f"{person.name}: {said_day(day, is_long=True)} lies outside the season")
            continue
        if person.sessions.filter(day=day).exists():
            left.append(f"{person.name}: the session of that day has been started")
            continue
        taken: list[str] = []
        for document in documents:
            here = planned_week(read_again(person), plan, week, seasons.rules)
            key = next((s.key for s in here if s.day == day and s.key not in taken), None) or own_key(person, week, here)
            if key is None:
                left.append(f"{person.name}: the week is full")
                break
            put(person, key, day, document, words)
            taken.append(key)
        else:
            done.append(person.name)
    return done, left

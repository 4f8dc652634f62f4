"""A block of weeks with no competition at its end is put into an athlete's season, a group's or a squad's."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.seasons.models import Competition, Entry
from jarvok.app.problems import Conflict
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.seasons.typed_season import changed, in_scope, same_name
from jarvok.core.errors import CoachError
from jarvok.core.quantities.days import said_day
from jarvok.core.season.blocks import check_block
from jarvok.core.season.model import Rank, TrainingBlock, monday_of

MOST_NAME, FARTHEST_DAYS = 80, 366


def run(
    who: Who, athlete: Athlete, name: str, starts: date | None, weeks: int, way: str, *, has_test_week: bool, scope: str
) -> None:
    """Add a block of whole weeks. It begins in the week of `starts`, else when the last block ends, else this week."""
    block = TrainingBlock(check_block(weeks, way), has_test_week)
    today = clock.today()
    if starts is not None and not monday_of(today) <= starts <= today + timedelta(days=FARTHEST_DAYS):
        raise CoachError("A block begins this week or within a year.", where="starts", accepted="A day from this week on.")
    people = in_scope(athlete, scope)
    squad = athlete.squad if len(people) > 1 else None
    with acting(who, "add_block", f"a block of {weeks} weeks", athlete=None if squad else athlete, squad=squad, also=people):
        for person in people:
            _add(person, name.strip()[:MOST_NAME], starts, weeks, block)


def _add(person: Athlete, name: str, starts: date | None, weeks: int, block: TrainingBlock) -> None:
    today = clock.today()
    book = SeasonBook([person], today)
    blocks = [c for c in book.competitions(person.pk) if c.rank == Rank.BLOCK and book.ends(c) >= today]
    behind = [monday_of(book.ends(b) + timedelta(days=1)) for b in blocks]  # where lost weeks have pushed them
    first = monday_of(starts) if starts else max(behind, default=monday_of(today))
    last = first + timedelta(days=7 * weeks - 1)
    crossed = next((b for b in blocks if _begins(b) <= last and book.ends(b) >= first), None)
    if crossed is not None:
        end = said_day(book.ends(crossed), is_long=True)
        raise Conflict(f"{crossed.name} of {person.name} lies in those weeks, to {end}. Begin after it.")
    main = next((c for c in book.competitions(person.pk) if c.rank == Rank.MAIN and first <= c.day <= last), None)
    if main is not None:
        raise Conflict(
            f"{main.name} on {said_day(main.day, is_long=True)} lies in those weeks: the season is built to it already."
        )
    called = name or f"Block {1 + Entry.objects.filter(athlete=person, competition__rank=Rank.BLOCK).count()}"
    if same_name(person, called, last) is not None:
        raise Conflict(f"There is a {called} already. Give this one another name.")
    with changed(person, [f"{called}: {weeks} weeks to {said_day(last)}"]):
        block_raw = replace(block, starts=first).to_raw()
        weeks_to = Competition.objects.create(athlete=person, name=called, day=last, rank=Rank.BLOCK, block=block_raw)
        Entry.objects.create(athlete=person, competition=weeks_to, planned_from=today)


def _begins(block: Entry) -> date:
    """The Monday a block begins on."""
    kept = TrainingBlock.from_raw(block.block) if block.block is not None else TrainingBlock()
    return kept.starts or monday_of(block.planned_from)

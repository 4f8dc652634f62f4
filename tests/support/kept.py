"""What is kept of every athlete against the same worked out anew."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import timedelta
from typing import Any

from django.contrib.auth.models import AnonymousUser
from django.http import HttpRequest, HttpResponse

from jarvok.app import clock
from jarvok.app.api.athletes.overview import read_athlete, rows_of
from jarvok.app.api.athletes.standing import read_standing
from jarvok.app.api.learning.bests import read_bests
from jarvok.app.api.learning.findings import read_findings
from jarvok.app.api.learning.progress import read_progress
from jarvok.app.api.learning.weeks import read_learning
from jarvok.app.api.seasons.seasons import answer as season_answer
from jarvok.app.api.seasons.seasons import read_season
from jarvok.app.api.seasons.squad_season import read_squad_season
from jarvok.app.api.today.of_day import of_day
from jarvok.app.api.training.plan import read_week, week_answer
from jarvok.app.api.training.squad_table import read_squad_table, sheets_on
from jarvok.app.api.training.squads import read_squad_week
from jarvok.app.api.training.squads import rows_of as week_rows_of
from jarvok.app.athletes.kept_known import forget_all_kept, nothing_kept
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.centre.in_force import rules_in_force
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import SessionLine
from jarvok.app.floor.bests import bests_since
from jarvok.app.learning.noticing import noticed_of
from jarvok.app.learning.weeks import weeks_of
from jarvok.app.training.kept_athlete import reader_of
from jarvok.app.training.own_library import own_exercises
from jarvok.core.library.exercises import with_own
from jarvok.core.season.model import monday_of


def _asked() -> HttpRequest:
    request = HttpRequest()
    request.user = AnonymousUser()
    return request


def _sent(page: object) -> bytes:
    assert isinstance(page, HttpResponse)
    return page.content


def _pages_of_squad(squad_id: int) -> Iterator[object]:
    yield read_squad_week(_asked(), squad_id)
    yield read_squad_season(_asked(), squad_id)
    yield read_learning(_asked(), "squad", squad_id)
    yield read_findings(_asked(), "squad", squad_id)


def _tables_of(athlete: Athlete) -> Iterator[object]:
    """The first session that an athlete has this week, with everybody's loads."""
    week = week_answer(reader_of(athlete.pk), clock.today()).week
    sheets = [(d.day, d.sheet.key) for d in week.days if d.sheet] if week is not None else []
    return (read_squad_table(_asked(), athlete.pk, day, key) for day, key in sheets[:1])


def _all_that_is_kept() -> dict[str, Any]:
    people = list(Athlete.here.select_related("squad", "kit"))
    book = LiftBook(people, clock.today())
    lifts = sorted(set(SessionLine.objects.values_list("exercise_id", flat=True)))
    return {
        "today": of_day(people),
        "rows": rows_of(people),
        "done": weeks_of(people, clock.today() - timedelta(weeks=3), clock.today(), rules_in_force()),
        "bests": bests_since([a.pk for a in people], clock.today() - timedelta(weeks=8), clock.today()),
        "trends": {(a.pk, x.id): book.trend(a.pk, x.id, [clock.today()]) for a in people for x in book.lifts_of(a.pk)},
        "weeks": [week_rows_of(people, monday_of(clock.today()) + timedelta(days=7 * n)) for n in (0, 1)],
        "week": [week_answer(reader_of(a.pk), monday_of(clock.today()) + timedelta(days=7 * n)) for a in people for n in (0, 1)],
        "sheets": [sheets_on(people, clock.today() + timedelta(days=n)) for n in (0, 2)],
        "noticed": noticed_of(people, rules_in_force()),
        "learning": [_sent(read_learning(_asked(), "athlete", a.pk)) for a in people],
        "findings": [_sent(read_findings(_asked(), "athlete", a.pk)) for a in people],
        "progress": [read_progress(_asked(), "athlete", a.pk) for a in people],
        "bests of a phase": [read_bests(_asked(), "athlete", a.pk) for a in people],
        "standing": [_sent(read_standing(_asked(), a.pk)) for a in people],
        "season": [season_answer(a.pk, reader_of(a.pk)) for a in people],
        "pages": [_sent(page(_asked(), a.pk)) for a in people for page in (read_athlete, read_week, read_season)],
        "squads": [_sent(page) for squad in sorted({a.squad_id for a in people}) for page in _pages_of_squad(squad)],
        "together": [_sent(page) for a in people for page in _tables_of(a)],
        "past": {(a.pk, x): alone.history(a.pk, x) for a in people for alone in [LiftBook([a], clock.today())] for x in lifts},
        "reserve": [LiftBook([a], clock.today()).reserve(a.pk) for a in people],
        "maxes": {(a.pk, x.id): book.max(a.pk, x.id) for a in people for x in book.lifts_of(a.pk)},
        "profiles": {(a.pk, x.id): book.profile(a.pk, x.id) for a in people for x in book.lifts_of(a.pk)},
    }


def _assert_same(kept: dict[str, Any], fresh: dict[str, Any], after: str) -> None:
    for name, found in fresh.items():
        assert kept[name] == found, f"{name} after {after}"


def assert_kept_is_fresh(after: str = "") -> None:
    """Fail where anything kept is not what the facts say now. What is worked out anew is kept from here on."""
    with with_own(own_exercises()):
        kept = _all_that_is_kept()
        forget_all_kept()
        _assert_same(kept, _all_that_is_kept(), after)


def assert_so_without_keeping(after: str = "") -> None:
    """Fail where something is said otherwise while nothing at all is kept, as in what is tried out and taken back."""
    with with_own(own_exercises()):
        kept = _all_that_is_kept()
        with nothing_kept():
            _assert_same(kept, _all_that_is_kept(), after)

"""What the plan and the results say of today and of one athlete: kept, so that the first page works out only who has changed."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from itertools import groupby
from typing import Any

from django.db.models import Max, Q, QuerySet

from jarvok.app import clock
from jarvok.app.api.athletes.rises import rise_out
from jarvok.app.api.today.sessions import session_out
from jarvok.app.api.today.shapes import DecisionOut, GoalPhase, TodaySession
from jarvok.app.athletes.kept_known import BEFORE_SETS, DAY, kept_of
from jarvok.app.athletes.lags import Read, say_by, share_book
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.athletes.reading import read_for_a_week
from jarvok.app.facts.athletes.models import Athlete, MarkRecord
from jarvok.app.facts.floor.models import Rep, SetRecord
from jarvok.app.facts.put_together import Part, PutTogether
from jarvok.app.learning.after import past_entries
from jarvok.app.seasons.season_book import Goal, SeasonBook
from jarvok.app.training.kept_athlete import readers_at_hand
from jarvok.app.training.planned_weeks import plan_of, planned_week, season_book_of
from jarvok.app.training.told_weeks import read_told
from jarvok.core.season.model import SeasonPlan, monday_of

OLD_DAYS = 56  # [J] eight weeks: a block and its deload twice
RESULT_DAYS = 14  # [J] after that it is asked on the page of what was learned alone


@dataclass(frozen=True)
class OfDay:
    """One athlete's: sessions from today to the end of the week as planned, with their hours; the way to the goal; rises.

    `unwritten` are competitions of the last days without a result: entry, name and day. `is_old` where nothing has been
    learned of them for long, though something once was.
    """

    sessions: tuple[tuple[TodaySession, float | None], ...]
    goal: Goal | None
    phases: tuple[GoalPhase, ...]
    rises: tuple[DecisionOut, ...]
    unwritten: tuple[tuple[int, str, date], ...]
    is_old: bool
    said: Read  # what the maxes said when the week was laid


_FAULTS = Part(Athlete, "faults")


def of_day(people: Sequence[Athlete]) -> dict[int, OfDay]:
    """Return what is kept of each, and work it out for the others together."""
    kept = kept_of([a.pk for a in people])
    missing = [a for a in people if DAY not in kept[a.pk]]
    before = {a.pk: kept[a.pk][BEFORE_SETS[DAY]] for a in missing if BEFORE_SETS[DAY] in kept[a.pk]}
    for pk, found in _worked_out(missing, before).items():
        kept[pk][DAY] = found
        kept[pk].pop(BEFORE_SETS[DAY], None)
    return {pk: rows[DAY] for pk, rows in kept.items()}


def _worked_out(people: list[Athlete], before: Mapping[int, OfDay]) -> dict[int, OfDay]:
    """What holds of each; of `before`, after sets alone, the week stays where the maxes say the same of it."""
    if not people:
        return {}
    _FAULTS.read(people)
    book = LiftBook(people, clock.today())
    old, found, anew = _of_whom_nothing_is_new(people), dict[int, OfDay](), list[Athlete]()
    for athlete in people:
        then = before.get(athlete.pk)
        if then is not None and say_by(book, athlete) == then.said:
            found[athlete.pk] = replace(then, rises=tuple(_rises(book, athlete)), is_old=athlete.pk in old)
        else:
            anew.append(athlete)
    return found | (_laid_anew(anew, book, old) if anew else {})


def _laid_anew(people: list[Athlete], book: LiftBook, old: set[int]) -> dict[int, OfDay]:
    today = book.day
    at_hand = readers_at_hand([a.pk for a in people])
    others = [a for a in people if a.pk not in at_hand]
    read_for_a_week(others)
    share_book(book, others)
    seasons = SeasonBook(others, today, book.rules) if others else None
    people = [*at_hand.values(), *others]
    read_told(people, [monday_of(today)])
    unwritten: dict[int, list[tuple[int, str, date]]] = defaultdict(list)
    for entry, is_written in past_entries(people):
        if not is_written and (today - entry.day).days <= RESULT_DAYS:
            unwritten[entry.athlete_id].append((entry.pk, entry.name, entry.day))
    found = {}
    for athlete in people:
        if seasons is None or athlete.pk in at_hand:
            plan, goal = plan_of(athlete, today, book.rules), season_book_of(athlete, today, book.rules).goal(athlete.pk)
        else:
            plan, goal = seasons.plan(athlete.pk), seasons.goal(athlete.pk)
        is_ahead = plan is not None and goal is not None
        found[athlete.pk] = OfDay(
            sessions=_sessions(athlete, plan, book) if plan is not None and goal is not None else (),
            goal=goal if is_ahead else None,
            phases=_phases(plan, goal.day) if plan is not None and goal is not None else (),
            rises=tuple(_rises(book, athlete)),
            unwritten=tuple(unwritten[athlete.pk]),
            is_old=athlete.pk in old,
            said=say_by(book, athlete),
        )
    return found


def _sessions(athlete: Athlete, plan: SeasonPlan, book: LiftBook) -> tuple[tuple[TodaySession, float | None], ...]:
    week = plan.week_of(book.day)
    if week is None:
        return ()
    ahead = (p for p in planned_week(athlete, plan, week, book.rules) if p.day >= book.day)
    return tuple((session_out(athlete, week, p, {}), p.begins_h) for p in ahead)


def _phases(plan: SeasonPlan, until: date) -> tuple[GoalPhase, ...]:
    weeks = [w for w in plan.weeks if w.start <= until]
    found = []
    for (key, name), some in groupby(weeks, key=lambda w: (w.phase.value, w.phase_name)):
        these = list(some)
        found.append(GoalPhase(key=key, name=name, start=these[0].start, end=min(these[-1].end, until)))
    return tuple(found)


def _rises(book: LiftBook, athlete: Athlete) -> list[DecisionOut]:
    found: list[DecisionOut] = []
    for lift in book.lifts_of(athlete.pk):
        rise = rise_out(book, athlete.pk, lift.id) if book.asked(athlete.pk, lift.id) is not None else None
        if rise is not None:
            found.append(
                DecisionOut(
                    athlete_id=athlete.pk,
                    athlete_name=athlete.name,
                    kind="rise",
                    title=f"{lift.name} e1RM: raise from {rise.question}",
                    text=f"{rise.words} {rise.why_asked}",
                    path=f"/athletes/{athlete.pk}",
                    path_words="Look at the results",
                    rise=rise,
                )
            )
    return found


def _of_whom_nothing_is_new(people: Sequence[Athlete]) -> set[int]:
    """Of whom nothing has been learned for long: no result, no set whose reserve or velocity is known.

    Nobody of whom nothing was ever known.
    """
    since = clock.today() - timedelta(days=OLD_DAYS)
    ids = [pk for pk, day in _NEWEST_RESULTS.rows([a.pk for a in people]) if day < since]
    return set(ids) - {pk for asked in (_WITH_SETS, _WITH_REPS) for (pk,) in asked.rows(ids, since)}


def _newest_results(ids: Sequence[int]) -> QuerySet[MarkRecord, Any]:
    rows = MarkRecord.objects.filter(athlete_id__in=ids, withdrawn_at__isnull=True)
    return rows.order_by().values_list("athlete_id").annotate(Max("day"))


def _with_sets(ids: Sequence[int], since: date) -> QuerySet[SetRecord, Any]:
    told = Q(rir__isnull=False) | Q(is_all_out=True)
    rows = SetRecord.objects.filter(
        told, line__session__athlete_id__in=ids, line__session__day__gte=since, taken_back_at__isnull=True
    )
    return rows.order_by().values_list("line__session__athlete_id").distinct()


def _with_reps(ids: Sequence[int], since: date) -> QuerySet[Rep, Any]:
    rows = Rep.objects.filter(line__session__athlete_id__in=ids, line__session__day__gte=since, taken_out_at__isnull=True)
    return rows.order_by().values_list("line__session__athlete_id").distinct()


_NEWEST_RESULTS, _WITH_SETS, _WITH_REPS = PutTogether(_newest_results), PutTogether(_with_sets), PutTogether(_with_reps)

"""What lies on the days of a month: competitions once, entries, practices, and the sessions that are planned."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from datetime import date, timedelta

from jarvok.app.api.seasons.month_shapes import (
    CalendarItemOut,
)
from jarvok.app.facts.athletes.models import Athlete, Practice
from jarvok.app.facts.seasons.models import CalendarEntry, Competition, Entry
from jarvok.app.seasons.calendar_steps import Whose
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.seasons.typed_season import of_nobody
from jarvok.app.training.planned_weeks import planned_week
from jarvok.core.interchange.day_notes import clock_words
from jarvok.core.season.calendar import SPAN_NAMES, SpanKind
from jarvok.core.season.model import RANK_NAMES, Rank, SeasonPlan
from jarvok.core.session.day_name import day_name

ORDER = {"competition": 0, "match": 1, "span": 2, "session": 3, "practice": 4}


def lead_of(page: Whose, book: SeasonBook) -> tuple[Athlete | None, SeasonPlan | None]:
    """Whose weeks the page draws: the athlete's, or of a squad those of one of the many who share a season."""
    plans = {a.pk: book.plan(a.pk) for a in page.people}
    alike: dict[tuple[object, ...], list[Athlete]] = defaultdict(list)
    for athlete in page.people:
        plan = plans[athlete.pk]
        if plan is not None:
            alike[plan.arrangement, tuple((p.key, p.first_day, p.end) for p in plan.phases)].append(athlete)
    if not alike:
        return None, None
    lead = max(alike.values(), key=len)[0]
    return lead, plans[lead.pk]


def items_of(page: Whose, book: SeasonBook, first: date, last: date) -> list[CalendarItemOut]:
    """Competitions once, entries, and the practices of each day."""
    found = _competitions(page, book, first, last)
    seen = CalendarEntry.objects.filter(page.seen, withdrawn_at__isnull=True, start__lte=last, end__gte=first)
    found += [_entry_out(e, page) for e in seen.select_related("athlete")]
    rows = Practice.objects.filter(squad=page.squad, withdrawn_at__isnull=True)
    practices = [p for p in rows if p.athlete_id is None or (page.athlete is not None and p.athlete_id == page.athlete.pk)]
    for n in range((last - first).days + 1):
        day = first + timedelta(days=n)
        found += [_practice_out(p, day) for p in practices if p.is_on(day)]
    return found


def _competitions(page: Whose, book: SeasonBook, first: date, last: date) -> list[CalendarItemOut]:
    """Each name and day once, for as many as have it."""
    alike: dict[tuple[str, date], list[Entry]] = defaultdict(list)
    for athlete in page.people:
        for c in book.competitions(athlete.pk):
            if c.block is None and c.day <= last and (c.last_day or c.day) >= first:
                alike[c.name, c.day].append(c)
    held = [
        _competition_out(rows[0], "competition", "" if len(rows) == len(page.people) else _who(rows, page.people), book.today)
        for rows in alike.values()
    ]
    if page.athlete is not None:
        return held
    shown = of_nobody(page.squad).filter(day__lte=last)
    waiting = [c for c in shown if (c.last_day or c.day) >= first]
    return held + [_competition_out(c, "of_nobody", "nobody yet" if page.people else "", book.today) for c in waiting]


def _competition_out(c: Entry | Competition, kind: str, whom: str, today: date) -> CalendarItemOut:
    return CalendarItemOut(
        key=f"{kind}-{c.pk}",
        id=c.pk,
        kind=kind,
        tone="competition",
        title=c.name,
        name=c.name,
        words=f"{c.name}, {RANK_NAMES[Rank(c.rank)]}",
        start=c.day,
        end=c.last_day or c.day,
        whom=whom,
        can_change=c.day > today,
        can_lengthen=c.day > today,
    )


def _who(rows: Sequence[Entry], people: Sequence[Athlete]) -> str:
    names = {a.pk: a.name for a in people}
    return names[rows[0].athlete_id] if len(rows) == 1 else f"{len(rows)} of {len(people)}"


def _entry_out(e: CalendarEntry, page: Whose) -> CalendarItemOut:
    is_match = e.kind == "match"
    kind = "Match" if is_match else SPAN_NAMES[SpanKind(e.kind)]
    at = f" {clock_words(e.hour)}" if e.hour is not None else ""
    own = e.athlete.name if e.athlete is not None and page.athlete is None else ""
    return CalendarItemOut(
        key=f"entry-{e.pk}",
        id=e.pk,
        kind="entry",
        tone="match" if is_match else "span",
        title=f"{e.name}{at}",
        name=e.name,
        words=(e.name if e.name.lower().startswith(kind.lower()) else f"{kind}: {e.name}") + at,
        start=e.start,
        end=e.end,
        hour=e.hour,
        whom=own or e.group,
        can_change=True,
        can_lengthen=not is_match,
    )


def _practice_out(p: Practice, day: date) -> CalendarItemOut:
    said = f"{p.sport or 'practice'} {clock_words(p.hour)}"
    words = f"{p.sport or 'Sport'} practice at {clock_words(p.hour)}, {p.minutes} min, RPE {p.hardness}"
    return CalendarItemOut(
        key=f"practice-{p.pk}-{day}", id=p.pk, kind="practice", tone="practice", title=said, words=words, start=day, end=day,
        hour=p.hour,
    )  # fmt: skip


def sessions_of(lead: Athlete, plan: SeasonPlan, book: SeasonBook, mondays: Iterable[date]) -> list[CalendarItemOut]:
    found: list[CalendarItemOut] = []
    for monday in mondays:
        week = plan.week_of(monday)
        for s in planned_week(lead, plan, week, book.rules) if week is not None else ():
            sets = sum(line.prescription.total_sets for line in s.lines if line.role.counts)
            found.append(
                CalendarItemOut(
                    key=f"session-{s.day}-{s.key}", id=lead.pk, kind="session", tone="session", title=s.theme, start=s.day,
                    words=f"{day_name(s.key)}: {s.theme}, {sets} main {'set' if sets == 1 else 'sets'}", end=s.day,
                    link=f"/athletes/{lead.pk}/session/{s.day}/{s.key}",
                )
            )  # fmt: skip
    return found

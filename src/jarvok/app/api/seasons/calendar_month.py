"""The calendar as months: of an athlete, of a squad, or of all squads; what is written on it, moved, taken out and undone."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Sequence
from datetime import date, timedelta

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.accounts.permission import person_of, squads_seen
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.seasons.month_items import ORDER, items_of, lead_of, sessions_of
from jarvok.app.api.seasons.month_shapes import (
    AllSquadsOut,
    CalendarDayOut,
    CalendarItemOut,
    CalendarStepOut,
    CalendarWeekOut,
    DayNoteIn,
    DayNoteOut,
    MonthOut,
    MoveItem,
    RenameItem,
    SquadMonthOut,
    StepScope,
    TakeOutItem,
)
from jarvok.app.api.seasons.shapes import ChoiceWords
from jarvok.app.api.who import who_of
from jarvok.app.athletes.reading import athlete_of, read_for_a_week
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.facts.seasons.models import CalendarEntry, Competition, Entry
from jarvok.app.problems import Conflict
from jarvok.app.seasons.actions import (
    change_competitions,
    change_entry,
    take_out_entry,
    undo_calendar,
    withdraw_competitions,
    write_on_day,
)
from jarvok.app.seasons.calendar_rows import Scope
from jarvok.app.seasons.calendar_steps import CalendarStep, Whose, last_step, next_step
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.seasons.typed_season import of_nobody, standing
from jarvok.app.training.lookup import near
from jarvok.app.training.season_sets import spending_of
from jarvok.core.errors import CoachError
from jarvok.core.interchange.day_notes import ACCEPTED, read_note
from jarvok.core.season.model import SeasonPlan, SeasonWeek, monday_of

router = Router(tags=["calendar months"])
WEEK = timedelta(days=7)
WHOSE = "/calendar/{whose}/{int:pk}"


def _whose(whose: str, pk: int) -> Whose:
    """The page of an athlete or a squad, with its people read for their weeks."""
    if whose == "athlete":
        athlete = athlete_of(pk)
        return Whose(athlete.squad, athlete, (athlete,))
    if whose == "squad":
        squad = get_object_or_404(Squad, pk=pk)
        return Whose(squad, None, tuple(read_for_a_week(Athlete.here.filter(squad=squad).order_by("name"))))
    raise CoachError("A calendar is of an athlete or a squad.", where="whose", accepted="athlete or squad")


def _month(text: str) -> date:
    """The first day of a month such as 2026-12; of this month for nothing."""
    if not text:
        return clock.today().replace(day=1)
    try:
        month = date.fromisoformat(f"{text}-01")
    except ValueError:
        raise CoachError(f"“{text}” is no month.", where="month", accepted="A month such as 2026-12.") from None
    return near(month, "month")


def _weeks_of(month: date) -> list[date]:
    """The Mondays of the weeks that hold days of a month."""
    last = (month + timedelta(days=32)).replace(day=1) - timedelta(days=1)
    first = monday_of(month)
    return [first + WEEK * i for i in range((monday_of(last) - first).days // 7 + 1)]


@router.get(WHOSE, response={200: MonthOut, **ERRORS})
def read_month(request: HttpRequest, whose: str, pk: int, month: str = "") -> MonthOut:
    """A month of a calendar, whole weeks from Monday to Sunday."""
    return month_out(_whose(whose, pk), _month(month))


def month_out(page: Whose, month: date) -> MonthOut:
    """A month with its weeks, what lies on its days, and what undo takes back."""
    book = SeasonBook(page.people, clock.today())
    mondays = _weeks_of(month)
    lead, plan = lead_of(page, book)
    first, last = mondays[0], mondays[-1] + WEEK - timedelta(days=1)
    items = items_of(page, book, first, last)
    if lead is not None and plan is not None:
        items += sessions_of(lead, plan, book, mondays)
    by_day: dict[date, list[CalendarItemOut]] = defaultdict(list)
    for item in sorted(items, key=lambda i: (ORDER[i.tone], i.start, i.hour or 0.0, i.title)):
        for n in range((min(item.end, last) - max(item.start, first)).days + 1):
            by_day[max(item.start, first) + timedelta(days=n)].append(item)
    goal = book.goal(lead.pk) if lead is not None else None
    return MonthOut(
        whose="athlete" if page.athlete else "squad",
        id=page.athlete.pk if page.athlete else page.squad.pk,
        name=page.athlete.name if page.athlete else page.squad.name,
        squad_id=page.squad.pk,
        squad=page.squad.name,
        month=month,
        previous=(month - timedelta(days=1)).replace(day=1),
        following=(month + timedelta(days=32)).replace(day=1),
        today=book.today,
        sentence=_sentence(items, month, f"{goal.name} in {_days(goal.day, book.today)}" if goal else ""),
        weeks=_weeks_out(mondays, by_day, lead, plan, book),
        scopes=_scopes(page),
        accepted=ACCEPTED,
        sessions_of=lead.name if lead is not None and page.athlete is None else "",
        undo=_step_out(last_step(page)),
        redo=_step_out(next_step(page)),
    )


def _days(day: date, today: date) -> str:
    n = (day - today).days
    return f"{n} {'day' if n == 1 else 'days'}"


def _weeks_out(
    mondays: Sequence[date],
    by_day: dict[date, list[CalendarItemOut]],
    lead: Athlete | None,
    plan: SeasonPlan | None,
    book: SeasonBook,
) -> list[CalendarWeekOut]:
    spending = spending_of(lead, plan, book.rules) if lead is not None and plan is not None else None
    most = max([max(w.dose, w.sets) for w in spending.weeks], default=0.0) if spending is not None else 0.0
    found: list[CalendarWeekOut] = []
    for monday in mondays:
        week = plan.week_of(monday) if plan is not None else None
        sets = spending.weeks[week.index] if week is not None and spending is not None else None
        days = [
            CalendarDayOut(
                day=d,
                is_today=d == book.today,
                is_past=d < book.today,
                days_to_go=week.days_out(d) if week is not None and week.has_competition and week.days_out(d) >= 0 else None,
                items=by_day[d],
            )
            for d in (monday + timedelta(days=n) for n in range(7))
        ]
        found.append(
            CalendarWeekOut(
                monday=monday,
                days_to_go=(week.competition_day - monday).days if week is not None and week.has_competition else None,
                word=_word(week) if week is not None else "",
                dose_share=sets.dose / most if sets is not None and most else 0.0,
                sets_share=sets.sets / most if sets is not None and most else 0.0,
                main_sets=sets.sets if sets is not None else None,
                days=days,
            )
        )
    return found


def _word(week: SeasonWeek) -> str:
    """What is special in a week, else its phase."""
    if week.taper is not None:
        return "taper"
    if week.is_easy:
        return "deload"
    if week.is_back:
        return "way back"
    if week.matches:
        return "match week"
    return week.phase_name.lower()


def _sentence(items: Sequence[CalendarItemOut], month: date, goal: str) -> str:
    """What a month holds, in a sentence."""
    inside = [i for i in items if (i.start.year, i.start.month) == (month.year, month.month)]
    counted = Counter(i.tone for i in inside)
    said = [
        f"{n} {one if n == 1 else many}"
        for tone, one, many in (
            ("competition", "competition", "competitions"),
            ("match", "match", "matches"),
            ("span", "other entry", "other entries"),
        )
        if (n := counted[tone])
    ]
    return " · ".join([", ".join(said) or "nothing but training", *([goal] if goal else [])])


def _scopes(page: Whose) -> list[ChoiceWords]:
    found = [ChoiceWords(id="squad", name=f"all of {page.squad.name}")]
    groups = [page.athlete.group] if page.athlete is not None else sorted({a.group for a in page.people})
    found += [ChoiceWords(id=f"group:{g}", name=f"all {g}") for g in groups if g]
    if page.athlete is not None:
        found.append(ChoiceWords(id="athlete", name=page.athlete.name))
    return found


def _scope(page: Whose, word: str) -> Scope:
    """Whom something is for, as its page offers it."""
    if word not in {c.id for c in _scopes(page)}:
        raise CoachError(
            "It is not clear whom that is for.", where="scope", accepted=", ".join(c.name for c in _scopes(page)) + "."
        )
    if word == "athlete":
        return Scope(page.athlete, None)
    return Scope(None, page.squad, word.partition(":")[2])


def _step_out(step: CalendarStep | None) -> CalendarStepOut | None:
    if step is None:
        return None
    by = step.act.person.name if step.act.person is not None else ""
    return CalendarStepOut(words=step.words, by=by, people=max(1, len(step.seasons)), is_for_all_only=bool(step.changes))


@router.get("/calendar/read", response={200: DayNoteOut, **ERRORS})
def read_what_is_written(request: HttpRequest, text: str, day: date) -> DayNoteOut:
    """How something written on a day would be understood. Nothing is stored."""
    try:
        note = read_note(text, near(day))
    except CoachError as error:
        return DayNoteOut(is_read=False, words=f"{error.message} {error.accepted}".strip())
    return DayNoteOut(is_read=True, words=note.words)


@router.post(f"{WHOSE}/write", response={200: MonthOut, **ERRORS})
def write(request: HttpRequest, whose: str, pk: int, payload: DayNoteIn) -> MonthOut:
    """Store what is written on a day."""
    page = _whose(whose, pk)
    write_on_day.run(who_of(request), _scope(page, payload.scope), payload.text, near(payload.day))
    return month_out(_whose(whose, pk), _month(payload.month))


@router.post(f"{WHOSE}/move", response={200: MonthOut, **ERRORS})
def move(request: HttpRequest, whose: str, pk: int, payload: MoveItem) -> MonthOut:
    """Move something by as many days as it was carried, or by its edge make it longer or shorter."""
    page, who = _whose(whose, pk), who_of(request)
    by = near(payload.to, "to") - near(payload.taken, "taken")
    if payload.kind == "entry":
        entry = _entry(page, payload.id)
        change_entry.run(who, entry, {"end": payload.to} if payload.edge else {"start": entry.start + by})
    elif payload.kind == "of_nobody":
        shared = _of_nobody(page, payload.id)
        change_competitions.of_nobody(who, shared, _moved(shared, payload, by))
    else:
        c = _competition(page, payload.id)
        change_competitions.run(who, c, "squad" if whose == "squad" else "athlete", _moved(c, payload, by), None)
    return month_out(_whose(whose, pk), _month(payload.month))


@router.post(f"{WHOSE}/rename", response={200: MonthOut, **ERRORS})
def rename(request: HttpRequest, whose: str, pk: int, payload: RenameItem) -> MonthOut:
    """Call something in the calendar otherwise; a competition of a squad for everybody who has it."""
    page, who, called = _whose(whose, pk), who_of(request), {"name": payload.name.strip()}
    if not called["name"]:
        raise CoachError("It needs a name.", where="name", accepted="Up to 80 characters.")
    if payload.kind == "entry":
        change_entry.run(who, _entry(page, payload.id), called)
    elif payload.kind == "of_nobody":
        change_competitions.of_nobody(who, _of_nobody(page, payload.id), called)
    else:
        scope = "squad" if whose == "squad" else "athlete"
        change_competitions.run(who, _competition(page, payload.id), scope, called, None)
    return month_out(_whose(whose, pk), _month(payload.month))


@router.post(f"{WHOSE}/take-out", response={200: MonthOut, **ERRORS})
def take_out(request: HttpRequest, whose: str, pk: int, payload: TakeOutItem) -> MonthOut:
    """Take something out of the calendar."""
    page, who = _whose(whose, pk), who_of(request)
    if payload.kind == "entry":
        take_out_entry.run(who, _entry(page, payload.id))
    elif payload.kind == "of_nobody":
        withdraw_competitions.of_nobody(who, _of_nobody(page, payload.id))
    else:
        withdraw_competitions.run(who, _competition(page, payload.id), "squad" if whose == "squad" else "athlete")
    return month_out(_whose(whose, pk), _month(payload.month))


@router.post(f"{WHOSE}/undo", response={200: MonthOut, **ERRORS})
def undo(request: HttpRequest, whose: str, pk: int, payload: StepScope) -> MonthOut:
    """Take the newest step back."""
    undo_calendar.run(who_of(request), _whose(whose, pk), payload.scope)
    return month_out(_whose(whose, pk), _month(payload.month))


@router.post(f"{WHOSE}/redo", response={200: MonthOut, **ERRORS})
def redo(request: HttpRequest, whose: str, pk: int, payload: StepScope) -> MonthOut:
    """Bring the last undone step again."""
    undo_calendar.again(who_of(request), _whose(whose, pk), payload.scope)
    return month_out(_whose(whose, pk), _month(payload.month))


def _moved(c: Entry | Competition, payload: MoveItem, by: timedelta) -> dict[str, date]:
    return {"last_day": payload.to} if payload.edge else {"day": c.day + by}


def _entry(page: Whose, pk: int) -> CalendarEntry:
    return get_object_or_404(CalendarEntry.objects.filter(page.seen, withdrawn_at__isnull=True), pk=pk)


def _competition(page: Whose, pk: int) -> Entry:
    rows = standing().select_related("athlete__squad").filter(competition__block__isnull=True)
    found = get_object_or_404(rows, pk=pk, athlete__in=page.people)
    _has_to_be_ahead(found)
    return found


def _of_nobody(page: Whose, pk: int) -> Competition:
    found = get_object_or_404(of_nobody(page.squad), pk=pk)
    _has_to_be_ahead(found)
    return found


def _has_to_be_ahead(found: Entry | Competition) -> None:
    if found.day <= clock.today():
        raise Conflict(f"{found.name} lies behind: what was planned for it stands.")


@router.get("/calendar", response={200: AllSquadsOut, **ERRORS})
def read_all_squads(request: HttpRequest, month: str = "") -> AllSquadsOut:
    """The squads of the centre beside each other, a row each and a column a day."""
    first = _month(month)
    following = (first + timedelta(days=32)).replace(day=1)
    days = [first + timedelta(days=n) for n in range((following - first).days)]
    rows: list[SquadMonthOut] = []
    for squad in squads_seen(person_of(request)).order_by("name"):
        page = _whose("squad", squad.pk)
        book = SeasonBook(page.people, clock.today())
        items = [i for i in items_of(page, book, days[0], days[-1]) if i.tone != "practice"]
        rows.append(
            SquadMonthOut(id=squad.pk, name=squad.name, items=sorted(items, key=lambda i: (i.start, ORDER[i.tone], i.title)))
        )
    return AllSquadsOut(
        month=first, previous=(first - timedelta(days=1)).replace(day=1), following=following, today=clock.today(), days=days,
        squads=rows,
    )  # fmt: skip

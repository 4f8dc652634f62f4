"""What the last weeks did: done beside planned, training load, what was missed and why."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from datetime import date, timedelta
from statistics import fmean

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import Router

from jarvok.app import clock
from jarvok.app.accounts.doors import Need
from jarvok.app.accounts.permission import may, person_of
from jarvok.app.api.learning.shapes import (
    ApartOut,
    CountOut,
    DayLoadOut,
    LearningChoiceOut,
    LearningOut,
    MissedSessionOut,
    PastContestOut,
    SayMissed,
    WeekDoneOut,
    WorkOut,
)
from jarvok.app.api.learning.whose import Whose, page_of, whose_page
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.who import who_of
from jarvok.app.centre.in_force import kit_of, rules_in_force
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.learning.actions import say_why_missed
from jarvok.app.learning.after import past_entries
from jarvok.app.learning.weeks import PLAN_AS_WRITTEN, SessionDone, WeekDone, plan_done_pct, weeks_of
from jarvok.app.shapes import working_out
from jarvok.core.errors import CoachError
from jarvok.core.learning.missed import REASONS
from jarvok.core.learning.training_load import (
    ACUTE_DAYS,
    CAUTION,
    CHRONIC_DAYS,
    LEAST_WEEKS,
    SEED,
    USUAL_WEEKS,
    beside_usual,
    week_load,
    weighted,
)
from jarvok.core.learning.work import PATTERN_NAMES, ZONE_NAMES, Work, summed
from jarvok.core.quantities.days import said_day
from jarvok.core.quantities.mass import lb_from_kg
from jarvok.core.quantities.sentence import counted
from jarvok.core.rules import Rules
from jarvok.core.season.model import monday_of

router = Router(tags=["learning"])
SHOWN, MOST_SHOWN = 4, 26


@router.get("/learning/{whose}/{int:pk}", response={200: LearningOut, **ERRORS})
def read_learning(request: HttpRequest, whose: str, pk: int, weeks: int = SHOWN, group: str = "") -> HttpResponse:
    """Weeks up to this one, planned and done: of an athlete, a squad, or a group in it."""

    def work_out() -> LearningOut:
        return _learning(request, whose_page(whose, pk, group, to_read=True), weeks)

    return page_of(request, whose, pk, ("learning", weeks, group), work_out)


@router.put("/athletes/{int:athlete_id}/missed/{day}/{key}", response={200: LearningOut, **ERRORS})
def say_missed(request: HttpRequest, athlete_id: int, day: date, key: str, payload: SayMissed) -> LearningOut:
    """Why a planned session was not done."""
    athlete = get_object_or_404(Athlete.here.select_related("squad"), pk=athlete_id)
    say_why_missed.run(who_of(request), athlete, day, key, payload.reason, payload.note)
    return _learning(request, whose_page("athlete", athlete_id), payload.weeks)


def read_ahead_of_weeks(people: Sequence[Athlete]) -> None:
    """Work out the weeks of some athletes that their pages of learning open with."""
    _weeks_read(people, SHOWN, rules_in_force())


def _weeks_read(people: Sequence[Athlete], shown: int, rules: Rules) -> dict[int, list[WeekDone]]:
    return weeks_of(people, _first_read(shown), clock.today(), rules, planned_from=first_shown(shown))


def _first_read(shown: int) -> date:
    """The Monday from which on weeks are read: what is usual takes longer than what is shown."""
    return monday_of(clock.today()) - timedelta(weeks=max(shown, USUAL_WEEKS + 1) - 1)


def _learning(request: HttpRequest, page: Whose, shown: int) -> LearningOut:
    first, today = first_shown(shown), clock.today()
    this = monday_of(today)
    rules = rules_in_force()
    unit = "lb" if page.people and all(kit_of(a.kit).unit == "lb" for a in page.people) else "kg"
    found = _weeks_read(page.people, shown, rules)
    by_week = {monday: [w for rows in found.values() for w in rows if w.monday == monday] for monday in _mondays(first, shown)}
    sessions = [s for rows in by_week.values() for w in rows for s in w.sessions]
    names = {a.pk: a.name for a in page.people}
    patterns = [p for p in PATTERN_NAMES if any(p in x.sets_by_pattern for s in sessions for x in (s.planned, s.done))]
    missed, easier = [s for s in sessions if s.is_missed], [s for s in sessions if s.plan != PLAN_AS_WRITTEN]
    days = _days(found, _first_read(shown), today)
    last = _last_whole_week(found, this)
    load = week_load(last) if last is not None else None
    apart = _apart(found, this, names) if page.whose == "squad" else []
    mine = _apart(found, this, names, all_of_them=True) if page.whose == "athlete" else []
    return LearningOut(
        whose=page.whose,
        id=page.of.pk,
        name=page.name,
        group=page.group,
        groups=list(page.groups),
        headline=_headline(page, sessions, missed, easier),
        last_day=max((s.day for s in sessions if s.session_id is not None), default=None),
        weeks_shown=shown,
        mass_unit=unit,
        patterns=[PATTERN_NAMES[p] for p in patterns],
        zones=list(ZONE_NAMES),
        weeks=[_week_out(monday, rows, patterns, unit) for monday, rows in by_week.items()],
        days=[d for d in days if d.day >= first],
        load_words=_load_words(page, load.load_au, load.monotony, load.strain_au) if load is not None else "",
        load_working=working_out(load.working) if load is not None else None,
        seed=SEED,
        caution=CAUTION,
        estimated=sum(1 for s in sessions if s.is_estimated and s.done.main_sets),
        apart=apart,
        apart_words=_apart_words(page, apart, mine),
        missed=[_missed_out(s, names) for s in sorted(missed, key=lambda s: (s.day, names[s.athlete_id]), reverse=True)],
        easier=[_missed_out(s, names) for s in sorted(easier, key=lambda s: (s.day, names[s.athlete_id]), reverse=True)],
        reasons=[
            CountOut(words=w, count=n) for w, n in Counter(s.reason or "no reason said" for s in (*missed, *easier)).most_common()
        ],
        reason_choices=[LearningChoiceOut(key=k, name=v) for k, v in REASONS.items()],
        may_say=may(person_of(request), Need.RUN),
        contests=[
            PastContestOut(
                entry_id=e.pk, athlete_id=e.athlete_id, athlete=e.athlete.name, name=e.name, day=e.day, is_written=written
            )
            for e, written in past_entries(page.people)
        ],
    )


def first_shown(weeks: int) -> date:
    """The Monday of the first of so many weeks up to this one."""
    if not 1 <= weeks <= MOST_SHOWN:
        raise CoachError(f"{weeks} weeks cannot be shown.", where="weeks", accepted=f"1 to {MOST_SHOWN} weeks.")
    return monday_of(clock.today()) - timedelta(weeks=weeks - 1)


def _mondays(first: date, count: int) -> list[date]:
    return [first + timedelta(weeks=i) for i in range(count)]


def _headline(page: Whose, sessions: Sequence[SessionDone], missed: Sequence[SessionDone], easier: Sequence[SessionDone]) -> str:
    pct = plan_done_pct(sessions)
    who = [counted(len(page.people), "athlete")] if page.whose == "squad" else []
    if pct is None:
        return " · ".join([*who, "nothing was planned in these weeks"])
    said = [f"{pct:.0f} % of the plan done", _counted(len(missed), "session missed", "sessions missed")]
    return " · ".join([*who, *said, f"{len(easier)} made easier"])


def _counted(count: int, one: str, many: str) -> str:
    return f"{count} {one if count == 1 else many}"


def _work_out(work: Work, patterns: Sequence[str], unit: str) -> WorkOut:
    return WorkOut(
        main_sets=work.main_sets,
        by_pattern=[work.sets_by_pattern.get(p, 0) for p in patterns],
        lifts=list(work.lifts),
        average=f"{work.average_pct:.0f} %" if work.average_pct is not None else "",
        volume=round(lb_from_kg(work.volume_kg) if unit == "lb" else work.volume_kg),
        contacts=work.contacts,
        sprint_m=round(work.sprint_m),
    )


def _week_out(monday: date, rows: Sequence[WeekDone], patterns: Sequence[str], unit: str) -> WeekDoneOut:
    sessions = [s for w in rows for s in w.sessions]
    due, done = summed(w.due for w in rows), summed(w.done for w in rows)
    phases = Counter(w.phase for w in rows if w.phase)
    missed = [s for s in sessions if s.is_missed]
    return WeekDoneOut(
        monday=monday,
        label=said_day(monday),
        phase=phases.most_common(1)[0][0] if phases else "",
        planned=_work_out(summed(w.planned for w in rows), patterns, unit),
        due=_work_out(due, patterns, unit),
        done=_work_out(done, patterns, unit),
        planned_au=round(sum(s.planned_au for s in sessions)),
        done_au=round(sum(s.done_au for s in sessions)),
        minutes=round(sum(s.minutes or 0 for s in sessions)),
        sessions=sum(1 for s in sessions if s.planned.main_sets or s.session_id is not None),
        sessions_done=sum(1 for s in sessions if s.session_id is not None),
        words=_lost_words(due.main_sets - done.main_sets, missed, [s for s in sessions if s.plan != PLAN_AS_WRITTEN]),
    )


def _lost_words(lost: int, missed: Sequence[SessionDone], easier: Sequence[SessionDone]) -> str:
    why = [_counted(len(missed), "session missed", "sessions missed")] if missed else []
    why += [f"{len(easier)} made easier"] if easier else []
    if lost > 0:
        return f"{counted(lost, 'set')} fewer than planned" + (f": {', '.join(why)}." if why else ".")
    if lost < 0:
        return f"{counted(-lost, 'set')} more than planned."
    return ""


def _days(found: Mapping[int, Sequence[WeekDone]], first: date, today: date) -> list[DayLoadOut]:
    """The load of each day, the mean of a squad's athletes, with both weighted averages."""
    days = [first + timedelta(days=i) for i in range((today - first).days + 1)]
    by_monday = [{w.monday: w for w in rows} for rows in found.values()]
    loads = [fmean(w[monday_of(d)].au_on(d) for w in by_monday) if by_monday else 0.0 for d in days]
    begun = next((i for i, x in enumerate(loads) if x > 0), len(loads))
    days, loads = days[begun:], loads[begun:]
    both = zip(days, loads, weighted(loads, ACUTE_DAYS), weighted(loads, CHRONIC_DAYS), strict=True)
    return [DayLoadOut(day=d, au=round(x), acute_au=round(a, 1), chronic_au=round(c, 1)) for d, x, a, c in both]


def _last_whole_week(found: Mapping[int, Sequence[WeekDone]], this: date) -> list[float] | None:
    """The days of the week before this one, the mean of a squad's athletes; None without any load in it."""
    rows = [w.days_au for weeks in found.values() for w in weeks if w.monday == this - timedelta(weeks=1)]
    if not rows or not any(sum(r) for r in rows):
        return None
    return [fmean(day) for day in zip(*rows, strict=True)]


def _load_words(page: Whose, load_au: float, monotony: float | None, strain: float | None) -> str:
    each = " each" if page.whose == "squad" else ""
    said = f"Last week {load_au:,.0f} AU{each}"
    return said + (f", monotony {monotony:.1f}, strain {strain:,.0f}." if monotony is not None and strain is not None else ".")


def _apart(
    found: Mapping[int, Sequence[WeekDone]], this: date, names: Mapping[int, str], *, all_of_them: bool = False
) -> list[ApartOut]:
    """Whose last whole week is far from their own usual."""
    rows: list[ApartOut] = []
    for who, weeks in found.items():
        sums = [sum(w.days_au) for w in weeks if w.monday < this]
        begun = next((i for i, x in enumerate(sums) if x > 0), len(sums))
        usual = beside_usual(sums[-1], sums[begun:-1]) if sums else None
        if usual is not None and (usual.is_far or all_of_them):
            words = f"{usual.load_au:.0f} AU last week, {usual.words}"
            rows.append(ApartOut(athlete_id=who, athlete=names[who], words=words, load_au=round(usual.load_au)))
    return sorted(rows, key=lambda r: r.athlete)


def _apart_words(page: Whose, apart: Sequence[ApartOut], mine: Sequence[ApartOut]) -> str:
    if page.whose == "athlete":
        return f"{mine[0].words}." if mine else f"What is usual is said after {LEAST_WEEKS} weeks with load."
    if not apart:
        return "Nobody is far from their own usual."
    return f"{_counted(len(apart), 'athlete is', 'athletes are')} far from their own usual."


def _missed_out(s: SessionDone, names: Mapping[int, str]) -> MissedSessionOut:
    return MissedSessionOut(
        athlete_id=s.athlete_id, athlete=names[s.athlete_id], day=s.day, key=s.key, theme=s.theme, reason=s.reason,
        reason_key=next((k for k, v in REASONS.items() if s.reason.split(", ")[0] == v), ""),
        plan=s.plan if s.plan != PLAN_AS_WRITTEN else "",
    )  # fmt: skip

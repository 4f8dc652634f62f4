"""What is known of an athlete and what it changes in the sessions ahead: each reason with its lines, and what found no place."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

from django.http import HttpRequest
from ninja import Router

from jarvok.app import clock
from jarvok.app.api.problems import ERRORS
from jarvok.app.api.who import who_of
from jarvok.app.athletes.actions import decline_wish as decline
from jarvok.app.athletes.known import known_of
from jarvok.app.athletes.lags import limits_of_strength
from jarvok.app.athletes.reading import athlete_of
from jarvok.app.centre.in_force import rules_in_force
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.schema import Schema
from jarvok.app.training.kept_athlete import reader_of
from jarvok.app.training.planned_weeks import plan_of, planned_week
from jarvok.core.chooser.known import BECAUSE_NAMES, Because, Need
from jarvok.core.chooser.wishes import wishes
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.shorthand import write
from jarvok.core.quantities.sentence import first_upper
from jarvok.core.rules import Rules
from jarvok.core.season.model import SeasonPlan
from jarvok.core.session.planned import PlannedLine, PlannedSession

router = Router(tags=["training"])
DAYS_AHEAD = 14  # this week's rest and the next


class ChosenLineOut(Schema):
    """A line ahead that is there, or is as it is, for one reason."""

    day: date
    key: str
    theme: str
    slot: str
    exercise: str
    text: str
    note: str
    why: str


class WishOut(Schema):
    """One reason: where it comes from, in words, the lines it changes, what found no place, and whether it is left out."""

    id: str
    because: str
    words: str
    lines: list[ChosenLineOut]
    no_place: list[str]
    can_decline: bool
    is_declined: bool


class ChosenOut(Schema):
    athlete_id: int
    reason: str
    wishes: list[WishOut]


class Declined(Schema):
    is_wanted: bool


def _sessions(athlete: Athlete, plan: SeasonPlan, rules: Rules) -> list[PlannedSession]:
    """The sessions of the two weeks ahead that are not begun, the rest of this week in them."""
    today = clock.today()
    last = today + timedelta(days=DAYS_AHEAD)
    weeks = [w for w in plan.weeks if w.start <= last and w.end >= today]
    begun = set(athlete.sessions.filter(day__gte=today).values_list("day", "key"))
    ahead = (s for w in weeks for s in planned_week(athlete, plan, w, rules))
    return [s for s in ahead if today <= s.day <= last and (s.day, s.key) not in begun]


def _line_out(session: PlannedSession, line: PlannedLine) -> ChosenLineOut:
    return ChosenLineOut(
        day=session.day,
        key=session.key,
        theme=session.theme,
        slot=line.slot,
        exercise=exercise(line.exercise_id).name,
        text=write(line.prescription),
        note=line.note,
        why=line.reason,
    )


def _out(athlete_id: int) -> ChosenOut:
    athlete, rules = reader_of(athlete_id), rules_in_force()
    plan = plan_of(athlete, clock.today(), rules)
    if plan is None:
        return ChosenOut(
            athlete_id=athlete.pk, reason="No season yet: what is recorded here chooses exercises once there is one.", wishes=[]
        )
    known = replace(known_of(athlete, clock.today(), rules), limits=limits_of_strength(athlete))
    every = wishes(replace(known, declined=frozenset()))
    sessions = _sessions(athlete, plan, rules)
    found = [_need_out(n, known.declined, sessions) for n in every.needs]
    named: dict[str, Because] = {}
    for preferred in every.prefers:
        named.setdefault(preferred.words, preferred.because)
    for finding in every.findings:
        named[f"{finding.reps} a set: your own test"] = Because.FINDING
    if every.stronger_side:
        named[f"the {every.stronger_side} is the stronger side"] = Because.SIDE
    said = {words for n in every.needs for words in n.words}
    for words, because in named.items():
        lines = _lines(sessions, (words,))
        if lines and words not in said:
            found.append(_wish_out("", because, words, lines))
    return ChosenOut(athlete_id=athlete.pk, reason="", wishes=found)


def _lines(sessions: list[PlannedSession], words: tuple[str, ...]) -> list[ChosenLineOut]:
    return [_line_out(s, x) for s in sessions for x in s.lines if any(w in x.reason or w in x.note for w in words)]


def _wish_out(key: str, because: Because, words: str, lines: list[ChosenLineOut]) -> WishOut:
    spoken = first_upper(words)
    return WishOut(
        id=key, because=BECAUSE_NAMES[because], words=spoken, lines=lines, no_place=[], can_decline=bool(key), is_declined=False
    )  # fmt: skip


def _need_out(need: Need, declined: frozenset[str], sessions: list[PlannedSession]) -> WishOut:
    lines = [] if need.id in declined else _lines(sessions, need.words)
    found = _wish_out(need.id, need.because, "; ".join(need.words), lines)
    said = dict.fromkeys(w for s in sessions for w in s.left_out if w.startswith(need.words[0]))
    found.no_place = [w.removeprefix("; ".join(need.words)).lstrip(": ") for w in said]
    found.is_declined = need.id in declined
    return found


@router.get("/athletes/{int:athlete_id}/chosen", response={200: ChosenOut, **ERRORS})
def read_chosen(request: HttpRequest, athlete_id: int) -> ChosenOut:
    return _out(athlete_id)


@router.put("/athletes/{int:athlete_id}/chosen/{wish_id}", response={200: ChosenOut, **ERRORS})
def decline_wish(request: HttpRequest, athlete_id: int, wish_id: str, payload: Declined) -> ChosenOut:
    """Leave the work for one reason out of every week from now on, or take it in again."""
    athlete = athlete_of(athlete_id)
    known = replace(known_of(athlete, clock.today(), rules_in_force()), limits=limits_of_strength(athlete))
    found = next((n for n in wishes(replace(known, declined=frozenset())).needs if n.id == wish_id), None)
    if found is None:
        raise CoachError("Nothing of that is asked for.", where="wish")
    decline.run(who_of(request), athlete, found, payload.is_wanted)
    return _out(athlete_id)

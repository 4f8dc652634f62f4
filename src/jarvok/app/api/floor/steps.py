"""The steps of a running session as the page needs them: order, rounds, rests, small sets, clocks, results asked for."""

from __future__ import annotations

from collections.abc import Callable, Collection
from functools import lru_cache
from typing import Any

from jarvok.app.api.floor.shapes import FloorStepOut, MeasureAskOut, StepClockOut, StepPartOut, StepSetOut
from jarvok.app.facts.floor.models import TrainingSession
from jarvok.app.floor.lines import FloorLine
from jarvok.core.errors import CoachError
from jarvok.core.floor.clocks import clock_plan
from jarvok.core.floor.measurable import MEASURED, measured_of
from jarvok.core.floor.measures import LISTS, MEASURES, OF_SCORE
from jarvok.core.floor.next_step import StepSet
from jarvok.core.floor.step_clocks import StepClock
from jarvok.core.floor.step_words import SetAt, amount_words, inside_words, place_words, then_words
from jarvok.core.floor.told_steps import ToldStep
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.shorthand import parse
from jarvok.core.quantities.days import order_of_days
from jarvok.core.session.blocks import Grouping

_SAID = "_steps_said"
Results = Callable[[TrainingSession, Collection[str]], dict[str, str]]


def step_clock_out(clock: StepClock | None) -> StepClockOut | None:
    """A clock that a step brings along, with its parts, so that the page can run it."""
    if clock is None:
        return None
    plan = clock_plan(clock.kind, clock.figures)
    return StepClockOut(
        kind=clock.kind,
        name=clock.name,
        words=plan.words,
        figures=dict(clock.figures),
        parts=[StepPartOut(call=p.call, seconds=p.seconds, is_work=p.is_work, round=p.round) for p in plan.parts],
        rounds=plan.rounds,
        beat_s=plan.beat_s,
        beats=plan.beats,
        seconds=plan.seconds,
    )


def asked_of(step: ToldStep, line: FloorLine) -> tuple[str, ...]:
    """Which results a step keeps beside repetitions, by their keys."""
    lift = exercise(line.line.exercise_id)
    if step.sets[0].warms_up:
        return measured_of(lift) if lift.kind not in ("jump", "run") else ()
    if step.grouping is Grouping.AMRAP:
        return OF_SCORE["rounds"]
    scored = OF_SCORE.get(scored_by(line.line.text), ())
    return scored or (() if len(step.sets) > 1 else measured_of(lift))


@lru_cache(maxsize=1024)
def scored_by(text: str) -> str:
    """What counts of a line as it was told; nothing where it says so or is not read any more."""
    try:
        return parse(text).scored_by
    except CoachError:
        return ""


@lru_cache(maxsize=1024)
def ends_with_a_miss(text: str) -> bool:
    """Whether a line as it was told goes on until one is missed."""
    try:
        return parse(text).until_miss
    except CoachError:
        return False


def steps_out(
    session: TrainingSession, steps: tuple[ToldStep, ...], lines: list[FloorLine], results: Results
) -> list[FloorStepOut]:
    """The steps with what the page says of each; `results` finds what was reached last time in some exercises.

    All of it was told before: of a session that is at hand it is said once, as long as its steps are those.
    """
    told_in = (steps, order_of_days())
    known: tuple[Any, list[FloorStepOut]] | None = session.__dict__.get(_SAID)
    if known is None or known[0] != told_in:
        known = session.__dict__[_SAID] = (told_in, _steps_out(session, steps, lines, results))
    return known[1]


def _steps_out(
    session: TrainingSession, steps: tuple[ToldStep, ...], lines: list[FloorLine], results: Results
) -> list[FloorStepOut]:
    asked = [asked_of(s, lines[s.sets[0].line]) for s in steps]
    told_of = {lines[s.sets[0].line].line.exercise_id: keys for s, keys in zip(steps, asked, strict=True) if keys}
    lifts = {lift for lift, keys in told_of.items() if keys != ("velocity_mps",)}
    last = results(session, lifts)
    told = {StepSet(at, x.kind == "ramp", x.number): x.planned for at, line in enumerate(lines) for x in line.sets}
    return [step_out(s, lines, told.get, keys, last) for s, keys in zip(steps, asked, strict=True)]


def step_out(
    step: ToldStep, lines: list[FloorLine], told_at: SetAt, asked: tuple[str, ...], last: dict[str, str]
) -> FloorStepOut:
    """A step with what the page says of it."""

    held = list(dict.fromkeys(s.line for s in step.sets))
    return FloorStepOut(
        id=step.id,
        block=step.block,
        slots=" ".join(lines[at].line.slot for at in held),
        title=" + ".join(exercise(lines[at].line.exercise_id).name for at in held),
        place=place_words(step),
        amount=amount_words(step, told_at),
        inside=inside_words(step, told_at),
        then=then_words(step),
        sets=[
            StepSetOut(
                line_id=lines[s.line].line.pk,
                kind="ramp" if s.warms_up else "work",
                number=s.number,
                label=exercise(lines[s.line].line.exercise_id).name if len(held) > 1 else f"set {s.number}",
                reps=told.reps or 0 if (told := told_at(s)) is not None else 0,
            )
            for s in step.sets
        ],
        is_one_bar=step.is_one_bar,
        until_miss=step.grouping is Grouping.UNTIL_MISS or ends_with_a_miss(lines[held[0]].line.text),
        clock=step_clock_out(step.clock),
        asks=[
            MeasureAskOut(
                key=k,
                name=MEASURES[k].asked,
                unit=MEASURES[k].unit,
                is_whole=MEASURES[k].is_whole,
                is_list=k in LISTS,
                is_optional=k in MEASURED,
                last=last.get(lines[held[0]].line.exercise_id, ""),
            )
            for k in asked
        ],
    )

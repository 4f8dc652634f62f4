"""The steps of a running session as the page needs them: order, rounds, rests, small sets, clocks, results asked for."""

from __future__ import annotations

from jarvok.app.api.floor.shapes import FloorStepOut, MeasureAskOut, StepClockOut, StepPartOut, StepSetOut
from jarvok.app.floor.lines import FloorLine, set_at
from jarvok.core.errors import CoachError
from jarvok.core.floor.clocks import clock_plan
from jarvok.core.floor.measures import MEASURES, OF_SCORE
from jarvok.core.floor.step_clocks import StepClock
from jarvok.core.floor.told import ToldSet
from jarvok.core.floor.told_steps import ToldStep
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.shorthand import parse
from jarvok.core.quantities.mass import format_kg
from jarvok.core.session.blocks import Grouping
from jarvok.core.session.blocks import clock as clock_words

ROUNDS = frozenset({Grouping.PAIR, Grouping.CIRCUIT, Grouping.CONTRAST, Grouping.PAPE})


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


def measures_asked(text: str, grouping: Grouping) -> list[MeasureAskOut]:
    """What a line or block keeps as its result beside repetitions."""
    try:
        scored_by = parse(text).scored_by
    except CoachError:
        scored_by = ""
    keys = OF_SCORE["rounds"] if grouping is Grouping.AMRAP else OF_SCORE.get(scored_by, ())
    return [MeasureAskOut(key=k, name=MEASURES[k].name, unit=MEASURES[k].unit, is_whole=MEASURES[k].is_whole) for k in keys]


def step_out(step: ToldStep, lines: list[FloorLine]) -> FloorStepOut:
    """A step with what the page says of it."""
    held = list(dict.fromkeys(s.line for s in step.sets))
    first = lines[held[0]].line
    return FloorStepOut(
        id=step.id,
        block=step.block,
        slots=" ".join(lines[at].line.slot for at in held),
        title=" + ".join(exercise(lines[at].line.exercise_id).name for at in held),
        place=place_words(step),
        amount=amount_words(step, lines) if step.is_one_tap else "",
        inside=inside_words(step, lines),
        then=then_words(step),
        sets=[
            StepSetOut(line_id=lines[s.line].line.pk, kind="ramp" if s.warms_up else "work", number=s.number) for s in step.sets
        ],
        is_one_bar=step.is_one_bar,
        clock=step_clock_out(step.clock),
        asks=[] if step.sets[0].warms_up else measures_asked(first.text, step.grouping),
    )


def place_words(step: ToldStep) -> str:
    """Which warm-up set, set or round it is, of how many."""
    if step.sets[0].warms_up:
        return f"warm-up {step.round} of {step.rounds}"
    if step.grouping is Grouping.AMRAP:
        return "as many rounds as you can"
    if step.grouping is Grouping.WARM_UP:
        return "round and round"
    by_rounds = step.is_one_tap or step.grouping in ROUNDS
    return f"{'round' if by_rounds else 'set'} {step.round} of {step.rounds}"


def amount_words(step: ToldStep, lines: list[FloorLine]) -> str:
    """What is done of each in a step of several sets."""
    found = [set_at(lines, s) for s in step.sets]
    return " + ".join(amount_of(f.planned) for f in found if f is not None)


def amount_of(planned: ToldSet) -> str:
    """A set's amount in words."""
    if planned.seconds is not None:
        return f"{planned.seconds} s"
    if planned.metres is not None:
        return f"{planned.metres} m"
    return f"{planned.reps or 1}{'+' if planned.or_more else ''}"


def inside_words(step: ToldStep, lines: list[FloorLine]) -> str:
    """Small sets of a cluster, and the loads a set goes on with at once."""
    parts: list[str] = []
    minis = step.minis[0]
    if minis:
        rest = f", {step.inside_s} s between" if step.inside_s else ""
        parts.append(" + ".join(str(n) for n in minis) + rest)
    first = set_at(lines, step.sets[0])
    if first is not None and first.planned.drops_kg:
        parts.append(f"then at once {', '.join(format_kg(kg) for kg in first.planned.drops_kg)} kg")
    return " · ".join(parts)


def then_words(step: ToldStep) -> str:
    """What follows: a rest, the clock, or the next at once."""
    if step.sets[0].warms_up:
        return ""
    if step.every_s is not None:
        return f"a round every {clock_words(step.every_s)}"
    return f"then rest {clock_words(step.rest_s)}" if step.rest_s else ""

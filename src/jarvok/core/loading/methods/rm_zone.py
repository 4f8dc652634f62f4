"""RM zone: the heaviest load for a range of repetitions, the last set to failure."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.core.equations import MOST_REPS
from jarvok.core.loading.methods.increments import step_up
from jarvok.core.loading.reader import Reader
from jarvok.core.loading.rule import Example, Intent, LoadRule, Method, by_effort, no_step
from jarvok.core.loading.state import Ask, LiftState, Offer
from jarvok.core.marks.past import PastSession
from jarvok.core.working import COMMON_PRACTICE, Input

CAUTION = "The last set goes to failure: spotters or safeties, or stop one short."


def _last_in_zone(low: int, high: int, state: LiftState) -> PastSession | None:
    """The newest session whose last set was near the zone [J]: the load there is worth going on from."""
    for session in reversed(state.history):
        if session.top_kg and session.sets and low - 2 <= session.sets[-1].reps <= high + 4:
            planned = session.sets[-1].planned_reps
            if planned is None or low - 2 <= planned <= high + 2:
                return session
    return None


def offer(low_reps: int, high_reps: int, state: LiftState) -> Offer | None:
    """Return the load for a `low_reps`-`high_reps`RM: from the last session in the zone, else from the max."""
    last = _last_in_zone(low_reps, high_reps, state)
    zone = f"{low_reps}–{high_reps}RM" if high_reps > low_reps else f"{low_reps}RM"
    if last is not None and last.top_kg is not None and (last.sets[-1].rir is None or last.sets[-1].rir < 1):
        reps, load = last.sets[-1].reps, last.top_kg
        inputs = (Input("last time", last.words, last.ref),)
        if reps > high_reps:
            step = step_up(load, state, times=reps - high_reps)
            return Offer(load + step.kg, "RM zone", f"{reps} were over {zone}: up {step.kg:g} kg", step.source, inputs,
                         caution=CAUTION)  # fmt: skip
        if reps < low_reps:
            down = state.at_share(state.equation.ratio(max(1, reps)) / state.equation.ratio(low_reps), load)
            return Offer(down, "RM zone", f"{reps} were under {zone}: down to the {low_reps}RM", COMMON_PRACTICE, inputs,
                         caution=CAUTION)  # fmt: skip
        return Offer(load, "RM zone", f"{reps} lay inside {zone}: the same again", COMMON_PRACTICE, inputs, caution=CAUTION)
    if state.max_kg is None or high_reps > MOST_REPS:
        return None
    middle = (low_reps + high_reps) / 2
    load = state.equation.load_kg(state.max_kg, middle)
    rule = f"a {middle:g}RM of {state.max_kg:.1f} kg, the middle of {zone} ({state.equation.name})"
    return Offer(load, "RM zone", rule, state.equation.source, state.max_inputs, caution=CAUTION)


@dataclass(frozen=True)
class RmZone(LoadRule):
    """The heaviest load for a range of repetitions, the last set to failure."""

    low_reps: int
    high_reps: int

    method = "rm_zone"
    examples = (Example("3x8-10RM", "heaviest for eight to ten, last set to failure"),)
    looks_back = True
    written_behind_reps = "RM"
    is_to_failure = True

    @classmethod
    def after_reps(cls, reader: Reader, reps: int, reps_high: int | None, at: int) -> RmZone | None:
        """Read RM behind the repetitions."""
        if not reader.take(r"RM\b"):
            return None
        if (reps_high or reps) > MOST_REPS:
            raise reader.fail(f"An RM of 1 to {MOST_REPS} repetitions is accepted.", "3 × 8-10RM", at)
        return RmZone(reps, reps_high or reps)

    def written(self) -> str:
        """It is said with the repetitions."""
        return ""

    def offer(self, ask: Ask, state: LiftState) -> Offer:
        """Return the load of the zone, else effort."""
        return offer(self.low_reps, self.high_reps, state) or by_effort("no max and no earlier set in the zone")

    def step(self, by: int) -> RmZone:
        """A zone has no step."""
        no_step()


RULES = (RmZone,)
WIDTH_REPS = 2  # [J] from the fewest to the most of a zone that stands for a number


def _express(intent: Intent, state: LiftState) -> RmZone | None:
    most = intent.reps + WIDTH_REPS
    return RmZone(intent.reps, most) if most <= MOST_REPS else None


METHOD = Method(
    key="rm_zone",
    place=4,
    name="RM zone",
    how="heaviest for a rep range, last set to failure",
    good_for="big groups, no max needed",
    limits="every day is a heavy day; light days and power work are lost; chronic failure",
    spoken="RM zone",
    express=_express,
    reps_above=WIDTH_REPS,
    knows_the_week=False,
)

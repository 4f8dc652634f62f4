"""Linear loading: the last load plus a step, once all its repetitions were done."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import takewhile

from jarvok.core.loading.methods import reserve
from jarvok.core.loading.methods.increments import step_up
from jarvok.core.loading.reader import MASS_UNIT, NUMBER, Reader, is_pounds, mass_kg
from jarvok.core.loading.rule import Example, Intent, LoadRule, Method, no_step
from jarvok.core.loading.state import Ask, LiftState, Offer
from jarvok.core.marks.past import PastSession
from jarvok.core.quantities.mass import lb_from_kg
from jarvok.core.working import Input

NO_HISTORY = "no earlier session in this lift: the first load is found by feel, or by percent"


def all_done(session: PastSession) -> bool:
    """Whether every set reached its planned repetitions with form intact."""
    return bool(session.sets) and all(s.reps >= (s.planned_reps or 1) and not s.form_broke for s in session.sets)


def offer(state: LiftState, step_kg: float | None = None) -> Offer | None:
    """Return last time's load plus a step when it was done in full, the same load when not, None without a session."""
    last = state.last
    if last is None or last.top_kg is None:
        return None
    step = step_up(last.top_kg, state, step_kg, times=_times_done(state.history, last.top_kg))
    inputs = (Input("last time", last.words, last.ref),)
    if not all_done(last):
        return Offer(last.top_kg, "linear", f"{last.top_kg:g} kg again: not every repetition was there", step.source, inputs)
    if not step.kg:
        words = f"{last.top_kg:g} kg again: the step is not earned yet ({step.words})"
        return Offer(last.top_kg, "linear", words, step.source, inputs, caution=step.caution)
    return Offer(
        last.top_kg + step.kg,
        "linear",
        f"last load {last.top_kg:g} + {step.kg:g} kg ({step.words})",
        step.source,
        inputs,
        caution=step.caution,
    )


def _times_done(history: Sequence[PastSession], load_kg: float) -> int:
    """How many of the last sessions in a row were done in full at a load."""
    return len(list(takewhile(lambda s: s.top_kg == load_kg and all_done(s), reversed(history))))


@dataclass(frozen=True)
class LastPlus(LoadRule):
    """Linear loading: last time's load plus `step_kg`, or plus the published increment; `in_lb` as it was written."""

    step_kg: float | None = None
    in_lb: bool = False

    method = "linear"
    examples = (
        Example("3x5 @ last + 2.5 kg", "last time's load plus a step, once all of it was done"),
        Example("5x5 +2.5 kg", "the same, shorter"),
        Example("3x5 @ last + step", "the same with the published increment"),
    )
    looks_back = True

    @classmethod
    def begins(cls, reader: Reader) -> LastPlus | None:
        """Read last + 2.5 kg, or last + step."""
        m = reader.take(rf"(?:last(?:\s+(?:load|time|week))?\s*)?(?:\+|plus)\s*(?:{NUMBER}\s*{MASS_UNIT}|(?:a\s+)?step\b)")
        if not m:
            return None
        return LastPlus(mass_kg(m.group(1), m.group(2)), is_pounds(m.group(2))) if m.group(1) else LastPlus()

    def written(self) -> str:
        """Return the step in kg, or the word."""
        if self.step_kg is None:
            return " @ last + step"
        return f" @ last + {lb_from_kg(self.step_kg):g} lb" if self.in_lb else f" @ last + {self.step_kg:g} kg"

    def offer(self, ask: Ask, state: LiftState) -> Offer:
        """Return last time's load and the step, else the usual reserve."""
        return offer(state, self.step_kg) or reserve.instead(ask, state, NO_HISTORY)

    def step(self, by: int) -> LastPlus:
        """What hangs on last time has no step of its own."""
        no_step()


RULES = (LastPlus,)


def _express(intent: Intent, state: LiftState) -> LastPlus:
    return LastPlus()


METHOD = Method(
    key="linear",
    place=1,
    name="Linear",
    how="last load plus a step",
    good_for="beginners, the first weeks",
    limits="no variation, a plateau within a couple of months, fatigue unaccounted for",
    spoken="linear",
    express=_express,
    knows_the_week=False,
    may_miss_the_meaning=True,
)

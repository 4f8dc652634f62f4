"""2-for-2: raise the load when the last set beat the goal by two repetitions in two consecutive sessions."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.core.loading.methods import reserve
from jarvok.core.loading.methods.increments import step_up
from jarvok.core.loading.methods.linear import NO_HISTORY
from jarvok.core.loading.reader import Reader
from jarvok.core.loading.rule import Example, Intent, LoadRule, Method, no_step
from jarvok.core.loading.state import Ask, LiftState, Offer
from jarvok.core.working import Input

SESSIONS = 2  # the second 2 of 2-for-2, published: Haff & Triplett 2016, quoted from memory


def offer(goal_reps: int, state: LiftState) -> Offer | None:
    """Return the load for a goal of `goal_reps`: a step up, or the same again; None without an earlier session."""
    last = state.last
    if last is None or last.top_kg is None:
        return None
    over = int(state.rules["load.two_for_two_reps"])
    recent = state.history[-SESSIONS:]  # in a row: one between them at another load begins the count anew
    is_alike = len(recent) == SESSIONS and all(s.top_kg == last.top_kg for s in recent)
    beaten = [s.sets[-1].reps >= goal_reps + over and not s.sets[-1].form_broke for s in recent]
    times = min(s.sets[-1].reps - goal_reps for s in recent) // over
    step = step_up(last.top_kg, state, times=max(1, times))
    inputs = tuple(Input("session", s.words, s.ref) for s in recent)
    if is_alike and all(beaten) and step.kg:
        words = f"last set {over} or more over {goal_reps} in two sessions: {last.top_kg:g} + {step.kg:g} kg ({step.words})"
        return Offer(last.top_kg + step.kg, "2-for-2", words, step.source, inputs, caution=step.caution)
    counts = " and ".join(f"{s.sets[-1].reps} at {s.top_kg:g} kg" for s in recent)
    words = f"{last.top_kg:g} kg again: last sets of {counts}; {goal_reps + over} in two sessions in a row at one load raise it"
    return Offer(last.top_kg, "2-for-2", words, step.source, inputs, caution=step.caution if is_alike and all(beaten) else "")


@dataclass(frozen=True)
class TwoForTwo(LoadRule):
    """2-for-2: up when the last set beat the goal by two in two sessions."""

    method = "two_for_two"
    examples = (Example("3x8, 2-for-2", "up when the last set beat the goal by two in two sessions"),)
    looks_back = True

    @classmethod
    def begins(cls, reader: Reader) -> TwoForTwo | None:
        """Read 2-for-2."""
        return TwoForTwo() if reader.take(r"2[\s-]*for[\s-]*2\b") else None

    def written(self) -> str:
        """Return its name."""
        return ", 2-for-2"

    def offer(self, ask: Ask, state: LiftState) -> Offer:
        """Return last time's load, with the step once it is earned, else the usual reserve."""
        return offer(ask.reps, state) or reserve.instead(ask, state, NO_HISTORY)

    def step(self, by: int) -> TwoForTwo:
        """What hangs on last time has no step of its own."""
        no_step()


RULES = (TwoForTwo,)


def _express(intent: Intent, state: LiftState) -> TwoForTwo:
    return TwoForTwo()


METHOD = Method(
    key="two_for_two",
    place=2,
    name="2-for-2",
    how="up after two sessions two reps over the goal",
    good_for="novices",
    limits="invites failure and poor technique; one load for all sets",
    spoken="2-for-2",
    express=_express,
    knows_the_week=False,
    may_miss_the_meaning=True,
)

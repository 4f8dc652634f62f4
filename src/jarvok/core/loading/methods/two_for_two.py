"""2-for-2: raise the load when the last set beat the goal by two repetitions in two consecutive sessions."""

from __future__ import annotations

from jarvok.core.loading.methods.increments import step_up
from jarvok.core.loading.state import LiftState, Offer
from jarvok.core.working import Input

SESSIONS = 2  # the second 2 of 2-for-2, published: Haff & Triplett 2016, quoted from memory


def offer(goal_reps: int, state: LiftState) -> Offer | None:
    """Return the load for a goal of `goal_reps`: a step up, or the same again; None without an earlier session."""
    last = state.last
    if last is None or last.top_kg is None:
        return None
    over = int(state.rules["load.two_for_two_reps"])
    recent = [s for s in state.history if s.top_kg == last.top_kg][-SESSIONS:]
    beaten = [s.sets[-1].reps >= goal_reps + over for s in recent]
    step = step_up(last.top_kg, state)
    inputs = tuple(Input("session", s.words, s.ref) for s in recent)
    if len(recent) == SESSIONS and all(beaten):
        words = f"last set {over} or more over {goal_reps} in two sessions: {last.top_kg:g} + {step.kg:g} kg ({step.words})"
        return Offer(last.top_kg + step.kg, "2-for-2", words, step.source, inputs, caution=step.caution)
    counts = " and ".join(str(s.sets[-1].reps) for s in recent)
    words = f"{last.top_kg:g} kg again: last sets of {counts}; {goal_reps + over} in two sessions in a row raise it"
    return Offer(last.top_kg, "2-for-2", words, step.source, inputs)

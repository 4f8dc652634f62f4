"""Linear loading: the last load plus a step, once all its repetitions were done."""

from __future__ import annotations

from jarvok.core.loading.methods.increments import step_up
from jarvok.core.loading.state import LiftState, Offer
from jarvok.core.marks.past import PastSession
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
    step = step_up(last.top_kg, state, step_kg)
    inputs = (Input("last time", last.words, last.ref),)
    if not all_done(last):
        return Offer(last.top_kg, "linear", f"{last.top_kg:g} kg again: not every repetition was there", step.source, inputs)
    return Offer(
        last.top_kg + step.kg,
        "linear",
        f"last load {last.top_kg:g} + {step.kg:g} kg ({step.words})",
        step.source,
        inputs,
        caution=step.caution,
    )

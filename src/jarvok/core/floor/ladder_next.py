"""The next rung of a ladder to a velocity that is climbed inside a session: from the velocities of the rungs before."""

from __future__ import annotations

from collections.abc import Sequence

from jarvok.core.floor.advice import Advice, DoneSet, Move
from jarvok.core.library.kit import implement_for
from jarvok.core.loading.methods.velocity_ladder import VelocityLadder
from jarvok.core.loading.prescription import Prescription
from jarvok.core.loading.state import LiftState
from jarvok.core.quantities.mass import format_mass
from jarvok.core.quantities.plates import Implement, unit_of
from jarvok.core.velocity.ladder import LadderRule, State, Try, next_load
from jarvok.core.velocity.profile import general_slope_mps_per_kg, record_at


def ladder_of(line: Prescription | None) -> VelocityLadder | None:
    """Return the ladder a line is climbed by, or None."""
    rule = line.groups[0].load if line is not None else None
    return rule if isinstance(rule, VelocityLadder) else None


def by_ladder(rule: VelocityLadder, done: Sequence[DoneSet], sets_left: int, state: LiftState) -> Advice | None:
    """Return the next load, or the end of the ladder; None without a velocity, where the line goes on as written."""
    implement = state.implement or implement_for(state.exercise)
    tries = [Try(d.load_kg, max(d.velocities_mps), d.trouble is None) for d in done if d.load_kg is not None and d.velocities_mps]
    if implement is None or not tries or not done[-1].velocities_mps:
        return None
    slope = state.profile.slope_mps_per_kg if state.profile is not None else None
    if slope is None and state.max_kg:
        slope = general_slope_mps_per_kg(state.max_kg + state.body_kg, is_peak=rule.peak)
    today = max((p.day for p in state.profile.points), default=None) if state.profile is not None else None  # of these tries
    record = record_at(state.profile, rule.target_mps, before=today)
    wanted = LadderRule(
        rule.target_mps,
        implement,
        slope,
        rule.expected(state).load_kg,
        record_kg=record.load_kg if record is not None else None,
    )
    found = next_load(wanted, tries, state.rules)
    if found.state is State.ENDED:
        return Advice(Move.DONE, None, found.sentence, found.working)
    if sets_left <= 0:
        best = "no load has passed" if found.best_kg is None else f"heaviest so far {_said(found.best_kg, implement)}"
        return Advice(Move.DONE, None, f"All rounds are done before the ladder ended: {best}.", found.working)
    last = done[-1].load_kg or 0.0
    load = found.load_kg or last
    move = Move.UP if load > last else Move.DOWN if load < last else Move.SAME
    return Advice(move, load, found.sentence, found.working)


def _said(load_kg: float, implement: Implement) -> str:
    unit = unit_of(implement)
    return f"{format_mass(load_kg, unit)} {unit}"

"""A ladder to a velocity: one repetition a round, heavier until the bar is slower than that; the floor sets each next load."""

from __future__ import annotations

from dataclasses import dataclass, replace

from jarvok.core.loading.methods.velocity import LEAST_MPS, MOST_MPS, MPS_STEP
from jarvok.core.loading.reader import NUMBER, Reader, number
from jarvok.core.loading.rule import Example, LoadRule, Target, by_effort
from jarvok.core.loading.state import Ask, LiftState, Offer
from jarvok.core.quantities.days import said_day
from jarvok.core.quantities.mass import format_mass
from jarvok.core.quantities.plates import unit_of
from jarvok.core.velocity.ladder import EXPECTED_SHARE, START_SHARE
from jarvok.core.velocity.profile import record_at
from jarvok.core.working import Input, Source

METHOD_NAME = "velocity ladder"


def expected_kg(target_mps: float | None, state: LiftState, record_kg: float | None) -> tuple[float | None, str]:
    """Return the load in kg a ladder is thought to reach, with why; None where nothing says one.

    `target_mps` is None for a single with form intact.
    """
    if record_kg is not None:
        return record_kg, "the best so far"
    if target_mps is not None and state.profile is not None and (load := state.profile.load_kg(target_mps)) > 0:
        return load, "where the own line crosses the velocity"
    if state.max_kg is None:
        return None, ""
    share = EXPECTED_SHARE if target_mps is not None else 1.0
    return state.at_share(share), f"{100 * share:.0f} % of the max"


@dataclass(frozen=True)
class VelocityLadder(LoadRule):
    """Loads that climb towards the heaviest still moved at `target_mps`: mean of the concentric phase, or peak."""

    target_mps: float
    peak: bool = False

    examples = (
        Example("6x1 ladder to 1.05 m/s peak", "heavier each round until the bar is slower than that; it needs a sensor"),
    )
    varies = True
    depends_on_place = True
    carries_progress = True

    @classmethod
    def begins(cls, reader: Reader) -> VelocityLadder | None:
        """Read ladder to 1.05 m/s, with peak or mean behind it."""
        m = reader.take(rf"ladder\s+(?:up\s+)?to\s*(?:≥|>=?|at least)?\s*{NUMBER}\s*m/s\s*(peak|mean)?")
        if m is None:
            return None
        target = number(m.group(1))
        if not LEAST_MPS <= target <= MOST_MPS:
            raise reader.fail(f"Velocities from {LEAST_MPS:g} to {MOST_MPS:g} m/s are accepted.", at=m.start(1))
        return VelocityLadder(target, (m.group(2) or "").lower() == "peak")

    def written(self) -> str:
        """Return the velocity the ladder leads to."""
        return f", ladder to {self.target_mps:.2f} m/s{' peak' if self.peak else ''}"

    def expected(self, state: LiftState) -> Offer:
        """Return the load thought to be reached: the record at this velocity, else by the own line, else a share of the max."""
        record = record_at(state.profile, self.target_mps)
        inputs = (Input("best at this velocity", f"{record.load_kg:g} kg, {said_day(record.day)}", record.ref),) if record else ()
        load, rule = expected_kg(self.target_mps, state, record.load_kg if record else None)
        if load is None:
            return by_effort("no best, no velocity profile and no max in this lift")
        return Offer(load, METHOD_NAME, rule, Source("J", "Jarvok's default"), (*inputs, *state.max_inputs))

    def record_words(self, state: LiftState) -> str:
        """Return the athlete's record at this velocity, empty where there is none."""
        record = record_at(state.profile, self.target_mps)
        kind = "peak" if self.peak else "mean"
        if record is None:
            return ""
        unit = unit_of(state.implement) if state.implement is not None else "kg"
        return f"best at {self.target_mps:.2f} m/s {kind}: {format_mass(record.load_kg, unit)} {unit}, {said_day(record.day)}"

    def offer(self, ask: Ask, state: LiftState) -> Offer:
        """Return the load of a rung: from well below up to what is expected."""
        expected = self.expected(state)
        if expected.load_kg is None:
            return expected
        climbed = ask.position / (ask.sets - 1) if ask.sets > 1 else 0.0
        share = START_SHARE + (1 - START_SHARE) * climbed
        words = (
            f"rung {ask.position + 1} of {ask.sets}, {100 * share:.0f} % of the load expected; each next one by the bar's speed"
        )
        return expected._replace(load_kg=share * expected.load_kg, rule=f"{expected.rule}: {words}")

    def step(self, by: int) -> VelocityLadder:
        """Return a slower bar for a step up."""
        return replace(self, target_mps=max(LEAST_MPS, round(self.target_mps - MPS_STEP * by, 2)))

    def target(self, state: LiftState) -> Target:
        """Return the velocity in m/s."""
        return Target((self.target_mps, self.target_mps), self.peak)


RULES = (VelocityLadder,)

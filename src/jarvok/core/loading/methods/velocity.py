"""Velocity: the load moved at a target, by the athlete's own line, else by the lift's general relation."""

from __future__ import annotations

from jarvok.core.exercises import Exercise
from jarvok.core.loading.state import LiftState, Offer
from jarvok.core.quantities.mass import format_kg
from jarvok.core.velocity.profile import general_share_for_velocity, general_velocity_mps
from jarvok.core.velocity.zones import ZONES
from jarvok.core.working import Input, Source

STAND_IN_PCT = {"ballistic": 30.0, "peak": 30.0, "strength": 60.0}  # [J] where a lift has no relation at all
OPEN_ZONE_MPS = 0.30  # [J] how far into the open, fastest zone a target reaches


def span(low_mps: float, high_mps: float, peak: bool) -> str:
    """Return a target in words."""
    ends = f"{low_mps:.2f}" if low_mps == high_mps else f"{low_mps:.2f}–{high_mps:.2f}"
    return f"{ends} m/s {'peak' if peak else 'mean'}"


def zone_target(name: str, exercise: Exercise) -> tuple[float, float]:
    """Return the bounds of a zone of mean velocity for this lift: never slower than its velocity at a max."""
    zone = next(z for z in ZONES if z.name == name)
    slowest = exercise.v1rm.mps if exercise.v1rm else 0.15
    high = zone.high_mps if zone.high_mps < 10 else zone.low_mps + OPEN_ZONE_MPS
    return max(zone.low_mps, min(slowest, high - 0.05)), high


def own_gap(state: LiftState) -> tuple[str, ...]:
    """Return what is missing before the own line may set loads; empty when nothing is."""
    if state.profile is None:
        return ("no load–velocity profile in this lift yet",)
    return state.profile.quality


def offer_own(low_mps: float, high_mps: float, peak: bool, state: LiftState) -> Offer | None:
    """Return the load at the middle of the target on the own line, held near the tested loads; None without one."""
    profile = state.profile
    if profile is None or not profile.is_sound or peak != (state.exercise.velocity == "peak"):
        return None
    middle = (low_mps + high_mps) / 2
    load, (low, high) = profile.load_kg(middle), profile.loads_kg
    outside = state.rules["load.outside_profile_pct"] / 100 * (state.max_kg or high)
    caution = ""
    if not low - outside <= load <= high + outside:
        load = min(max(load, low - outside), high + outside)
        caution = (
            f"{span(low_mps, high_mps, peak)} lies outside the loads tested ({format_kg(low)}–{format_kg(high)} kg); "
            "held at their edge."
        )
    days = sorted(p.day for p in profile.points)
    said = f"{len(profile.points)} points, R² {profile.r_squared:.2f}, {days[0]:%-d %b} to {days[-1]:%-d %b}"
    return Offer(
        load,
        "velocity",
        f"load at {middle:.2f} m/s on the own line" if not caution else "edge of the tested loads",
        Source("fact", "own load–velocity profile"),
        (Input("profile", said, profile.points[-1].ref), Input("target", span(low_mps, high_mps, peak))),
        caution=caution,
    )


def offer_general(low_mps: float, high_mps: float, peak: bool, state: LiftState) -> Offer | None:
    """Return the percentage that stands in for a velocity, by this lift's own general relation; None without a max."""
    if state.max_kg is None:
        return None
    middle, gap = (low_mps + high_mps) / 2, own_gap(state)
    share = None if peak else general_share_for_velocity(state.exercise, middle)
    if share is not None and state.exercise.v1rm is not None:
        rule = f"{middle:.2f} m/s is about {100 * share:.0f} % by the general relation of this lift"
        return Offer(share * state.max_kg, "percent", rule, state.exercise.v1rm.source, state.max_inputs, missing=gap)
    kind = "peak" if peak else state.exercise.kind
    pct = STAND_IN_PCT.get(kind, STAND_IN_PCT["strength"])
    rule = f"about {pct:.0f} % stands in: this lift has no general velocity relation"
    return Offer(pct / 100 * state.max_kg, "percent", rule, Source("J", "Jarvok's default"), state.max_inputs, missing=gap)


def velocity_at(share: float, state: LiftState) -> float | None:
    """Return the mean velocity in m/s to aim at for a share of the max, by the lift's general line; None without one."""
    return general_velocity_mps(state.exercise, share) if state.exercise.velocity == "mean" else None

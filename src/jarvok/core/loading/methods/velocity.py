"""Velocity: the load moved at a target, by the athlete's own line, else by the lift's general relation."""

from __future__ import annotations

from dataclasses import dataclass, replace

from jarvok.core.exercises import Exercise
from jarvok.core.loading.reader import NUMBER, Reader, number
from jarvok.core.loading.rule import Example, Intent, LoadRule, Method, Target, by_effort, no_step
from jarvok.core.loading.state import Ask, LiftState, Offer
from jarvok.core.quantities.days import said_day
from jarvok.core.quantities.mass import format_kg
from jarvok.core.velocity.profile import general_share_for_velocity, general_velocity_mps
from jarvok.core.velocity.zones import ZONES
from jarvok.core.working import Input, Source

STAND_IN_PCT = {"ballistic": 30.0, "peak": 30.0, "strength": 60.0}  # [J] where a lift has no relation at all
ZONE_NAMES = sorted((zone.name for zone in ZONES), key=len, reverse=True)
LEAST_MPS, MOST_MPS = 0.05, 5.0  # [T]
SLOWEST_MPS = 0.15  # [C] of a max in the slowest lifts
MPS_STEP = 0.05  # [J]
OPEN_ZONE_MPS = 0.30  # [J] how far into the open, fastest zone a target reaches


def span(low_mps: float, high_mps: float, peak: bool) -> str:
    """Return a target in words."""
    ends = f"{low_mps:.2f}" if low_mps == high_mps else f"{low_mps:.2f}–{high_mps:.2f}"
    return f"{ends} m/s {'peak' if peak else 'mean'}"


def zone_target(name: str, exercise: Exercise) -> tuple[float, float]:
    """Return the bounds of a zone of mean velocity for this lift: never slower than its velocity at a max."""
    zone = next(z for z in ZONES if z.name == name)
    slowest = exercise.v1rm.mps if exercise.v1rm else SLOWEST_MPS
    high = zone.high_mps if zone.high_mps < 10 else zone.low_mps + OPEN_ZONE_MPS
    return max(zone.low_mps, min(slowest, high - LEAST_MPS)), high


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
    said = f"{len(profile.points)} points, R² {profile.r_squared:.2f}, {said_day(days[0])} to {said_day(days[-1])}"
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
        return Offer(state.at_share(share), "percent", rule, state.exercise.v1rm.source, state.max_inputs, missing=gap)
    kind = "peak" if peak else state.exercise.kind
    pct = STAND_IN_PCT.get(kind, STAND_IN_PCT["strength"])
    rule = f"about {pct:.0f} % is taken: this lift has no general velocity relation"
    return Offer(state.at_share(pct / 100), "percent", rule, Source("J", "Jarvok's default"), state.max_inputs, missing=gap)


def velocity_at(share: float, state: LiftState) -> float | None:
    """Return the mean velocity in m/s to aim at for a share of the max, by the lift's general line; None without one."""
    return general_velocity_mps(state.exercise, share) if state.exercise.velocity == "mean" else None


def load_at(low_mps: float, high_mps: float, peak: bool, state: LiftState) -> Offer:
    """Return the load of a target by the own line, else by the general relation, else effort."""
    own = offer_own(low_mps, high_mps, peak, state)
    return own or offer_general(low_mps, high_mps, peak, state) or by_effort(*own_gap(state), "no max in this lift")


OVER_LEAST_MPS = 0.05  # [J] so much over the least is aimed at


@dataclass(frozen=True)
class VelocityTarget(LoadRule):
    """The load moved at a velocity in m/s: mean of the concentric phase, or peak."""

    low_mps: float
    high_mps: float
    peak: bool = False
    at_least: bool = False

    method = "velocity"
    examples = (
        Example("3x3 @ ≥ 0.80 m/s", "the heaviest load that still moves so fast; “heaviest at ≥ 1.00 m/s peak” is one single"),
        Example("5x2 @ 0.75-0.85 m/s", "the load that moves at this mean velocity; add “peak” for peak velocity"),
    )
    carries_progress = True

    @classmethod
    def begins(cls, reader: Reader) -> VelocityTarget | None:
        """Read 0.75-0.85 m/s or ≥ 0.80 m/s, with peak or mean behind it."""
        m = reader.take(rf"(?:≥|>=?|at least)\s*{NUMBER}\s*m/s\s*(peak|mean)?")
        if m is not None:
            least = number(m.group(1))
            if not LEAST_MPS <= least <= MOST_MPS:
                raise reader.fail(f"Velocities from {LEAST_MPS:g} to {MOST_MPS:g} m/s are accepted.", at=m.start(1))
            return VelocityTarget(least, least, (m.group(2) or "").lower() == "peak", at_least=True)
        m = reader.take(rf"{NUMBER}(?:\s*[-–]\s*{NUMBER})?\s*m/s\s*(peak|mean)?")
        if not m:
            return None
        low = number(m.group(1))
        high = number(m.group(2)) if m.group(2) else low
        if not LEAST_MPS <= low <= high <= MOST_MPS:
            raise reader.fail(f"Velocities from {LEAST_MPS:g} to {MOST_MPS:g} m/s, low to high, are accepted.", at=m.start(1))
        return VelocityTarget(low, high, (m.group(3) or "").lower() == "peak")

    def written(self) -> str:
        """Return the target in m/s."""
        ends = f"{self.low_mps:.2f}" if self.low_mps == self.high_mps else f"{self.low_mps:.2f}–{self.high_mps:.2f}"
        return f" @ {'≥ ' if self.at_least else ''}{ends} m/s{' peak' if self.peak else ''}"

    def offer(self, ask: Ask, state: LiftState) -> Offer:
        """Return the load at the middle of the target."""
        return load_at(*self._ends, self.peak, state)

    @property
    def _ends(self) -> tuple[float, float]:
        """The velocities aimed at: a little over what has to be reached at least."""
        return (self.low_mps, self.low_mps + OVER_LEAST_MPS) if self.at_least else (self.low_mps, self.high_mps)

    def step(self, by: int) -> VelocityTarget:
        """Return a slower bar for a step up."""
        low, high = (max(LEAST_MPS, round(end - MPS_STEP * by, 2)) for end in (self.low_mps, self.high_mps))
        return replace(self, low_mps=low, high_mps=high)

    def target(self, state: LiftState) -> Target:
        """Return both ends in m/s."""
        return Target(self._ends, self.peak)


@dataclass(frozen=True)
class VelocityZone(LoadRule):
    """The load that moves in a named zone of mean velocity."""

    zone: str

    method = "velocity"
    examples = (Example("5x2 @ strength-speed", "the load that moves in this zone"),)
    carries_progress = True

    @classmethod
    def begins(cls, reader: Reader) -> VelocityZone | None:
        """Read the name of a zone."""
        m = reader.take(rf"({'|'.join(name.replace('-', '[- ]') for name in ZONE_NAMES)})\b")
        if not m:
            return None
        said = m.group(1).lower().replace(" ", "-")
        return VelocityZone(next(name for name in ZONE_NAMES if name.replace(" ", "-") == said))

    def written(self) -> str:
        """Return the zone's name."""
        return f" @ {self.zone}"

    def offer(self, ask: Ask, state: LiftState) -> Offer:
        """Return the load at the middle of the zone, as this lift has it."""
        return load_at(*zone_target(self.zone, state.exercise), False, state)

    def step(self, by: int) -> VelocityZone:
        """A zone has no step."""
        no_step()

    def target(self, state: LiftState) -> Target:
        """Return the zone's ends in m/s, as this lift has it."""
        return Target(zone_target(self.zone, state.exercise))


RULES = (VelocityTarget, VelocityZone)


def _express(intent: Intent, state: LiftState) -> VelocityTarget | None:
    middle = velocity_at(intent.share, state) if intent.share else None
    if middle is None:
        return None
    middle, half = round(middle, 2), state.rules["load.half_target_mps"]
    return VelocityTarget(round(middle - half, 2), round(middle + half, 2))


def _cannot(state: LiftState) -> str:
    return f"no relation of load and mean velocity is known for the {state.exercise.name.lower()}"


METHOD = Method(
    key="velocity",
    place=8,
    name="Velocity",
    how="the load that moves at a target today",
    good_for="trained groups with sensors",
    limits="needs profiles, honest intent and the device",
    spoken="velocity",
    express=_express,
    cannot=_cannot,
)

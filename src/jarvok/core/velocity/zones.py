"""Velocity zones and stop rules."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.core.working import Source

ZONE_SOURCE = Source("P", "Mann et al. 2015")
LOSS_SOURCE = Source("P", "Pareja-Blanco et al. 2017")


@dataclass(frozen=True)
class Zone:
    """A zone of mean concentric velocity: from `low_mps` up to, not including, `high_mps`."""

    name: str
    low_mps: float
    high_mps: float


# Mann et al. 2015, quoted from memory
ZONES: tuple[Zone, ...] = (
    Zone("absolute strength", 0.0, 0.50),
    Zone("accelerative strength", 0.50, 0.75),
    Zone("strength-speed", 0.75, 1.00),
    Zone("speed-strength", 1.00, 1.30),
    Zone("starting strength", 1.30, float("inf")),
)

# Common limits by goal, per cent; Pareja-Blanco et al. 2017 and later, quoted from memory
LOSS_LIMIT_PCT: dict[str, float] = {"speed": 10.0, "power": 20.0, "strength": 20.0, "size": 40.0}


def zone_for(mean_mps: float) -> Zone:
    """Return the zone of a mean velocity in m/s (0 or more)."""
    return next(zone for zone in ZONES if mean_mps < zone.high_mps)


def velocity_loss_pct(velocities_mps: list[float]) -> float:
    """Return the loss of the last repetition against the fastest of the set, in per cent (0-100)."""
    if not velocities_mps:
        return 0.0
    fastest = max(velocities_mps)
    return 100.0 * (fastest - velocities_mps[-1]) / fastest if fastest > 0 else 0.0


def stop_velocity_mps(fastest_mps: float, limit_pct: float) -> float:
    """Return the velocity of the stop line for a set whose fastest repetition is `fastest_mps`."""
    return fastest_mps * (1 - limit_pct / 100)

"""The last warm-up against the athlete's own usual: an early word about the day, before the first work set."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from statistics import mean, stdev

from jarvok.core.quantities.mass import format_mass, said_mass
from jarvok.core.quantities.plates import Implement, build, unit_of
from jarvok.core.quantities.sentence import counted
from jarvok.core.quantities.student import t_quantile
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.working import Input, Source, Working

LEAST_SPREAD_MPS = 0.015  # [J] a sensor and a lifter are never steadier than this
MOST_CHANGE_PCT = 7.5  # [J] one repetition does not move the day further
BIG_CHANGE_PCT = 4.0  # [J] from here a second repetition is asked for first
SIDED = 0.95  # [T]
SOURCE = Source("J", "95 % point of the prediction interval from the athlete's own last sessions")


@dataclass(frozen=True)
class UsualWarmUp:
    """The fastest repetition of an earlier day's last warm-up: load in kg, velocity in m/s."""

    day: date
    load_kg: float
    velocity_mps: float


@dataclass(frozen=True)
class WarmUpSignal:
    """What the last warm-up says of the day: usual and its half width in m/s, the change of the work load in per cent.

    `confirm` asks for one more repetition before the change; `change_pct` 0 and `is_usual` where nothing stands out.
    """

    is_usual: bool
    confirm: bool
    change_pct: float
    load_kg: float | None
    sentence: str
    working: Working


def usual_range_mps(past_mps: Sequence[float]) -> tuple[float, float]:
    """Return the mean and half width of the range for one more day: t(0.95, n−1) · SD · √(1 + 1/n). Needs two or more."""
    n = len(past_mps)
    spread = max(LEAST_SPREAD_MPS, stdev(past_mps))
    return mean(past_mps), t_quantile(SIDED, n - 1) * spread * float((1 + 1 / n) ** 0.5)


def last_warm_up(
    load_kg: float,
    velocities_mps: Sequence[float],
    top_kg: float,
    slope_mps_per_kg: float,
    past: Sequence[UsualWarmUp],
    implement: Implement | None,
    rules: Rules = DEFAULT_RULES,
) -> WarmUpSignal | None:
    """Return what the last warm-up says, or None where it can say nothing.

    `velocities_mps` are the fastest repetition of each try at this load today (one, or two once confirmed); `top_kg` the
    first work load; `slope_mps_per_kg` (below 0) moves the past to today's load. Light bars and fewer than the set number
    of sessions say nothing.
    """
    if not velocities_mps or slope_mps_per_kg >= 0 or load_kg < rules["floor.last_warm_up_pct"] / 100 * top_kg:
        return None
    if len(past) < max(2, rules["floor.usual_sessions"]):
        return None
    moved = [p.velocity_mps + slope_mps_per_kg * (load_kg - p.load_kg) for p in past]
    usual, half = usual_range_mps(moved)
    now = max(velocities_mps) if len(velocities_mps) == 1 else mean(sorted(velocities_mps)[-2:])
    unit = unit_of(implement)
    inputs = (
        Input("last warm-up", f"{said_mass(load_kg, unit)} at {now:.2f} m/s"),
        Input("usual here", f"{usual:.2f} ± {half:.2f} m/s, {counted(len(past), 'session')}"),
        Input("slope", f"{slope_mps_per_kg:.4f} m/s a kg"),
    )
    if abs(now - usual) <= half:
        working = Working("as written", "inside the athlete's own usual range", SOURCE, inputs)
        return WarmUpSignal(True, False, 0.0, None, f"Last warm-up {now:.2f} m/s, as usual ({usual:.2f}).", working)
    change_kg = (usual - now) / slope_mps_per_kg
    pct = max(-MOST_CHANGE_PCT, min(MOST_CHANGE_PCT, 100 * change_kg / top_kg))
    wanted = top_kg * (1 + pct / 100)
    load = build(round(wanted, 2), implement).load_kg if implement is not None else round(wanted, 1)
    word = "faster" if now > usual else "slower"
    said = f"Last warm-up {now:.2f} m/s, {word} than usual ({usual:.2f} ± {half:.2f})."
    if load == top_kg:
        working = Working("as written", "outside the usual range, yet less than a step of the plates", SOURCE, inputs)
        return WarmUpSignal(True, False, 0.0, None, f"{said} Less than one step of the plates.", working)
    confirm = abs(pct) >= BIG_CHANGE_PCT and len(velocities_mps) < 2
    text = said_mass(load, unit)
    rule = f"moved along the profile by {pct:+.1f} %, at most {MOST_CHANGE_PCT:g} %"
    working = Working(text, rule, SOURCE, inputs, f"{said_mass(round(wanted, 1), unit)}, to {text} that can be built")
    sentence = (
        f"{said} One more repetition here first; then {text} instead of {format_mass(top_kg, unit)}."
        if confirm
        else (f"{said} {text} instead of {format_mass(top_kg, unit)}.")
    )
    return WarmUpSignal(False, confirm, pct, load, sentence, working)

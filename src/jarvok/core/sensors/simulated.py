"""Simulated jump mat, timing gates and heart-rate sensor: messages `(n, time_s, value)` in the open formats.

Spreads and times of the stand-ins are technical [T]: near what such devices show.
"""

from __future__ import annotations

from collections.abc import Sequence
from math import exp

from numpy.random import Generator

from jarvok.core.quantities.gravity import STANDARD_GRAVITY_MPS2

MAT_NOISE_S = 0.001  # a mat that is read a thousand times a second
GATE_NOISE_S = 0.002


def mat_messages(heights_cm: Sequence[float], contact_s: float, rng: Generator) -> list[tuple[int, float, bool]]:
    """Return what a mat sends for a set of jumps: continuous with `contact_s`, from a stand when it is 0."""
    at, n = 1.0, 1
    found: list[tuple[int, float, bool]] = [(0, 0.0, True)]
    for height in heights_cm:
        flight = (8 * height / 100 / STANDARD_GRAVITY_MPS2) ** 0.5
        found.append((n, round(at + float(rng.normal(0, MAT_NOISE_S)), 4), False))
        found.append((n + 1, round(at + flight + float(rng.normal(0, MAT_NOISE_S)), 4), True))
        at += flight + (contact_s or float(rng.uniform(2.5, 4.0)))
        n += 2
    return found


def sprint_time_s(metres: float, top_mps: float, tau_s: float) -> float:
    """Return the time in s to cover `metres` when speed grows as v(t) = vmax (1 − e^(−t/τ)). Samozino et al. 2016."""
    low, high = 0.0, 60.0
    for _ in range(60):
        middle = (low + high) / 2
        covered = top_mps * (middle - tau_s * (1 - exp(-middle / tau_s)))
        low, high = (middle, high) if covered < metres else (low, middle)
    return (low + high) / 2


def gate_messages(gates_m: Sequence[float], top_mps: float, tau_s: float, rng: Generator) -> list[tuple[int, float, int]]:
    """Return what timing gates send for one sprint: gate 0 at the start, then each gate of `gates_m`."""
    start = 2.0
    found: list[tuple[int, float, int]] = [(0, start, 0)]
    for i, metres in enumerate(gates_m, start=1):
        at = start + sprint_time_s(metres, top_mps, tau_s) + float(rng.normal(0, GATE_NOISE_S))
        found.append((i, round(at, 4), i))
    return found


def heart_messages(resting: int, peak: int, work_s: float, rest_s: float, rng: Generator) -> list[tuple[int, float, int]]:
    """Return a rate each second: rising through `work_s`, falling through `rest_s`, in beats a minute."""
    found: list[tuple[int, float, int]] = []
    for i in range(int(work_s + rest_s)):
        if i < work_s:
            level = resting + (peak - resting) * (1 - exp(-i / 25))
        else:
            top = resting + (peak - resting) * (1 - exp(-work_s / 25))
            level = resting + (top - resting) * exp(-(i - work_s) / 45)
        found.append((i, float(i), round(level + float(rng.normal(0, 1.0)))))
    return found


def result_messages(
    velocities_mps: Sequence[float], is_peak: bool, rng: Generator
) -> list[tuple[int, float, tuple[float, bool]]]:
    """Return what a device with results only sends for a set: a velocity in m/s each repetition, every two seconds or so."""
    at = 1.0
    found: list[tuple[int, float, tuple[float, bool]]] = []
    for n, velocity in enumerate(velocities_mps):
        found.append((n, round(at, 4), (round(velocity, 2), is_peak)))
        at += float(rng.uniform(1.6, 2.4))
    return found

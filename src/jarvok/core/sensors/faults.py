"""Faults that a simulated sensor shows on request, as real ones do.

How large a fault is, is technical [T]: large enough to be met, small enough to happen.
"""

from __future__ import annotations

from collections.abc import Sequence
from enum import StrEnum
from typing import TypeVar

from numpy.random import Generator

from jarvok.core.errors import CoachError

T = TypeVar("T")


class Fault(StrEnum):
    """What goes wrong."""

    DROP_OUT = "drop-out"
    JITTER = "jitter"
    DUPLICATES = "duplicates"
    WRONG_CLOCK = "wrong-clock"
    DISCONNECT = "disconnect"


WORDS = {
    Fault.DROP_OUT: "samples go missing for a third of a second",
    Fault.JITTER: "time stamps tremble by a few milliseconds",
    Fault.DUPLICATES: "some samples are sent twice",
    Fault.WRONG_CLOCK: "the sensor's clock jumps back once",
    Fault.DISCONNECT: "the connection is gone for three seconds",
}
DROP_S, JITTER_S, CLOCK_BACK_S = 0.35, 0.002, 30.0


def fault_named(name: str) -> Fault:
    """Return the fault of a name. Raises `CoachError` for one that is not known."""
    try:
        return Fault(name)
    except ValueError:
        raise CoachError(f"“{name}” is no fault.", where="fault", accepted=", ".join(Fault) + ".") from None


def with_faults(rows: Sequence[tuple[int, float, T]], faults: Sequence[Fault], rng: Generator) -> list[tuple[int, float, T]]:
    """Return messages `(n, time_s, value)` as a faulty sensor would send them; a lost connection is up to the bridge."""
    found = list(rows)
    if not found:
        return found
    last_s = found[-1][1]
    if Fault.DROP_OUT in faults:
        gone = float(rng.uniform(0.3, 0.7)) * last_s
        found = [r for r in found if not gone <= r[1] < gone + DROP_S]
        found = [(i, t, v) for i, (_, t, v) in enumerate(found)]  # the sensor counts what it sends
    if Fault.JITTER in faults:
        found = [(n, max(0.0, t + float(rng.normal(0, JITTER_S))), v) for n, t, v in found]
    if Fault.WRONG_CLOCK in faults:
        at = float(rng.uniform(0.4, 0.6)) * last_s
        found = [(n, t if t < at else max(0.0, t - min(CLOCK_BACK_S, at)), v) for n, t, v in found]
    if Fault.DUPLICATES in faults:
        twice: list[tuple[int, float, T]] = []
        for row in found:
            twice.append(row)
            if rng.uniform() < 0.05:
                twice.append(row)
        found = twice
    return found

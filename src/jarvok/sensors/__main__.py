"""The simulated sensors: `python -m jarvok.sensors bar|mat|gates|heart|results --url ... [--fault drop-out]`.

Without arguments an order is read from the standard input as one JSON object. Each speaks the open format of its kind,
in real time, and behaves like a real bridge: what is not durable is kept and sent again.
"""

from __future__ import annotations

import argparse
import json
import sys
import time
from collections.abc import Sequence
from typing import Any

import numpy as np

from jarvok.core.errors import CoachError
from jarvok.core.exercises import Pattern
from jarvok.core.library.exercises import exercise
from jarvok.core.sensors.faults import WORDS, Fault, fault_named, with_faults
from jarvok.core.sensors.simulated import gate_messages, heart_messages, mat_messages, result_messages
from jarvok.core.sensors.stream import write_samples
from jarvok.core.sensors.trace import simulate_set
from jarvok.sensors.bridge import Bridge, Row, send_in_time

BATCH_S = 0.02
DISCONNECT_S = 3.0
VALUE = {"mat": "down", "gates": "gate", "heart": "bpm"}


def rows_of(order: dict[str, Any]) -> list[Row]:
    """The messages of an order, with its faults."""
    rng = np.random.default_rng(order.get("seed", 1))
    sort = order.get("sort", "bar")
    rows: Sequence[Row]
    if sort == "bar":
        lift = exercise(order["exercise_id"])
        pattern = lift.simulated_pattern or Pattern.SQUAT
        trace = simulate_set(pattern, order["velocities_mps"], lift.simulated_range_m, order["rate_hz"], order["noise_m"], rng)
        rows = [(n, t, x) for n, (t, x) in enumerate(trace.samples())]
    elif sort == "results":
        rows = result_messages(order["velocities_mps"], order.get("is_peak", False), rng)
    elif sort == "mat":
        rows = mat_messages(order["heights_cm"], order["contact_s"], rng)
    elif sort == "gates":
        rows = gate_messages(order["gates_m"], order["top_mps"], order["tau_s"], rng)
    else:
        rows = heart_messages(order["resting"], order["peak"], order["work_s"], order["rest_s"], rng)
    first = int(order.get("first_n", 0))
    rows = with_faults(rows, [fault_named(f) for f in order.get("faults", [])], rng)
    return [(n + first, t, v) for n, t, v in rows]


def writer(sort: str) -> Any:
    """What makes the lines of a batch."""
    if sort == "bar":
        return write_samples
    if sort == "results":
        return write_results
    name = VALUE[sort]

    def write(rows: Sequence[Row]) -> str:
        return "".join(json.dumps({"n": n, "t": round(t, 4), name: v}) + "\n" for n, t, v in rows)

    return write


def write_results(rows: Sequence[Row]) -> str:
    """The lines of a device with results only: a velocity and whether it is the peak."""
    return "".join(json.dumps({"n": n, "t": round(t, 4), "mps": v[0], "peak": v[1]}) + "\n" for n, t, v in rows)


def run(order: dict[str, Any]) -> None:
    """Send an order to its address."""
    bridge = Bridge(order["url"], writer(order.get("sort", "bar")))
    rows = rows_of(order)
    if Fault.DISCONNECT in order.get("faults", []):
        bridge.cut_until = time.monotonic() + DISCONNECT_S
    send_in_time(bridge, rows, float(order.get("speed", 1.0)), float(order.get("batch_s", BATCH_S)))


def from_arguments(given: Sequence[str]) -> dict[str, Any]:
    """The order that a command line says."""
    parser = argparse.ArgumentParser(prog="python -m jarvok.sensors", description="A simulated sensor of the room.")
    parser.add_argument("sort", choices=["bar", "mat", "gates", "heart", "results"])
    parser.add_argument("--url", required=True, help="where it sends, as shown under Sensors")
    parser.add_argument("--fault", action="append", default=[], help="; ".join(f"{f}: {w}" for f, w in WORDS.items()))
    parser.add_argument("--exercise", default="back_squat", help="bar: which lift")
    parser.add_argument("--velocities", default="0.62,0.60,0.57", help="bar, results: velocity of each repetition, m/s")
    parser.add_argument("--heights", default="34,35,33,32", help="mat: cm")
    parser.add_argument("--contact", type=float, default=0.0, help="mat: s between jumps, 0 from a stand")
    parser.add_argument("--gates", default="5,10,20,30", help="gates: m")
    parser.add_argument("--top", type=float, default=8.6, help="gates: top speed, m/s")
    parser.add_argument("--rate", type=float, default=100.0, help="bar: samples a second")
    parser.add_argument("--first", type=int, default=0, help="number of the first message: one above the last sent")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--speed", type=float, default=1.0, help="2 is twice as fast as real time")
    a = parser.parse_args(given)

    def numbers(text: str) -> list[float]:
        return [float(x) for x in text.split(",")]

    return {
        "sort": a.sort, "url": a.url, "faults": a.fault, "exercise_id": a.exercise, "velocities_mps": numbers(a.velocities),
        "heights_cm": numbers(a.heights), "contact_s": a.contact, "gates_m": numbers(a.gates), "top_mps": a.top, "tau_s": 1.15,
        "resting": 92, "peak": 176, "work_s": 20, "rest_s": 20, "rate_hz": a.rate, "noise_m": 0.001, "seed": a.seed,
        "speed": a.speed, "first_n": a.first,
    }  # fmt: skip


def main() -> None:
    """Read the order and send it."""
    given = sys.argv[1:]
    try:
        run(from_arguments(given) if given else json.load(sys.stdin))
    except CoachError as error:
        sys.exit(str(error))


if __name__ == "__main__":
    main()

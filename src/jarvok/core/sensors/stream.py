"""The open stream format for bar position: one JSON object a line. Written down in docs/formats/bar-stream.md."""

from __future__ import annotations

import json
from collections.abc import Iterable
from dataclasses import dataclass, field

from jarvok.core.errors import CoachError

FORMAT = "jarvok-bar/1"
HIGHEST_POSITION_M = 5.0  # [T]
LONGEST_S = 1e7  # [T]


@dataclass(frozen=True)
class Batch:
    """Samples `(seq, time_s, position_m)` read from lines, and a sentence for each line that was left out."""

    samples: tuple[tuple[int, float, float], ...]
    problems: tuple[str, ...] = field(default=())


def write_samples(samples: Iterable[tuple[int, float, float]]) -> str:
    """Return NDJSON lines for samples `(seq, time_s, position_m)`."""
    return "".join(f'{{"n":{n},"t":{t:.4f},"x":{x:.5f}}}\n' for n, t, x in samples)


def read_samples(body: str) -> Batch:
    """Read NDJSON lines. A line that cannot be read is left out and named; the others count.

    Raises `CoachError` when the body holds no readable sample at all.
    """
    samples: list[tuple[int, float, float]] = []
    problems: list[str] = []
    for number, line in enumerate(body.splitlines(), start=1):
        if not line.strip():
            continue
        try:
            raw = json.loads(line)
            n, t, x = raw["n"], raw["t"], raw["x"]
            if isinstance(n, bool) or not isinstance(n, int) or n < 0:
                raise ValueError("n must be a whole number from 0")
            t, x = float(t), float(x)
            if not (0 <= t < LONGEST_S and abs(x) <= HIGHEST_POSITION_M):
                raise ValueError(f"t must be seconds from 0 and x metres within ±{HIGHEST_POSITION_M:g}")
        except (ValueError, KeyError, TypeError, OverflowError, RecursionError) as error:
            reason = f"“{error.args[0]}” is missing" if isinstance(error, KeyError) else str(error)
            problems.append(f"line {number}: {'not JSON' if isinstance(error, json.JSONDecodeError) else reason}")
            continue
        samples.append((n, t, x))
    if not samples:
        raise CoachError(
            "No sample could be read. " + "; ".join(problems[:3]),
            where="body",
            accepted='Each line is an object like {"n": 0, "t": 0.00, "x": 0.612}.',
        )
    return Batch(tuple(samples), tuple(problems))

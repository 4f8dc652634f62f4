"""The set that was done last, in one line: load, repetitions, best, loss, zone, time to peak, evenness."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from jarvok.app.floor.bests import Earlier, bests_of_newest, newest_set
from jarvok.app.floor.lines import FloorLine, counted_mps, run_s, set_summary
from jarvok.core.floor.measures import words_of
from jarvok.core.library.exercises import exercise
from jarvok.core.quantities.mass import said_mass


@dataclass(frozen=True)
class JustDone:
    """What was done last: when, what as it is said, and what was measured of it, each in a few words."""

    at: datetime
    what: str
    measured: tuple[str, ...]
    best: str = ""


def just_done(lines: list[FloorLine], earlier: Earlier | None = None) -> JustDone | None:
    """Return the newest set of a session, or None before there is one; what it is the best of where `earlier` is known."""
    newest = newest_set(lines)
    if newest is None:
        return None
    line, item = newest
    record, lift = item.record, exercise(line.line.exercise_id)
    assert record is not None
    load = f"{said_mass(record.load_kg, item.unit)} × " if record.load_kg else ""
    what = words_of(record.measures) or f"{load}{record.reps}"
    said: list[str] = []
    summary = set_summary(item, lift)
    if summary is not None:
        said = [f"best {summary.fastest_mps:.2f} m/s", f"lost {summary.loss_pct:.0f} %", summary.zone]
        said += [f"to peak {summary.time_to_peak_s:.2f} s", summary.words]
    elif velocities := counted_mps(item, lift.velocity == "peak"):
        said = [f"best {max(velocities):.2f} m/s, {'from the device' if item.device_mps else 'typed'}"]
    if item.jumps:
        heights = [j["height_cm"] for j in item.jumps]
        said = [f"best {max(heights):.1f} cm"]
        contacts = [j["contact_s"] for j in item.jumps if j.get("contact_s")]
        said += [f"contact {min(contacts):.2f} s"] if contacts else []
        indices = [j["rsi"] for j in item.jumps if j.get("rsi")]
        said += [f"reactive strength {max(indices):.2f}"] if indices else []
    if lift.kind == "run" and (time_s := run_s(item)) is not None and f"{time_s:.2f} s" not in what:
        said = [f"{time_s:.2f} s"]
    if record.has_gap:
        said.append("gap in the signal")
    bests = bests_of_newest(lines, earlier) if earlier is not None else ()
    best = ", ".join(b.words(item.unit) for b in bests)
    return JustDone(record.done_at, f"{lift.name} {what}", tuple(x for x in said if x), best)

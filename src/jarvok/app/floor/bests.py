"""What was a best when it was done, of sets in the database and of one that was done this moment."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from datetime import date

from jarvok.app.facts.floor.models import SetKind, TrainingSession
from jarvok.app.floor.lines import FloorLine, FloorSet, counted_mps, run_s
from jarvok.app.floor.reached import Of, sets_of
from jarvok.core.learning.new_bests import Best, DoneSet, new_bests
from jarvok.core.library.exercises import exercises


def bests_since(
    athletes: Collection[int], first: date, until: date, exercise_ids: Collection[str] | None = None
) -> dict[Of, list[Best]]:
    """Return the bests from one day to another by athlete and exercise, in nine queries however many athletes there are."""
    found = {of: new_bests(sets, first) for of, sets in sets_of(athletes, first, until, exercise_ids).items()}
    return {of: bests for of, bests in found.items() if bests}


def sets_before(session: TrainingSession, exercise_ids: Collection[str]) -> dict[str, list[DoneSet]]:
    """Return the results and sets of some exercises up to the day of a session, without its own."""
    found = sets_of([session.athlete_id], session.day, session.day, exercise_ids, without_session=session.pk)
    return {lift: found.get((session.athlete_id, lift), []) for lift in exercise_ids}


def done_set(line: FloorLine, item: FloorSet) -> DoneSet | None:
    """Return a work set of a running session as it counts for bests; None for one that is not done, or not as written."""
    record, lift = item.record, exercises().get(line.line.exercise_id)
    if record is None or lift is None or item.kind != SetKind.WORK or record.form or record.trouble:
        return None
    is_peak = lift.velocity == "peak"
    velocities = counted_mps(item, is_peak)
    time_s = run_s(item)
    heights = [float(j["height_cm"]) for j in item.jumps if j.get("height_cm")]
    is_run = lift.kind == "run"
    return DoneSet(
        day=line.line.session.day,
        ref=f"set:{record.pk}",
        reps=record.reps,
        load_kg=record.load_kg,
        velocity_mps=max(velocities, default=None),
        measured_by="sensor" if item.reps else "device" if item.device_mps else "typed",
        jump_cm=max(heights, default=None),
        reactive=max((float(j["rsi"]) for j in item.jumps if j.get("rsi")), default=None),
        run_s=time_s if is_run else None,
        run_m=item.planned.metres if is_run else None,
        hold_s=time_s if lift.kind == "hold" else None,
        height_cm=record.measures.get("height_cm"),
        distance_m=record.measures.get("distance_m"),
    )


def newest_set(lines: list[FloorLine]) -> tuple[FloorLine, FloorSet] | None:
    """Return the set that was done last with its line, or None before there is one."""
    done = [(s.record.pk, line, s) for line in lines for s in line.sets if s.record is not None]
    return max(done, key=lambda x: x[0])[1:] if done else None


def newest_lift(lines: list[FloorLine]) -> str:
    """Return the exercise whose set was done last, or nothing."""
    newest = newest_set(lines)
    return newest[0].line.exercise_id if newest is not None else ""


def bests_of_newest(lines: list[FloorLine], earlier: Callable[[str], Sequence[DoneSet]]) -> tuple[Best, ...]:
    """Return what the newest set of a session is the best of; `earlier` gives an exercise's sets of other sessions."""
    last = newest_set(lines)
    newest = done_set(*last) if last is not None else None
    if last is None or newest is None:
        return ()
    lift = last[0].line.exercise_id
    same = [(s.record.pk, done_set(x, s)) for x in lines if x.line.exercise_id == lift for s in x.sets if s.record is not None]
    here = [d for _, d in sorted(same, key=lambda row: row[0]) if d is not None]
    refs = {d.ref for d in here}
    before = [d for d in earlier(lift) if d.ref not in refs and d.day <= newest.day]
    return tuple(b for b in new_bests([*before, *here], newest.day) if b.ref == newest.ref)


def of_sets(bests: Mapping[Of, list[Best]]) -> Iterator[tuple[Of, Best]]:
    """Every best with whose it is, newest day first."""
    rows = [(of, best) for of, found in bests.items() for best in found]
    return iter(sorted(rows, key=lambda row: row[1].day, reverse=True))

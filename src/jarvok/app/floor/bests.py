"""What was a best when it was done, of sets in the database and of one that was done this moment."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterator, Mapping
from datetime import date

from jarvok.app.athletes.kept_known import kept_of
from jarvok.app.facts.floor.models import SetKind, TrainingSession
from jarvok.app.floor.lines import FloorLine, FloorSet, counted_mps, run_m, run_s
from jarvok.app.floor.reached import Of, on_the_way, sets_of
from jarvok.core.learning.new_bests import Best, DoneSet, Sweep, bests_of, new_bests, swept
from jarvok.core.library.exercises import exercises

KEY = "bests"
# what an exercise's sets before leave to be beaten, of a session and all before it but for those of some refs
Earlier = Callable[[str, Collection[str]], Sweep]
SPANS_KEPT = 3  # [T] of each athlete


def bests_since(
    athletes: Collection[int], first: date, until: date, exercise_ids: Collection[str] | None = None
) -> dict[Of, list[Best]]:
    """Return the bests from one day to another by athlete and exercise, in nine queries however many athletes there are.

    Of all exercises they are kept: of athletes of whom nothing has changed since the same was asked, nothing is read.
    """
    if exercise_ids is not None:
        return _read_bests(athletes, first, until, exercise_ids)
    kept = {pk: rows.setdefault(KEY, {}) for pk, rows in kept_of(athletes).items()}
    found = {pk: rows.get((first, until)) for pk, rows in kept.items()}
    missing = [pk for pk, bests in found.items() if bests is None]
    read = _read_bests(missing, first, until) if missing else {}
    for pk in missing:
        found[pk] = kept[pk][first, until] = {lift: bests for (who, lift), bests in read.items() if who == pk}
        if len(kept[pk]) > SPANS_KEPT:
            kept[pk].pop(next(iter(kept[pk])), None)
    return {(pk, lift): bests for pk, by_lift in found.items() for lift, bests in (by_lift or {}).items()}


def _read_bests(
    athletes: Collection[int], first: date, until: date, exercise_ids: Collection[str] | None = None
) -> dict[Of, list[Best]]:
    found = {of: new_bests(sets, first) for of, sets in sets_of(athletes, first, until, exercise_ids).items()}
    return {of: bests for of, bests in found.items() if bests}


def sets_before(session: TrainingSession, exercise_ids: Collection[str]) -> dict[str, list[DoneSet]]:
    """Return the results and sets of some exercises up to the day of a session, without its own."""
    found = sets_of([session.athlete_id], session.day, session.day, exercise_ids, without_session=session.pk)
    return {lift: found.get((session.athlete_id, lift), []) for lift in exercise_ids}


def beaten_before(session: TrainingSession) -> Earlier:
    """Return what the sets of other sessions leave to be beaten, read for the exercise that is asked for."""
    return lambda lift, refs: swept(d for d in sets_before(session, [lift])[lift] if d.ref not in refs)


def done_sets(line: FloorLine, item: FloorSet) -> list[DoneSet]:
    """Return a work set of a running session as it counts for bests, and what a run passed on its way; none where it is not
    done, or not as written.
    """
    record, lift = item.record, exercises().get(line.line.exercise_id)
    if record is None or lift is None or item.kind != SetKind.WORK or record.form or record.trouble:
        return []
    is_peak = lift.velocity == "peak"
    velocities = counted_mps(item, is_peak)
    time_s = run_s(item)
    heights = [float(j["height_cm"]) for j in item.jumps if j.get("height_cm")]
    is_run = lift.kind == "run"
    day, ref = line.line.session.day, f"set:{record.pk}"
    whole = DoneSet(
        day=day,
        ref=ref,
        reps=record.reps,
        load_kg=record.load_kg,
        velocity_mps=max(velocities, default=None),
        measured_by="sensor" if item.reps else "device" if item.device_mps else "typed",
        jump_cm=max(heights, default=None),
        reactive=max((float(j["rsi"]) for j in item.jumps if j.get("rsi")), default=None),
        run_s=time_s if is_run else None,
        run_m=run_m(item) if is_run else None,
        hold_s=time_s if lift.kind == "hold" else None,
        height_cm=record.measures.get("height_cm"),
        distance_m=record.measures.get("distance_m"),
    )
    return [*on_the_way(day, ref, item.splits, is_typed="time_s" in record.measures), whole] if is_run else [whole]


def newest_set(lines: list[FloorLine]) -> tuple[FloorLine, FloorSet] | None:
    """Return the set that was done last with its line, or None before there is one."""
    done = [(s.record.pk, line, s) for line in lines for s in line.sets if s.record is not None]
    return max(done, key=lambda x: x[0])[1:] if done else None


def newest_lift(lines: list[FloorLine]) -> str:
    """Return the exercise whose set was done last, or nothing."""
    newest = newest_set(lines)
    return newest[0].line.exercise_id if newest is not None else ""


def bests_of_newest(lines: list[FloorLine], earlier: Earlier) -> tuple[Best, ...]:
    """Return what the newest set of a session is the best of."""
    last = newest_set(lines)
    newest = done_sets(*last)[-1:] if last is not None else []
    if last is None or not newest:
        return ()
    lift = last[0].line.exercise_id
    same = [(s.record.pk, done_sets(x, s)) for x in lines if x.line.exercise_id == lift for s in x.sets if s.record is not None]
    here = [d for _, sets in sorted(same, key=lambda row: row[0]) for d in sets]
    return tuple(bests_of(newest[0].ref, here, earlier(lift, {d.ref for d in here})))


def of_sets(bests: Mapping[Of, list[Best]]) -> Iterator[tuple[Of, Best]]:
    """Every best with whose it is, newest day first."""
    rows = [(of, best) for of, found in bests.items() for best in found]
    return iter(sorted(rows, key=lambda row: row[1].day, reverse=True))

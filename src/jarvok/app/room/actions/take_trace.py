"""A recorded bar position is kept with a set."""

from __future__ import annotations

import secrets

from jarvok.app.acts import Who, acting
from jarvok.app.facts.floor.models import Rep, SessionLine
from jarvok.app.floor.events import check_open, tell
from jarvok.app.floor.lines import floor_line
from jarvok.app.problems import Conflict
from jarvok.app.room.device_files import TraceTaken
from jarvok.core.errors import CoachError
from jarvok.core.interchange.velocity_files import read_trace
from jarvok.core.library.exercises import exercise
from jarvok.core.velocity.detect import RepDetector


def run(who: Who, line: SessionLine, kind: str, number: int, text: str) -> TraceTaken:
    """Find the repetitions of a recorded bar position and keep them with a set, exactly as a live stream would give them."""
    with acting(who, "take_trace", f"trace for set {number}", athlete=line.session.athlete):
        check_open(line.session)
        item = next((s for s in floor_line(line).sets if s.kind == kind and s.number == number), None)
        motion = exercise(line.exercise_id).motion
        if item is None:
            raise CoachError(f"{line.slot} has no {kind} set {number}.", where="number")
        if motion is None:
            raise CoachError(f"A bar sensor does not measure {exercise(line.exercise_id).name.lower()}.", where="line_id")
        if item.reps:
            raise Conflict(f"Set {number} of {line.slot} has {len(item.reps)} measured repetitions already.")
        trace = read_trace(text)
        detector = RepDetector(motion, trace.rate_hz)
        found = [*detector.push(trace.samples), *detector.flush()]
        token = f"file:{secrets.token_hex(8)}"
        for rep in found:
            m = rep.metrics
            Rep.objects.create(
                line=line,
                kind=kind,
                set_number=number,
                number=rep.number,
                stream=token,
                start_s=rep.start_s,
                mean_mps=m.mean_mps,
                mean_propulsive_mps=m.mean_propulsive_mps,
                peak_mps=m.peak_mps,
                time_to_peak_s=m.time_to_peak_s,
                range_m=m.range_m,
                load_kg=item.record.load_kg if item.record else item.planned_load_kg,
            )
        tell(line.session, "changed", {"line_id": line.pk})
        faults = tuple(f.message for f in detector.faults[:20])
        return TraceTaken(len(found), trace.rate_hz, (*trace.problems, *faults))

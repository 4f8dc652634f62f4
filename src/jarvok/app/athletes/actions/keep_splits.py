"""The split times of one run are kept: a mark for each distance, all of the same day."""

from __future__ import annotations

from datetime import date

from jarvok.app.acts import Who, acting
from jarvok.app.athletes.actions import add_mark
from jarvok.app.athletes.runs import RUN
from jarvok.app.athletes.typed_marks import TypedMark
from jarvok.app.facts.athletes.models import Athlete
from jarvok.core.errors import CoachError
from jarvok.core.marks.mark import MarkKind
from jarvok.core.running.sprint_curve import LEAST_SPLITS, read_splits


def run(who: Who, athlete: Athlete, day: date, text: str) -> int:
    """Keep a run from a standing start, as typed; return how many splits it has. Raises `CoachError` for what is no run."""
    splits = read_splits(text)
    if len(splits) < LEAST_SPLITS:
        raise CoachError("A curve takes three splits and more.", where="text", accepted="10 1.78, 20 3.02, 30 4.15")
    with acting(who, "keep_splits", f"a run with {len(splits)} splits", athlete=athlete):
        for s in splits:
            timed = {"distance_m": s.distance_m, "seconds": s.time_s}
            add_mark.run(who, athlete, TypedMark(RUN, MarkKind.SPRINT, day, measures=timed, note="split of a run"))
    return len(splits)

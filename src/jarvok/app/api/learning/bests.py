"""Bests of the weeks shown, and of each phase beside the season before."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from jarvok.app import clock
from jarvok.app.api.floor.reviewed import best_out
from jarvok.app.api.learning.shapes import BestsOut, PhaseBestsOut, PhaseCellOut, PhaseRowOut
from jarvok.app.api.learning.weeks import SHOWN, first_shown
from jarvok.app.api.learning.whose import whose_page
from jarvok.app.api.problems import ERRORS
from jarvok.app.centre.in_force import rules_in_force
from jarvok.app.floor.bests import bests_since, of_sets
from jarvok.app.learning.phases import phase_bests
from jarvok.core.learning.new_bests import BestKind
from jarvok.core.library.exercises import exercise, exercises

router = Router(tags=["learning"])
WHAT = {
    BestKind.LOAD: "best set",
    BestKind.JUMP: "jump",
    BestKind.REACTIVE: "reactive strength",
    BestKind.RUN: "run",
    BestKind.HOLD: "hold",
}
MOST_BESTS = 200  # [T] of a page; how many there are is said


@router.get("/learning/{whose}/{int:pk}/bests", response={200: BestsOut, **ERRORS})
def read_bests(request: HttpRequest, whose: str, pk: int, weeks: int = SHOWN, group: str = "") -> BestsOut:
    """What went beyond everything before in the weeks shown, newest first."""
    page = whose_page(whose, pk, group, to_read=True)
    first, today = first_shown(weeks), clock.today()
    names = {a.pk: a for a in page.people}
    known = exercises()
    found = of_sets(bests_since(names, first, today))
    rows = [best_out(best, lift, names[who]) for (who, lift), best in found if lift in known]
    return BestsOut(count=len(rows), bests=rows[:MOST_BESTS])


@router.get("/athletes/{int:athlete_id}/phase-bests", response={200: PhaseBestsOut, **ERRORS})
def read_phase_bests(request: HttpRequest, athlete_id: int) -> PhaseBestsOut:
    """The best of each phase of this season, beside the season before."""
    athlete = whose_page("athlete", athlete_id, to_read=True).people[0]
    found = phase_bests(athlete, rules_in_force())
    return PhaseBestsOut(
        phases=list(found.phases),
        has_before=found.has_before,
        rows=[
            PhaseRowOut(
                exercise=exercise(r.exercise_id).name,
                what=", ".join(filter(None, (WHAT[r.number.kind], r.reached_with))),
                cells=[PhaseCellOut(now=now, before=before) for now, before in r.cells],
            )
            for r in found.rows
        ],
    )

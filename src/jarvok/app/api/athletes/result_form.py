"""What the form of a typed result asks: of which exercises a result can be, and what each kind of it takes."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from jarvok.app.api.athletes.shapes import ChoiceOut, KindOut, MeasureOut
from jarvok.app.api.problems import ERRORS
from jarvok.app.athletes.typed_marks import FITS, TYPED_KINDS
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.shapes import conditions_out
from jarvok.core.library.exercises import exercises
from jarvok.core.marks.mark import KIND_NAMES, MarkKind
from jarvok.core.marks.performance import LIMITS, NEEDED, WORDS

router = Router(tags=["athletes"])


@router.get("/result-exercises", response={200: list[ChoiceOut], **ERRORS})
def read_result_exercises(request: HttpRequest) -> list[ChoiceOut]:
    """Every exercise that a result can be of, the same for all athletes."""
    wanted = [e for e in exercises().values() if e.same_lift == e.id and (e.is_loaded or e.kind in ("jump", "hold", "run"))]
    return [
        ChoiceOut(id=e.id, name=e.name, kind="loaded" if e.is_loaded else e.kind, conditions=conditions_out(e)) for e in wanted
    ]


USUAL = {
    MarkKind.JUMP: "countermovement_jump",
    MarkKind.DROP_JUMP: "drop_jump",
    MarkKind.HOLD: "front_hold",
    MarkKind.SPRINT: "sprint",
}
CAUTIONS = {
    MarkKind.ONE_RM: "A true max needs spotters or safeties, collars and a clear platform; stop when technique breaks.",
}
FIGURES: dict[MarkKind, list[str]] = {
    MarkKind.REP_MAX: ["reps"], MarkKind.AMRAP: ["reps"], MarkKind.SET_RIR: ["reps", "rir"],
    MarkKind.SET_VELOCITY: ["reps"], MarkKind.SET_REP_BEST: ["sets", "reps"],
}  # fmt: skip


def result_kinds(athlete: Athlete, minor: bool) -> list[KindOut]:
    """Every kind of mark that can be typed for an athlete, with what its form asks for."""
    closed = {MarkKind.ONE_RM} if minor and not athlete.supervised else set()
    return [
        KindOut(
            id=k.value,
            name=KIND_NAMES[k],
            exercise_kinds=list(FITS.get(k, ("loaded",))),
            usual=USUAL.get(k, ""),
            figures=FIGURES.get(k, []),
            measures=[[MeasureOut(id=n, name=WORDS[n], unit=LIMITS[n][2]) for n in way] for way in NEEDED.get(k, ())],
            caution=CAUTIONS.get(k, ""),
        )
        for k in TYPED_KINDS
        if k not in closed
    ]

"""A trial is started."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.room.models import Trial
from jarvok.app.testing.trials import NAMES, number
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise
from jarvok.core.testing import rest_test
from jarvok.core.testing.tried import TrialKind


def run(who: Who, athlete: Athlete, kind: str, exercise_id: str, asked: Mapping[str, Any]) -> Trial:
    """Start a trial with what it is asked to do. Raises `CoachError` where lift and kind do not fit."""
    with acting(who, "start_trial", f"{NAMES[TrialKind(kind)] if kind in set(TrialKind) else kind} started", athlete=athlete):
        if kind not in set(TrialKind):
            raise CoachError(f"“{kind}” is no trial.", where="kind", accepted=", ".join(TrialKind) + ".")
        lift = exercise(exercise_id)
        restricted = {r.tag for r in athlete.restrictions.all() if r.until is None or r.until >= clock.today()}
        if restricted & {lift.pattern, lift.region, *lift.tags}:
            raise CoachError(f"{lift.name} is restricted for {athlete.name}.", where="exercise_id", accepted="Another lift.")
        kept: dict[str, Any] = {}
        if kind in (TrialKind.LADDER, TrialKind.SINGLE):
            if not lift.is_loaded:
                raise CoachError(f"{lift.name} takes no load.", where="exercise_id", accepted="A loaded lift.")
            if kind == TrialKind.LADDER:
                kept["target_mps"] = number(asked, "target_mps", 0.15, 3.5)
                if kept["target_mps"] is None:
                    raise CoachError("A ladder needs its velocity.", where="target_mps", accepted="0.15 to 3.5 m/s.")
            kept["set_most_kg"] = number(asked, "set_most_kg", 1, 600)
        elif lift.kind != "jump":
            raise CoachError(f"{lift.name} is no jump.", where="exercise_id", accepted="The jump whose height counts.")
        if kind == TrialKind.REST:
            rests = asked.get("rests_s") or rest_test.USUAL_RESTS_S
            if not all(isinstance(r, int | float) and not isinstance(r, bool) for r in rests):
                raise CoachError("Rests are numbers.", where="rests_s", accepted="Two to ten rests of 10 to 900 s.")
            rng = np.random.default_rng(int(clock.now().timestamp()))
            kept["order"] = list(rest_test.protocol([int(r) for r in rests], rng, int(asked.get("rounds") or 1)))
            kept["heavy_set"] = str(asked.get("heavy_set") or "")[:80]
            kept["own_error_cm"] = number(asked, "own_error_cm", 0.1, 10)
        return Trial.objects.create(
            athlete=athlete, kind=kind, exercise_id=lift.id, asked=kept, day=clock.today(), started_at=clock.now()
        )

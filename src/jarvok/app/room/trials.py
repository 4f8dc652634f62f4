"""Ladders, singles, rest tests and jump tests as they run: the next step from the tries so far, and what is kept."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from typing import Any

import numpy as np
from django.db import transaction

from jarvok.app import clock
from jarvok.app.athletes.models import Athlete, MarkRecord
from jarvok.app.athletes.queries import LiftBook
from jarvok.app.centre.queries import rules_in_force
from jarvok.app.problems import Conflict
from jarvok.app.room.models import OwnDefault, Trial, TrialEntry
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import Exercise, exercise, exercises
from jarvok.core.loading.state import LiftState
from jarvok.core.marks.mark import MarkKind
from jarvok.core.quantities.mass import check_load_kg
from jarvok.core.testing import reps_test, rest_test
from jarvok.core.velocity.ladder import EXPECTED_SHARE, Ladder, LadderRule, Try, next_load
from jarvok.core.velocity.profile import general_slope_mps_per_kg


class TrialKind(StrEnum):
    """What is tried."""

    LADDER = "ladder"
    SINGLE = "single"
    REST = "rest"
    REPS = "reps"


NAMES = {
    TrialKind.LADDER: "Ladder to a velocity",
    TrialKind.SINGLE: "Working up to a single",
    TrialKind.REST: "Rest between heavy set and jump",
    TrialKind.REPS: "Jumps in a set",
}
HOW = {
    TrialKind.LADDER: "the heaviest load still moved at the velocity; one repetition a load, a second for a near miss",
    TrialKind.SINGLE: "the heaviest single with form intact; stop at the first form break",
    TrialKind.REST: "the same heavy set, then jumps after different rests on separate rounds, in mixed order",
    TrialKind.REPS: "two sets or more of four to ten jumps, every height kept",
}
SAFETY = "Spotters or safeties, collars, a clear platform. Stop at the first form break, or when it hurts."
LANDING = "Warm, on a dry floor, landings quiet. Stop when a landing is not."


@dataclass(frozen=True)
class Standing:
    """A trial as it stands: one of the three results is there, by its kind."""

    ladder: Ladder | None = None
    rest: rest_test.RestResult | None = None
    reps: reps_test.RepsResult | None = None
    next_rest_s: int | None = None  # of a rest test: 0 baseline, None when all rounds are done

    @property
    def sentence(self) -> str:
        """What it says so far."""
        if self.ladder is not None:
            return self.ladder.sentence
        found = self.rest or self.reps
        return found.sentence if found is not None else ""

    @property
    def value(self) -> float | None:
        """What would be kept: kg, seconds of rest, or jumps a set."""
        if self.ladder is not None:
            return self.ladder.best_kg
        if self.rest is not None:
            return float(self.rest.kept_s) if self.rest.kept_s is not None else None
        return float(self.reps.kept_reps) if self.reps is not None and self.reps.kept_reps is not None else None


def _number(asked: Mapping[str, Any], name: str, low: float, high: float) -> float | None:
    value = asked.get(name)
    if value is None or value == "":
        return None
    if isinstance(value, bool) or not isinstance(value, int | float) or not low <= value <= high:
        raise CoachError(f"“{value}” cannot be here.", where=name, accepted=f"{low:g} to {high:g} are accepted.")
    return float(value)


@transaction.atomic
def start_trial(athlete: Athlete, kind: str, exercise_id: str, asked: Mapping[str, Any]) -> Trial:
    """Start a trial with what it is asked to do. Raises `CoachError` where lift and kind do not fit."""
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
            kept["target_mps"] = _number(asked, "target_mps", 0.15, 3.5)
            if kept["target_mps"] is None:
                raise CoachError("A ladder needs its velocity.", where="target_mps", accepted="0.15 to 3.5 m/s.")
        kept["set_most_kg"] = _number(asked, "set_most_kg", 1, 600)
    elif lift.kind != "jump":
        raise CoachError(f"{lift.name} is no jump.", where="exercise_id", accepted="The jump whose height counts.")
    if kind == TrialKind.REST:
        rests = asked.get("rests_s") or rest_test.USUAL_RESTS_S
        if not all(isinstance(r, int | float) and not isinstance(r, bool) for r in rests):
            raise CoachError("Rests are numbers.", where="rests_s", accepted="Two to ten rests of 10 to 900 s.")
        seed = int(clock.now().timestamp())
        kept["order"] = list(rest_test.protocol([int(r) for r in rests], np.random.default_rng(seed)))
        kept["heavy_set"] = str(asked.get("heavy_set") or "")[:80]
        kept["own_error_cm"] = _number(asked, "own_error_cm", 0.1, 10)
    return Trial.objects.create(athlete=athlete, kind=kind, exercise_id=lift.id, asked=kept, started_at=clock.now())


def entries_of(trial: Trial) -> list[TrialEntry]:
    """The tries that count, in order."""
    return [e for e in trial.entries.all() if e.taken_back_at is None]


def ladder_rule(trial: Trial, state: LiftState) -> LadderRule:
    """What the ladder looks for, from the athlete's own line and record."""
    if state.implement is None:
        raise CoachError("There is nothing to load here.", where="exercise_id")
    target, lift = trial.asked.get("target_mps"), state.exercise
    slope = state.profile.slope_mps_per_kg if state.profile is not None else None
    if slope is None and state.max_kg:
        slope = general_slope_mps_per_kg(state.max_kg, is_peak=lift.velocity == "peak")
    record = record_of(trial)
    expected = record
    if expected is None and target is not None and state.profile is not None:
        expected = max(0.0, state.profile.load_kg(target)) or None
    if expected is None and state.max_kg:
        expected = state.max_kg * (EXPECTED_SHARE if target is not None else 1.0)
    usual = slope if target is not None else None
    return LadderRule(target, state.implement, usual, expected, trial.asked.get("set_most_kg"), record)


def record_of(trial: Trial) -> float | None:
    """The best of earlier trials of the same kind, lift and velocity, in kg."""
    same = Trial.objects.filter(
        athlete_id=trial.athlete_id, kind=trial.kind, exercise_id=trial.exercise_id, ended_at__isnull=False, result__isnull=False
    )
    target = trial.asked.get("target_mps")
    best = [t.result for t in same.exclude(pk=trial.pk) if t.result is not None and t.asked.get("target_mps") == target]
    return max(best, default=None)


def standing(trial: Trial) -> Standing:
    """Return what the tries so far say."""
    rows = [e.data for e in entries_of(trial)]
    kind = TrialKind(trial.kind)
    if kind in (TrialKind.LADDER, TrialKind.SINGLE):
        state = state_of(trial)
        tries = [Try(r["load_kg"], r.get("velocity_mps"), r.get("form_held", True)) for r in rows]
        return Standing(ladder=next_load(ladder_rule(trial, state), tries, state.rules))
    if kind is TrialKind.REPS:
        return Standing(reps=reps_test.result([r["heights_cm"] for r in rows], rules_in_force()))
    order = trial.asked["order"]
    coming = order[len(rows)] if len(rows) < len(order) else None
    rounds = [rest_test.Round(r["rest_s"], tuple(r["heights_cm"])) for r in rows]
    return Standing(rest=rest_test.result(rounds, trial.asked.get("own_error_cm")), next_rest_s=coming)


def state_of(trial: Trial) -> LiftState:
    """What is known of the lift."""
    return LiftBook([trial.athlete], clock.today()).state(trial.athlete_id, trial.exercise_id)


def _open(trial: Trial) -> None:
    if trial.ended_at is not None:
        raise Conflict("This trial is over. Its record stays as it is.")


@transaction.atomic
def add_try(trial: Trial, number: int, data: Mapping[str, Any]) -> None:
    """Keep a try. `number` is its place: one that was taken meanwhile is refused, not overwritten."""
    _open(trial)
    known = entries_of(trial)
    if number != len(known) + 1:
        raise Conflict(f"Try {number} is there already, or one before it is missing: {len(known)} are kept.")
    TrialEntry.objects.create(trial=trial, data=_checked(trial, known, data), at=clock.now())


def _checked(trial: Trial, known: list[TrialEntry], data: Mapping[str, Any]) -> dict[str, Any]:
    if trial.kind in (TrialKind.LADDER, TrialKind.SINGLE):
        load = data.get("load_kg")
        if not isinstance(load, int | float) or isinstance(load, bool):
            raise CoachError("A try needs its load.", where="load_kg", accepted="0.5 to 600 kg are accepted.")
        found: dict[str, Any] = {"load_kg": check_load_kg(float(load), "load_kg"), "form_held": bool(data.get("form_held", True))}
        if trial.kind == TrialKind.LADDER:
            found["velocity_mps"] = _number(data, "velocity_mps", 0.05, 4)
            if found["velocity_mps"] is None:
                raise CoachError("A try needs its velocity.", where="velocity_mps", accepted="0.05 to 4 m/s are accepted.")
        return found
    heights = data.get("heights_cm") or []
    if not heights or not all(isinstance(h, int | float) and not isinstance(h, bool) and 5 <= h <= 130 for h in heights):
        raise CoachError("Heights are numbers in cm.", where="heights_cm", accepted="5 to 130 cm, one for each jump.")
    found = {"heights_cm": [round(float(h), 1) for h in heights[:20]]}
    if trial.kind == TrialKind.REST:
        order = trial.asked["order"]
        if len(known) >= len(order):
            raise Conflict("All rounds are done.")
        found["rest_s"] = order[len(known)]
    elif len(heights) < reps_test.LEAST_REPS:
        raise CoachError("A set of this test is four jumps or more.", where="heights_cm", accepted="Four to ten heights.")
    return found


@transaction.atomic
def take_back(trial: Trial) -> None:
    """Take the last try back."""
    _open(trial)
    known = entries_of(trial)
    if not known:
        raise Conflict("Nothing has been tried yet.")
    known[-1].taken_back_at = clock.now()
    known[-1].save(update_fields=["taken_back_at"])


@transaction.atomic
def end_trial(trial: Trial, keep: bool) -> None:
    """End a trial; with `keep` what it found becomes the athlete's own default, or a mark for a single."""
    _open(trial)
    found = standing(trial)
    trial.ended_at, trial.outcome, trial.result = clock.now(), found.sentence[:300], found.value
    trial.save()
    if not keep or found.value is None:
        return
    if trial.kind in (TrialKind.REST, TrialKind.REPS):
        OwnDefault.objects.create(
            athlete=trial.athlete, kind=trial.kind, exercise_id=trial.exercise_id, value=found.value, trial=trial, at=clock.now()
        )
    elif trial.kind == TrialKind.SINGLE:
        MarkRecord.objects.create(
            athlete=trial.athlete, exercise_id=trial.exercise_id, kind=MarkKind.TECHNICAL_MAX, day=clock.today(),
            load_kg=found.value, reps=1, note="working-up single",
        )  # fmt: skip


def own_defaults(athlete_id: int) -> dict[tuple[str, str], OwnDefault]:
    """What trials found for an athlete, newest by kind and lift."""
    return {(d.kind, d.exercise_id): d for d in OwnDefault.objects.filter(athlete_id=athlete_id).order_by("id")}


def jumps_to_try() -> list[Exercise]:
    """Jumps whose height can count."""
    return [e for e in exercises().values() if e.kind == "jump" and e.pattern == "jump"]

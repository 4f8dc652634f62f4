"""Ladders, singles, rest tests and jump tests as they run: the next step from the tries so far, and what is kept."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from jarvok.app import clock
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.centre.in_force import rules_in_force
from jarvok.app.facts.athletes.models import MarkRecord
from jarvok.app.facts.room.models import OwnDefault, Trial
from jarvok.app.problems import Conflict
from jarvok.app.testing.tries import entries_of, tries_of
from jarvok.core.errors import CoachError
from jarvok.core.exercises import Exercise
from jarvok.core.library.exercises import exercises
from jarvok.core.loading.methods.velocity_ladder import expected_kg
from jarvok.core.loading.state import LiftState
from jarvok.core.marks.mark import MarkKind
from jarvok.core.quantities.mass import check_load_kg
from jarvok.core.testing import reps_test, rest_test
from jarvok.core.testing.tried import Jumps, TrialKind, Tried
from jarvok.core.velocity.ladder import Ladder, LadderRule, Try, next_load
from jarvok.core.velocity.profile import general_slope_mps_per_kg

NAMES = {
    TrialKind.LADDER: "Load ladder to a target velocity",
    TrialKind.SINGLE: "Working up to a single",
    TrialKind.REST: "Rest between a heavy set and a jump",
    TrialKind.REPS: "Jumps a set before they drop",
}
HOW = {
    TrialKind.LADDER: "the heaviest load still moved at the velocity; one repetition a load, a second for a near miss",
    TrialKind.SINGLE: "the heaviest single with good technique; stop when it breaks",
    TrialKind.REST: "the same heavy set, then jumps after different rests on separate rounds, in mixed order",
    TrialKind.REPS: "two sets or more of four to ten jumps, every height kept",
}
SAFETY = "Spotters or safeties, collars, a clear platform. Stop when technique breaks, or when it hurts."
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


def number(asked: Mapping[str, Any], name: str, low: float, high: float) -> float | None:
    value = asked.get(name)
    if value is None or value == "":
        return None
    if isinstance(value, bool) or not isinstance(value, int | float) or not low <= value <= high:
        raise CoachError(f"“{value}” cannot be here.", where=name, accepted=f"{low:g} to {high:g} are accepted.")
    return float(value)


def ladder_rule(trial: Trial, state: LiftState) -> LadderRule:
    """What the ladder looks for, from the athlete's own line and record."""
    if state.implement is None:
        raise CoachError("There is nothing to load here.", where="exercise_id")
    target, lift = trial.asked.get("target_mps"), state.exercise
    slope = state.profile.slope_mps_per_kg if state.profile is not None else None
    if slope is None and state.max_kg:
        slope = general_slope_mps_per_kg(state.max_kg, is_peak=lift.velocity == "peak")
    record = record_of(trial)
    expected, _ = expected_kg(target, state, record)
    usual = slope if target is not None else None
    return LadderRule(target, state.implement, usual, expected, trial.asked.get("set_most_kg"), record)


def record_of(trial: Trial) -> float | None:
    """The best before it at the same lift and velocity, in kg: of earlier tests of its kind, and of results that were typed."""
    same = Trial.objects.filter(
        athlete_id=trial.athlete_id, kind=trial.kind, exercise_id=trial.exercise_id, ended_at__isnull=False, result__isnull=False
    )
    target = trial.asked.get("target_mps")
    best = [t.result for t in same.exclude(pk=trial.pk) if t.result is not None and t.asked.get("target_mps") == target]
    return max([*best, *_typed_records(trial, target)], default=None)


def _typed_records(trial: Trial, target_mps: float | None) -> list[float]:
    kind = MarkKind.TECHNICAL_MAX if target_mps is None else MarkKind.SET_VELOCITY
    rows = MarkRecord.objects.filter(
        athlete_id=trial.athlete_id, exercise_id=trial.exercise_id, kind=kind, withdrawn_at__isnull=True, load_kg__isnull=False
    )
    typed = rows.exclude(pk=trial.mark_id) if trial.mark_id is not None else rows
    return [m.load_kg for m in typed if target_mps is None or (m.measures.get("velocity_mps") or 0.0) >= target_mps]


def standing(trial: Trial) -> Standing:
    """Return what the tries so far say."""
    tried = tries_of(trial)
    kind = TrialKind(trial.kind)
    if kind in (TrialKind.LADDER, TrialKind.SINGLE):
        state = state_of(trial)
        tries = [t for t in tried if isinstance(t, Try)]
        return Standing(ladder=next_load(ladder_rule(trial, state), tries, state.rules))
    rounds = [t for t in tried if isinstance(t, Jumps)]
    if kind is TrialKind.REPS:
        return Standing(reps=reps_test.result([list(r.heights_cm) for r in rounds], rules_in_force()))
    order = trial.asked["order"]
    coming = order[len(rounds)] if len(rounds) < len(order) else None
    days = [clock.day_of(e.at) for e in entries_of(trial)]
    by_day = [rest_test.Round(r.rest_s or 0, r.heights_cm, day) for r, day in zip(rounds, days, strict=True)]
    return Standing(rest=rest_test.result(by_day, trial.asked.get("own_error_cm")), next_rest_s=coming)


def state_of(trial: Trial) -> LiftState:
    """What is known of the lift."""
    return LiftBook([trial.athlete], clock.today()).state(trial.athlete_id, trial.exercise_id)


def checked(trial: Trial, known: int, data: Mapping[str, Any]) -> Tried:
    """A try behind so many others as it can be kept; raises `CoachError` for one that cannot."""
    if trial.kind in (TrialKind.LADDER, TrialKind.SINGLE):
        load = data.get("load_kg")
        if not isinstance(load, int | float) or isinstance(load, bool):
            raise CoachError("A try needs its load.", where="load_kg", accepted="0.5 to 600 kg are accepted.")
        found = Try(check_load_kg(float(load), "load_kg"), form_held=bool(data.get("form_held", True)))
        if trial.kind == TrialKind.SINGLE:
            return found
        velocity_mps = number(data, "velocity_mps", 0.05, 4)
        if velocity_mps is None:
            raise CoachError("A try needs its velocity.", where="velocity_mps", accepted="0.05 to 4 m/s are accepted.")
        return replace(found, velocity_mps=velocity_mps)
    heights = data.get("heights_cm") or []
    if not heights or not all(isinstance(h, int | float) and not isinstance(h, bool) and 5 <= h <= 130 for h in heights):
        raise CoachError("Heights are numbers in cm.", where="heights_cm", accepted="5 to 130 cm, one for each jump.")
    jumps = Jumps(tuple(round(float(h), 1) for h in heights[:20]))
    if trial.kind == TrialKind.REST:
        order = trial.asked["order"]
        if known >= len(order):
            raise Conflict("All rounds are done.")
        return replace(jumps, rest_s=order[known])
    if len(heights) < reps_test.LEAST_REPS:
        raise CoachError("A set of this test is four jumps or more.", where="heights_cm", accepted="Four to ten heights.")
    return jumps


def own_defaults(athlete_id: int) -> dict[tuple[str, str], OwnDefault]:
    """What trials found for an athlete, newest by kind and lift."""
    return {(d.kind, d.exercise_id): d for d in OwnDefault.objects.filter(athlete_id=athlete_id).order_by("id")}


def jumps_to_try() -> list[Exercise]:
    """Jumps whose height can count."""
    return [e for e in exercises().values() if e.kind == "jump" and e.pattern == "jump"]

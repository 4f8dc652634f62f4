"""A set of a guided test is logged."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.room.models import Trial
from jarvok.app.problems import Conflict
from jarvok.app.testing.max_tests import NewAttempt, attempts_of, state_of
from jarvok.app.testing.tries import check_running, keep
from jarvok.core.errors import CoachError
from jarvok.core.quantities.mass import check_load_kg, said_mass
from jarvok.core.quantities.plates import unit_of
from jarvok.core.testing.choice import TestKind
from jarvok.core.testing.steps import Attempt


def run(who: Who, test: Trial, new: NewAttempt) -> None:
    """Store an attempt. The same number with the same content again changes nothing."""
    with acting(who, "log_attempt", f"test set {new.number}", athlete=test.athlete):
        check_running(test)
        check_load_kg(new.load_kg, "load_kg")
        if not 0 <= new.reps <= 60:
            raise CoachError(f"{new.reps} repetitions cannot be.", where="reps", accepted="0 to 60 are accepted.")
        if new.felt is not None and not 1 <= new.felt <= 10:
            raise CoachError("Felt effort runs from 1 to 10.", where="felt")
        if new.velocity_mps is not None and not 0.05 <= new.velocity_mps <= 5:
            raise CoachError("A bar velocity of 0.05 to 5 m/s is accepted.", where="velocity_mps")
        known = attempts_of(test)
        if 1 <= new.number <= len(known):
            done = known[new.number - 1]
            if (done.load_kg, done.reps) == (new.load_kg, new.reps):
                return
            load = said_mass(done.load_kg, unit_of(state_of(test).implement))
            raise Conflict(f"Set {new.number} is already logged: {load} × {done.reps}.")
        if new.number != len(known) + 1:
            raise Conflict("Another set was logged meanwhile. The page shows it now.")
        if test.kind == TestKind.LOAD_VELOCITY and new.velocity_mps is None and not new.missed:
            raise CoachError("This test needs the velocity of the fastest repetition.", where="velocity_mps")
        told = {k: v for k, v in new.__dict__.items() if k != "number"}
        keep(test, new.number, Attempt(**told))

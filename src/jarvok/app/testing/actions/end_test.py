"""A guided test is ended, and what it showed is written down."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.athletes.typed_marks import TypedMark
from jarvok.app.facts.room.models import Trial
from jarvok.app.testing.max_tests import attempts_of, coming, day_of, state_of, write_mark
from jarvok.app.testing.tries import check_running
from jarvok.core.marks.mark import MarkKind
from jarvok.core.quantities.plates import unit_of
from jarvok.core.testing.choice import NAMES, TestKind
from jarvok.core.testing.steps import Result, Step


def run(who: Who, test: Trial) -> None:
    """End a test and write its marks: one, or one for each load of a load-velocity test."""
    with acting(who, "end_test", "test ended", athlete=test.athlete):
        check_running(test)
        state = state_of(test)
        result, unit = coming(test, state), unit_of(state.implement)
        if isinstance(result, Step):
            result = coming(test, state, stop=True)
        assert isinstance(result, Result)
        day = day_of(test)
        lift, note = test.exercise_id, f"test: {NAMES[TestKind(test.kind)]}"
        if result.kind is MarkKind.SET_VELOCITY:
            for a in attempts_of(test):
                if a.velocity_mps is not None:
                    fast = {"velocity_mps": a.velocity_mps}
                    typed = TypedMark(
                        lift, MarkKind.SET_VELOCITY, day, a.load_kg, reps=a.reps, measures=fast, note=note, unit=unit
                    )
                    test.mark = write_mark(who, test, typed)
        elif result.kind is not None:
            typed = TypedMark(lift, result.kind, day, result.load_kg, reps=result.reps, rir=result.rir, note=note, unit=unit)
            test.mark = write_mark(who, test, typed)
        test.ended_at, test.outcome = clock.now(), result.words[:200]
        test.save()

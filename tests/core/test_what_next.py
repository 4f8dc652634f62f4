from datetime import date

import pytest

from jarvok.core.floor.advice import DoneSet, Move, Trouble
from jarvok.core.floor.what_next import what_next
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.resolve import resolve
from jarvok.core.loading.shorthand import parse
from jarvok.core.loading.state import LiftState
from jarvok.core.marks.mark import Mark, MarkKind
from jarvok.core.marks.working_max import current_max
from jarvok.core.velocity.profile import LoadVelocity, fit_profile

DAY = date(2026, 3, 2)
NOISE = (0.004, -0.005, 0.003, -0.004, 0.002)
PROFILE = fit_profile(
    [LoadVelocity(DAY, x, 1.5 - 0.0105 * x + e) for x, e in zip((40.0, 60.0, 80.0, 95.0, 105.0), NOISE, strict=True)], 120
)
STATE = LiftState(exercise("trap_bar_deadlift"), max=current_max([Mark("m", DAY, MarkKind.ONE_RM, 120)], DAY), profile=PROFILE)
NO_PROFILE = LiftState(STATE.exercise, max=STATE.max)


def advise(line: str, *done: DoneSet, left: int = 2, state: LiftState = STATE):
    return what_next(resolve(parse(line), state)[0], done, left, state)


def test_a_set_as_planned_is_repeated() -> None:
    advice = advise("4 × 3 @ 82 %", DoneSet(97.5, 3, planned_reps=3))
    assert (advice.move, advice.load_kg) == (Move.SAME, 97.5)
    assert "Same again: 97.5 kg" in advice.sentence


@pytest.mark.parametrize(("rir", "move"), [(0, Move.DOWN), (2, Move.SAME), (2.5, Move.SAME), (4, Move.UP)])
def test_reserve_corrects_the_next_load(rir: float, move: Move) -> None:
    advice = advise("3 × 5, 2 in reserve", DoneSet(97.5, 5, rir=rir, planned_reps=5))
    assert advice.move is move
    assert advice.load_kg is not None
    assert abs(advice.load_kg - 97.5) <= 10


def test_one_rep_of_reserve_is_worth_about_3_per_cent() -> None:  # common practice: 2.5-3 %
    advice = advise("3 × 5, 2 in reserve", DoneSet(97.5, 5, rir=4, planned_reps=5))
    assert advice.load_kg is not None
    assert 0.02 <= (advice.load_kg / 97.5 - 1) / 2 <= 0.035


def test_percent_sets_know_the_reserve_they_should_leave() -> None:
    assert advise("4 × 3 @ 82 %", DoneSet(97.5, 3, rir=0, planned_reps=3)).move is Move.DOWN


def test_missed_repetitions_go_down_and_twice_ends_the_lift() -> None:
    missed = DoneSet(97.5, 3, planned_reps=5)
    once = advise("4 × 5 @ 82 %", missed)
    assert once.move is Move.DOWN
    assert once.load_kg is not None
    assert once.load_kg <= 97.5 * 0.96
    assert advise("4 × 5 @ 82 %", missed, missed).move is Move.DONE


@pytest.mark.parametrize(("best", "move"), [(0.60, Move.DOWN), (0.75, Move.SAME), (0.95, Move.UP)])
def test_velocity_target(best: float, move: Move) -> None:
    advice = advise("4 × 3 @ 0.70–0.80 m/s", DoneSet(72.5, 3, velocities_mps=(best, best - 0.02, best - 0.03), planned_reps=3))
    assert advice.move is move


def test_steps_are_limited() -> None:
    up = advise("4 × 3 @ 0.70–0.80 m/s", DoneSet(72.5, 3, velocities_mps=(1.4,), planned_reps=3))
    assert up.load_kg is not None
    assert up.load_kg <= 72.5 * 1.06 + 1.25


def test_faster_than_usual_at_this_load_proposes_more() -> None:
    usual = 1.5 - 0.0105 * 97.5
    fast = advise("4 × 3 @ 82 %", DoneSet(97.5, 3, velocities_mps=(usual + 0.06, usual), planned_reps=3))
    normal = advise("4 × 3 @ 82 %", DoneSet(97.5, 3, velocities_mps=(usual + 0.005, usual), planned_reps=3))
    assert fast.move is Move.UP
    assert normal.move is Move.SAME
    assert any("usual at this load" in i.name for i in fast.working.inputs)


def test_loss_past_the_stop_line_is_said() -> None:
    advice = advise("4 × 5 @ 80 %", DoneSet(95, 5, velocities_mps=(0.55, 0.50, 0.40), planned_reps=5), state=NO_PROFILE)
    assert advice.move is Move.SAME
    assert "past the velocity stop" in advice.sentence


def test_a_drop_of_ten_per_cent_at_the_same_load_ends_the_lift() -> None:
    first, second = DoneSet(95, 3, velocities_mps=(0.55,)), DoneSet(95, 3, velocities_mps=(0.49,))
    assert advise("4 × 3 @ 80 %", first, second).move is Move.DONE
    assert advise("4 × 3 @ 80 %", first, DoneSet(97.5, 3, velocities_mps=(0.49,))).move is not Move.DONE


def test_pain_ends_the_lift_and_refers() -> None:
    advice = advise("4 × 3 @ 80 %", DoneSet(95, 3, trouble=Trouble.PAIN))
    assert advice.move is Move.DONE
    assert "licensed professional" in advice.sentence


def test_form_broken_once_goes_down_and_twice_ends() -> None:
    broke = DoneSet(95, 3, trouble=Trouble.FORM_BROKE, planned_reps=3)
    assert advise("4 × 3 @ 80 %", broke).move is Move.DOWN
    assert advise("4 × 3 @ 80 %", broke, broke).move is Move.DONE


def test_the_last_set_is_the_end_and_nothing_done_is_an_error() -> None:
    assert advise("4 × 3 @ 82 %", DoneSet(97.5, 3, planned_reps=3), left=0).move is Move.DONE
    with pytest.raises(ValueError, match="at least one set"):
        advise("4 × 3 @ 82 %")


def test_unloaded_work_goes_on() -> None:
    advice = advise("3 × 45 s", DoneSet(None, 1), state=LiftState(exercise("front_hold")))
    assert (advice.move, advice.load_kg) == (Move.SAME, None)

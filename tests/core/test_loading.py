from datetime import date

import pytest

from jarvok.core.library.exercises import exercise
from jarvok.core.library.kit import implement_for
from jarvok.core.loading.ramp import RampedLine, ramp_to, session_ramps
from jarvok.core.loading.resolve import resolve
from jarvok.core.loading.shorthand import parse
from jarvok.core.loading.state import LiftState
from jarvok.core.marks.mark import Mark, MarkKind
from jarvok.core.marks.working_max import current_max
from jarvok.core.quantities.plates import Barbell
from jarvok.core.velocity.profile import LoadVelocity, fit_profile

DAY = date(2026, 3, 2)
LIFT = exercise("trap_bar_deadlift")
MAX = current_max([Mark("mark:1", DAY, MarkKind.ONE_RM, 120.0)], DAY)
PROFILE = fit_profile([LoadVelocity(DAY, x, 1.5 - 0.0105 * x, f"p{x}") for x in (40.0, 60.0, 80.0, 100.0)], 120)
FULL = LiftState(LIFT, max=MAX, profile=PROFILE)
BARE = LiftState(LIFT)


def first(line: str, state: LiftState = FULL):
    return resolve(parse(line), state)[0]


@pytest.mark.parametrize(("line", "load_kg", "method"), [
    ("4 × 3 @ 82 %", 97.5, "percent"),           # 98.4
    ("3 × 8, 2 in reserve", 90.0, "reps in reserve"),  # 10RM by Epley: 120 / 1.3333
    ("3 × 5 @ RPE 8", 97.5, "reps in reserve"),  # 7RM: 97.3
    ("1 × 1 @ RPE 10", 120.0, "reps in reserve"),
    ("5 × 2 @ 0.70–0.80 m/s", 72.5, "velocity"),   # 71.4 on the own line
    ("3 × 5 @ 60 kg", 60.0, "as written"),
])  # fmt: skip
def test_each_rule_sets_its_load(line: str, load_kg: float, method: str) -> None:
    found = first(line)
    assert (found.load_kg, found.method) == (load_kg, method)
    assert found.working is not None
    assert found.working.result == f"{load_kg:g} kg"
    assert found.load_kg == LIFT.bar_kg + 2 * sum(found.per_side_kg)


def test_percent_per_set_and_ranges() -> None:
    assert [s.wanted_kg for s in resolve(parse("3 × 3 @ 70/80/90 %"), FULL)] == pytest.approx([84, 96, 108])
    assert [s.wanted_kg for s in resolve(parse("3 × 3 @ 70-80 %"), FULL)] == pytest.approx([84, 90, 96])
    assert [s.set_index for s in resolve(parse("2 × 3 @ 70 % then 1 × 5+ @ 60 %"), FULL)] == [0, 1, 2]


class TestFallbackIsVisible:
    def test_velocity_without_a_profile_goes_by_the_lifts_general_relation(self) -> None:
        found = first("5 × 2 @ 0.55-0.61 m/s", LiftState(LIFT, max=MAX))
        assert found.method == "percent"
        assert found.wanted_kg == pytest.approx(0.70 * 120, abs=0.01)  # 0.58 lies half way between 0.20 and 0.96
        assert found.working is not None
        assert "no load–velocity profile" in found.working.missing[0]

    def test_an_unsound_profile_says_why_it_is_not_used(self) -> None:
        poor = fit_profile([LoadVelocity(DAY, x, 1.5 - 0.0105 * x) for x in (80.0, 90.0, 100.0)], 120)
        found = first("5 × 2 @ 0.70 m/s", LiftState(LIFT, max=MAX, profile=poor))
        assert found.method == "percent"
        assert found.working is not None
        assert "3 loads so far" in found.working.missing[0]

    @pytest.mark.parametrize("line", ["4 × 3 @ 82 %", "3 × 8, 2 in reserve", "5 × 2 @ 0.70 m/s"])
    def test_without_a_max_it_is_by_feel_and_says_what_is_missing(self, line: str) -> None:
        found = first(line, BARE)
        assert found.load_kg is None
        assert found.method == "effort"
        assert found.working is not None
        assert any("no max" in text for text in found.working.missing)

    def test_a_velocity_far_outside_the_tested_loads_is_held_at_their_edge(self) -> None:
        found = first("3 × 1 @ 0.20 m/s")
        assert found.wanted_kg == pytest.approx(112)  # 100 kg and a tenth of the max
        assert found.working is not None
        assert "outside the loads tested" in found.working.caution

    def test_a_related_lift_stands_in_with_its_ratio(self) -> None:
        state = LiftState(exercise("romanian_deadlift"), max=MAX, related_max_from="trap-bar deadlift", related_ratio=0.75)
        found = first("3 × 5 @ 80 %", state)
        assert found.wanted_kg == pytest.approx(72)
        assert found.working is not None
        assert "times 0.75" in found.working.inputs[0].text


def test_unloaded_work_has_no_load() -> None:
    found = first("3 × 45 s", LiftState(exercise("front_hold")))
    assert (found.load_kg, found.seconds, found.working) == (None, 45, None)


def test_one_relation_in_both_directions_does_not_ratchet() -> None:
    """Done exactly as prescribed, a set implies the max it was prescribed from."""
    found = first("3 × 5, 2 in reserve")
    assert found.wanted_kg is not None
    assert FULL.equation.one_rm_kg(found.wanted_kg, 7) == pytest.approx(120)


def test_the_working_names_the_evidence() -> None:
    found = first("4 × 3 @ 82 %")
    assert found.working is not None
    assert any(i.ref == "mark:1" for i in found.working.inputs)
    assert "98.4 to 97.5 kg" in found.working.rounding


class TestRamp:
    bar = Barbell(bar_kg=25)

    @pytest.mark.parametrize("work", [60.0, 97.5, 140.0, 220.0])
    def test_loads_rise_and_repetitions_fall_to_the_work_set(self, work: float) -> None:
        ramp = ramp_to(work, self.bar, 3)
        assert 2 <= len(ramp) <= 4
        assert [r.load_kg for r in ramp] == sorted({r.load_kg for r in ramp})
        assert [r.reps for r in ramp] == sorted((r.reps for r in ramp), reverse=True)
        assert ramp[-1].load_kg < work

    def test_a_light_bar_needs_no_ramp(self) -> None:
        assert ramp_to(27.5, self.bar, 5) in ((), ramp_to(27.5, self.bar, 5)[:1])

    def test_a_lift_is_warmed_up_once_and_jumps_not_at_all(self) -> None:
        lines = [
            RampedLine("A1", exercise("fast_trap_bar_pull"), self.bar, 75, 3),
            RampedLine("B1", LIFT, self.bar, 105, 3),
            RampedLine("A2", exercise("trap_bar_jump"), self.bar, 60, 3),
            RampedLine("C1", exercise("front_hold"), None, None, 1),
        ]
        assert list(session_ramps(lines)) == ["A1"]


def test_implements() -> None:
    assert implement_for(LIFT) == Barbell(bar_kg=25)
    assert implement_for(exercise("front_hold")) is None

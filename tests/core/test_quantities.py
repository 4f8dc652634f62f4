import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy import constants

from jarvok.core.errors import CoachError
from jarvok.core.quantities.mass import KG_PER_LB, check_load_kg, format_kg, kg_from_lb, lb_from_kg
from jarvok.core.quantities.plates import Barbell, FixedSteps, build, lifted_kg

BAR = Barbell()


def test_pound_against_scipy_constants() -> None:
    assert pytest.approx(constants.lb, rel=1e-12) == KG_PER_LB
    assert kg_from_lb(225) == pytest.approx(102.058, abs=0.001)
    assert lb_from_kg(kg_from_lb(135)) == pytest.approx(135)


@pytest.mark.parametrize(("wanted", "built", "sides"), [
    (106.9, 107.5, (20.0, 20.0, 2.5, 1.25)),
    (20.0, 20.0, ()),
    (10.0, 20.0, ()),
    (100.0, 100.0, (20.0, 20.0)),
    (61.25, 60.0, (20.0,)),  # a tie goes to the lighter
    (61.3, 62.5, (20.0, 1.25)),
])  # fmt: skip
def test_nearest_load_and_plates(wanted: float, built: float, sides: tuple[float, ...]) -> None:
    found = build(wanted, BAR)
    assert found.load_kg == built
    assert found.per_side_kg == sides


@given(st.floats(0, 320), st.sampled_from([15.0, 20.0, 25.0]))
def test_what_is_built_adds_up_and_nothing_buildable_is_nearer(wanted: float, bar_kg: float) -> None:
    bar = Barbell(bar_kg=bar_kg)
    found = build(wanted, bar)
    assert found.load_kg == pytest.approx(bar_kg + 2 * sum(found.per_side_kg))
    for other in (found.below_kg, found.above_kg):
        if other is not None:
            assert abs(other - wanted) >= abs(found.load_kg - wanted) - 1e-9
    for mass, pairs in bar.pairs:
        assert found.per_side_kg.count(mass) <= pairs
    assert list(found.per_side_kg) == sorted(found.per_side_kg, reverse=True)


@given(st.floats(20, 300), st.floats(20, 300))
def test_never_above_the_cap(wanted: float, cap: float) -> None:
    assert build(wanted, BAR, cap_kg=cap).load_kg <= cap + 1e-9


def test_a_cap_below_the_bar_is_said_plainly() -> None:
    with pytest.raises(CoachError, match="above the cap of 15 kg"):
        build(40, BAR, cap_kg=15)


def test_collars_count_and_missing_plates_leave_gaps() -> None:
    kit = Barbell(bar_kg=20, pairs=((20.0, 1), (5.0, 1)), collar_kg=2.5)
    assert build(25, kit).load_kg == 25
    found = build(50, kit)
    assert (found.load_kg, found.below_kg, found.above_kg) == (35, 25, 65)


def test_dumbbells_come_in_steps() -> None:
    rack = FixedSteps(4, 50, 2)
    assert build(23.2, rack).load_kg == 24
    assert build(99, rack).load_kg == 50
    assert build(23.2, rack).per_side_kg == ()


@pytest.mark.parametrize("bad", [-1, 601, float("nan"), float("inf")])
def test_impossible_loads_are_refused(bad: float) -> None:
    with pytest.raises(CoachError, match="0 to 600 kg"):
        check_load_kg(bad)


@pytest.mark.parametrize(("kg", "text"), [(102.5, "102.5"), (60.0, "60"), (1.25, "1.25"), (0.5, "0.5"), (100, "100")])
def test_written_form(kg: float, text: str) -> None:
    assert format_kg(kg) == text


class TestATypedLoad:
    """A load typed as it stands on the plates is the one that they make; another stays as it was typed."""

    pounds = Barbell(bar_kg=kg_from_lb(45), pairs=tuple((kg_from_lb(m), 4) for m in (45, 25, 10, 5, 2.5)), unit="lb")

    def test_in_pounds_to_a_tenth(self) -> None:
        made = build(kg_from_lb(225), self.pounds).load_kg
        assert lifted_kg(225, self.pounds) == made
        assert lifted_kg(225.1, self.pounds) == made, "0.1 lb is 0.045 kg: the rounding of what is shown"
        assert lifted_kg(225.2, self.pounds) == pytest.approx(kg_from_lb(225.2)), "0.2 lb is 0.09 kg: another load"

    def test_without_anything_to_load_it_is_kilograms(self) -> None:
        assert lifted_kg(61.3, None) == 61.3

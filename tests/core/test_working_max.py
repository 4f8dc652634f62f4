"""The max to plan from: Jarvok's own rules, checked on the cases a coach would try."""

from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jarvok.core.marks.mark import Mark, MarkKind
from jarvok.core.marks.working_max import Decision, current_max, max_from_mark, max_trend
from jarvok.core.rules import DEFAULT_RULES

DAY = date(2026, 3, 2)


def mark(ref: str, days_ago: int, kind: MarkKind, kg: float, reps: int = 1, rir: float = 0) -> Mark:
    return Mark(ref, DAY - timedelta(days=days_ago), kind, kg, reps, rir)


def test_no_marks_no_max() -> None:
    assert current_max([], DAY) is None
    assert current_max([mark("m", -1, MarkKind.ONE_RM, 100)], DAY) is None  # tomorrow's mark says nothing today


def test_a_lone_test_is_the_max() -> None:
    found = current_max([mark("m", 3, MarkKind.ONE_RM, 100)], DAY)
    assert found is not None
    assert found.value_kg == 100
    assert found.error_kg == pytest.approx(100 * (1.5 + 0.5 * 3 / 7) / 100)


def test_the_order_of_trust_is_the_trades() -> None:
    order = [MarkKind.ONE_RM, MarkKind.TECHNICAL_MAX, MarkKind.VELOCITY_MAX, MarkKind.REP_MAX, MarkKind.SET_RIR]
    errors = [DEFAULT_RULES[f"error.{k}"] for k in order]
    assert errors == sorted(errors)


def test_a_fresh_test_outweighs_a_set_with_reserve_and_an_old_one_does_not() -> None:
    easy_set = mark("s", 0, MarkKind.SET_RIR, 100, 3, 2)  # 116.7
    fresh = current_max([mark("t", 1, MarkKind.ONE_RM, 112), easy_set], DAY)
    old = current_max([mark("t", 90, MarkKind.ONE_RM, 112), easy_set], DAY)
    assert fresh is not None
    assert old is not None
    assert fresh.evidence[0].mark.ref == "t"
    assert old.evidence[0].mark.ref == "s"
    assert fresh.value_kg < old.value_kg


def test_no_jump_on_the_day_a_test_turns_six_weeks_old() -> None:
    marks = [mark("t", 42, MarkKind.ONE_RM, 120), mark("s", 42, MarkKind.SET_RIR, 95, 3, 2)]
    before, after = (current_max(marks, DAY + timedelta(days=d)) for d in (-1, 1))
    assert before is not None
    assert after is not None
    assert abs(before.value_kg - after.value_kg) < 0.2


def test_a_set_says_because_of_which_set() -> None:
    found = current_max([mark("mark:1", 30, MarkKind.REP_MAX, 90, 5), mark("set:7", 0, MarkKind.SET_RIR, 95, 4, 1)], DAY)
    assert found is not None
    assert {i.ref for i in found.working.inputs} == {"mark:1", "set:7"}
    assert "95 × 4 with 1 in reserve" in " ".join(i.text for i in found.working.inputs)


@pytest.mark.parametrize(
    ("reps", "rir", "counts"),
    [(3, 2, True), (5, 5, False), (10, 2, False), (5, 1, True)],
)  # five in reserve is a guess; 12 reps to failure is under 80 % of the max
def test_which_sets_with_reserve_count_by_themselves(reps: int, rir: float, counts: bool) -> None:
    assert (max_from_mark(mark("s", 0, MarkKind.SET_RIR, 80, reps, rir)) is not None) is counts


def test_a_beginners_reserve_moves_nothing() -> None:
    marks = [mark("t", 20, MarkKind.REP_MAX, 60, 8), mark("s", 0, MarkKind.SET_RIR, 75, 3, 2)]
    novice = current_max(marks, DAY, training_age_years=0.5)
    trained = current_max(marks, DAY, training_age_years=3)
    assert novice is not None
    assert trained is not None
    assert [e.mark.ref for e in novice.evidence] == ["t"]
    assert novice.working.missing
    assert trained.value_kg > novice.value_kg


class TestRiseGuard:
    marks = (mark("a", 14, MarkKind.REP_MAX, 80, 5), mark("b", 0, MarkKind.REP_MAX, 90, 8))  # 93.3 then 114

    def test_a_leap_within_a_fortnight_waits_for_the_coach(self) -> None:
        found = current_max(self.marks, DAY)
        assert found is not None
        assert found.value_kg == pytest.approx(80 * (1 + 5 / 30))
        assert found.proposal is not None
        assert found.proposal.day == DAY
        assert found.proposal.to_kg > 110
        assert "waits for you" in found.working.caution

    def test_taken_it_counts_at_once(self) -> None:
        found = current_max(self.marks, DAY, decisions=[Decision(DAY, True)])
        assert found is not None
        assert found.proposal is None
        assert found.value_kg > 110

    def test_refused_the_marks_of_the_day_are_left_out(self) -> None:
        found = current_max(self.marks, DAY, decisions=[Decision(DAY, False)])
        assert found is not None
        assert found.proposal is None
        assert [e.mark.ref for e in found.evidence] == ["a"]

    def test_the_same_rise_over_months_is_progress(self) -> None:
        slow = [mark("a", 140, MarkKind.REP_MAX, 80, 5), mark("b", 0, MarkKind.REP_MAX, 90, 8)]
        found = current_max(slow, DAY)
        assert found is not None
        assert found.proposal is None

    def test_a_fall_is_applied_at_once(self) -> None:
        found = current_max([mark("a", 3, MarkKind.REP_MAX, 100, 5), mark("b", 0, MarkKind.REP_MAX, 80, 5)], DAY)
        assert found is not None
        assert found.proposal is None
        assert found.value_kg < 95


@given(
    st.lists(
        st.tuples(st.integers(0, 150), st.sampled_from(list(MarkKind)), st.floats(40, 200), st.integers(1, 10)),
        min_size=1,
        max_size=8,
    )
)
def test_the_estimate_lies_within_its_evidence_and_the_weights_add_up(rows) -> None:
    found = current_max([mark(f"m{i}", d, k, kg, r) for i, (d, k, kg, r) in enumerate(rows)], DAY)
    if found is None:
        return
    values = [e.max_kg for e in found.evidence]
    assert min(values) - 1e-6 <= found.value_kg <= max(values) + 1e-6
    assert sum(e.weight for e in found.evidence) == pytest.approx(1)
    assert found.error_kg > 0


def test_progress_is_not_hidden_by_sets_that_have_become_light() -> None:
    """A set is heavy enough by the max expected before it; judged by its own outcome, growth would never count."""
    test = mark("t", 28, MarkKind.ONE_RM, 100)
    grown = mark("s", 0, MarkKind.SET_RIR, 81, 5, 4)  # 9 to failure: 105.3 kg; 81 kg is 77 % of that, 81 % of the test
    found = current_max([test, grown], DAY)
    assert found is not None
    assert [e.mark.ref for e in found.evidence if e.mark.kind is MarkKind.SET_RIR] == ["s"]
    light = current_max([test, mark("l", 0, MarkKind.SET_RIR, 70, 8, 3)], DAY)
    assert light is not None
    assert len(light.evidence) == 1


def test_the_trend_ends_where_the_max_stands() -> None:
    marks = [mark(str(d), d, MarkKind.REP_MAX, 90 + d % 3, 5) for d in (90, 60, 30, 2)]
    trend = max_trend(marks, [DAY - timedelta(days=d) for d in (100, 75, 20, 0)])
    assert [p.day for p in trend] == [DAY - timedelta(days=d) for d in (75, 20, 0)]  # nothing stood before the first mark
    now = current_max(marks, DAY)
    assert now is not None
    assert (trend[-1].value_kg, trend[-1].error_kg) == pytest.approx((now.value_kg, now.error_kg))

"""Jumps, sprints and holds, bests, the own repetitions relation, ratios, and what limits a lift."""

from __future__ import annotations

from datetime import date, timedelta

import pytest
import scipy.constants
from hypothesis import given
from hypothesis import strategies as st

from jarvok.core.equations import EPLEY
from jarvok.core.errors import CoachError
from jarvok.core.learning.bests import scheme_records, velocity_records
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.marks.limiter import LiftFacts, fault_kinds, limited_lifts, limits, relative_of
from jarvok.core.marks.mark import Mark, MarkKind
from jarvok.core.marks.past import PastSession, PastSet
from jarvok.core.marks.performance import (
    LIMITS,
    DropJump,
    Reading,
    check_measures,
    compare_sides,
    drop_jump,
    drop_series,
    jump_height_cm,
    reactive_strength_index,
    read,
)
from jarvok.core.marks.ratios import assisted_jump, ratio_rules, ratios
from jarvok.core.marks.relation import own_relation
from jarvok.core.marks.reserve_offset import reserve_offset, reserve_pairs
from jarvok.core.marks.working_max import current_max
from jarvok.core.quantities.mass import kg_from_lb, lb_from_kg
from jarvok.core.rules import Rules
from jarvok.core.velocity.profile import LoadVelocity

DAY = date(2026, 3, 2)


class TestJumpsAndSprints:
    def test_height_from_flight_time(self) -> None:
        # closed form h = g t²/8 with g = 9.80665: 0.5 s is 0.3064578 m. Bosco 1983, quoted from memory
        assert jump_height_cm(0.5) == pytest.approx(30.64578, abs=1e-5)
        assert jump_height_cm(0.5) == pytest.approx(100 * scipy.constants.g * 0.5**2 / 8)

    def test_reactive_strength_index(self) -> None:
        # jump height over contact time; Young 1995, quoted from memory
        assert reactive_strength_index(30, 0.2) == pytest.approx(1.5)

    @pytest.mark.parametrize(("kind", "measures", "value", "unit"), [
        (MarkKind.JUMP, {"height_cm": 41.5}, 41.5, "cm"),
        (MarkKind.JUMP, {"flight_s": 0.5}, 30.64578, "cm"),
        (MarkKind.DROP_JUMP, {"drop_cm": 30, "contact_s": 0.2, "height_cm": 30}, 1.5, "RSI"),
        (MarkKind.HOLD, {"seconds": 90}, 90, "s"),
        (MarkKind.SPRINT, {"distance_m": 30, "seconds": 4.3}, 4.3, "s"),
    ])  # fmt: skip
    def test_each_kind_reads_as_its_number(self, kind, measures, value: float, unit: str) -> None:
        found = read(kind, check_measures(kind, measures), 0)
        assert found.value == pytest.approx(value, abs=1e-4)
        assert found.unit == unit
        assert found.less_is_better is (kind is MarkKind.SPRINT)

    @pytest.mark.parametrize("name", sorted(LIMITS))
    def test_impossible_measures_are_refused_with_the_range(self, name: str) -> None:
        least, most, *_ = LIMITS[name]
        for value in (least - 0.01, most + 0.01):
            with pytest.raises(CoachError) as caught:
                check_measures(MarkKind.HOLD, {name: value})
            assert caught.value.where == name
            assert "accepted" in caught.value.accepted

    def test_a_missing_measure_is_named(self) -> None:
        with pytest.raises(CoachError, match="contact time is missing"):
            check_measures(MarkKind.DROP_JUMP, {"drop_cm": 30, "height_cm": 30})

    def test_a_sprint_faster_than_any_is_refused(self) -> None:
        with pytest.raises(CoachError, match="cannot be"):
            check_measures(MarkKind.SPRINT, {"distance_m": 30, "seconds": 2.0})

    @pytest.mark.parametrize(("left", "right", "share", "weaker", "flagged"), [
        (20.0, 20.0, 100, "", False), (18.5, 20, 92.5, "left", False), (20, 17, 85, "right", True),
    ])  # fmt: skip
    def test_sides_over_ten_per_cent_apart_are_flagged(self, left, right, share, weaker, flagged) -> None:
        both = compare_sides(Reading(left, "cm", "", False), Reading(right, "cm", "", False))
        assert (both.share_pct, both.weaker, both.is_flagged) == (pytest.approx(share), weaker, flagged)

    def test_in_a_sprint_the_longer_time_is_the_weaker_side(self) -> None:
        assert compare_sides(Reading(4.5, "s", "", True), Reading(4.3, "s", "", True)).weaker == "left"


class TestOwnRelation:
    def marks(self, slope: float, *reps: int) -> list[Mark]:
        return [Mark(f"m{r}", DAY - timedelta(days=r), MarkKind.REP_MAX, 120 / (1 + slope * (r - 1)), r) for r in reps]

    @given(st.floats(0.014, 0.06))
    def test_it_goes_from_the_usual_slope_to_that_of_the_marks_the_more_there_are(self, slope: float) -> None:
        usual = (EPLEY.ratio(6) - 1) / 5
        few = own_relation(self.marks(slope, 2, 5, 9), DAY, least_marks=3, within_days=120)
        many = own_relation(self.marks(slope, 2, 5, 9) * 30, DAY, least_marks=3, within_days=120)
        assert few.slope - slope == pytest.approx((usual - slope) * 0.37, abs=0.004)
        assert many.slope == pytest.approx(slope, abs=0.001)
        assert few.load_kg(120, 5) * few.ratio(5) == pytest.approx(120)

    @pytest.mark.parametrize("a_week", [0.0, 0.004])
    def test_a_max_that_rises_between_the_marks_is_not_taken_for_a_slope(self, a_week: float) -> None:
        marks = [
            Mark(f"m{i}", DAY - timedelta(weeks=10 - i), MarkKind.REP_MAX, 100 * (1 + a_week * i) / (1 + 0.05 * (r - 1)), r)
            for i, r in enumerate((9, 6, 8, 4, 5, 7, 3, 4, 6, 2))
        ]
        found = own_relation(marks, DAY, least_marks=3, within_days=120)
        assert found.slope == pytest.approx(0.049, abs=0.0025)

    @pytest.mark.parametrize("reps", [(2, 9), (4, 5, 6), (5, 5, 5)])
    def test_too_few_or_too_close_marks_give_none(self, reps) -> None:
        assert own_relation(self.marks(0.03, *reps), DAY, least_marks=3, within_days=120) is None

    def test_marks_that_contradict_each_other_give_none(self) -> None:
        wild = [Mark("a", DAY, MarkKind.REP_MAX, 100, 2), Mark("b", DAY, MarkKind.REP_MAX, 101, 5),
                Mark("c", DAY, MarkKind.REP_MAX, 102, 9)]  # fmt: skip
        assert own_relation(wild, DAY, least_marks=3, within_days=120) is None

    def test_old_marks_are_left_out(self) -> None:
        assert own_relation(self.marks(0.03, 2, 5, 9), DAY + timedelta(days=130), least_marks=3, within_days=120) is None

    def test_the_max_is_read_by_it_when_there_is_enough(self) -> None:
        marks = self.marks(0.02, 2, 5, 9)
        found = current_max(marks, DAY)
        assert found.value_kg == pytest.approx(120, abs=3)
        assert "own repetitions" in found.working.rule
        assert EPLEY.one_rm_kg(marks[0].load_kg, 2) > 120  # the general equation would say more


@given(st.integers(1, 14), st.floats(20, 300))
def test_more_repetitions_at_a_load_never_lower_the_estimate(reps: int, load_kg: float) -> None:
    fewer, more = (current_max([Mark("m", DAY, MarkKind.REP_MAX, load_kg, r)], DAY).value_kg for r in (reps, reps + 1))
    assert more >= fewer


@given(st.floats(0.1, 600))
def test_kilograms_and_pounds_round_trip(mass_kg: float) -> None:
    assert kg_from_lb(lb_from_kg(mass_kg)) == pytest.approx(mass_kg)
    assert kg_from_lb(1) == pytest.approx(scipy.constants.lb, rel=1e-15)


class TestRatios:
    # common practice: target and usual band in per cent
    @pytest.mark.parametrize(("name", "target", "low", "high"), [
        ("snatch / clean & jerk", 80, 75, 86),
        ("clean & jerk / front squat", 82.5, 78, 90),
        ("front squat / back squat", 80, 78, 90),
        ("clean & jerk / 5RM front squat", 100, 95, 105),
        ("front squat / 8–10RM back squat", 100, 95, 105),
    ])  # fmt: skip
    def test_every_row(self, name: str, target: float, low: float, high: float) -> None:
        rule = next(r for r in ratio_rules() if r.name == name)
        assert (rule.target_pct, rule.low_pct, rule.high_pct) == (target, low, high)
        assert rule.lagging_upper
        assert rule.lagging_lower

    def maxes(self, **kg: float):
        return {lift: current_max([Mark(lift, DAY, MarkKind.ONE_RM, value)], DAY) for lift, value in kg.items()}

    @pytest.mark.parametrize(("front", "lagging", "gap"), [(80, "", 0), (70, "front_squat", 10), (95, "back_squat", 18.75)])
    def test_the_lagging_lift_in_kilograms(self, front: float, lagging: str, gap: float) -> None:
        found = ratios(self.maxes(front_squat=front, back_squat=100.0))
        assert [r.rule.name for r in found] == ["front squat / back squat", "front squat / 8–10RM back squat"]
        assert (found[0].lagging, found[0].gap_kg) == (lagging, pytest.approx(gap))

    def test_an_unsure_verdict_says_so(self) -> None:
        found = ratios(self.maxes(front_squat=77.5, back_squat=100.0))[0]
        assert "less than the maxes are sure of" in found.verdict
        assert found.working.missing

    def test_two_guides_of_one_pair_speak_with_one_voice(self) -> None:
        """85 of 100 kg is inside the first band (78–90), and far over the five-rep guide (95–105)."""
        found = {r.rule.name: r for r in ratios(self.maxes(clean_and_jerk=85.0, front_squat=85 / 0.88))}
        first, second = found["clean & jerk / front squat"], found["clean & jerk / 5RM front squat"]
        assert (first.verdict, first.lagging) == ("in the usual range", "")
        assert second.verdict.startswith("in the usual range") or (second.lagging, second.gap_kg) == ("", 0.0)
        high = {r.rule.name: r for r in ratios(self.maxes(clean_and_jerk=89.0, front_squat=100.0))}
        other = high["clean & jerk / 5RM front squat"]
        assert "no lift lags" in other.verdict or other.verdict == "in the usual range"

    @pytest.mark.parametrize(("assisted", "works"), [(43.98, True), (43.976, False)])
    def test_the_printed_share_and_the_words_agree(self, assisted: float, works: bool) -> None:
        free = Reading(40.0, "cm", "", False)
        found = assisted_jump(Reading(assisted, "cm", "", False), free, 3)
        assert found.works is works
        assert found.working.result == ("110.0 %" if works else "109.9 %")

    def test_an_unsure_verdict_calls_no_lag(self) -> None:
        found = ratios(self.maxes(front_squat=77.5, back_squat=100.0))[0]
        assert (found.lagging, found.gap_kg, found.suggestions) == ("", 0.0, ())

    def test_without_both_maxes_there_is_no_ratio(self) -> None:
        assert ratios(self.maxes(snatch=80.0)) == ()


class TestWhatLimitsALift:
    def facts(self, lift: str = "front_squat", **change) -> LiftFacts:
        limited = limited_lifts()[lift]
        relative = limited.relatives[0]
        usual = {
            "lift": limited, "max_kg": 100.0, "relative": relative, "relative_name": exercise(relative.exercise_id).name.lower(),
            "relative_kg": 130.0, "faults": (), "history": (), "new_to_position": False,
        }  # fmt: skip
        return LiftFacts(**{**usual, **change})

    def verdicts(self, **change) -> dict[str, str]:
        return {a.question: a.verdict for a in limits(self.facts(**change), DAY)}

    def past(self, days_ago: int, *sets: tuple[float, int]) -> PastSession:
        return PastSession(DAY - timedelta(days=days_ago), "", tuple(PastSet(kg, reps) for kg, reps in sets))

    def test_five_questions_the_likely_first(self) -> None:
        answers = limits(self.facts(faults=(fault_kinds()["upper_back_rounds"],)), DAY)
        assert len(answers) == 5
        assert (answers[0].question, answers[0].verdict) == ("Posture", "likely")
        assert "strict rows" in answers[0].suggests

    @pytest.mark.parametrize(
        ("relative_kg", "verdict"), [(130, "unlikely"), (120, "possible"), (105, "likely"), (None, "not recorded")]
    )
    def test_leg_strength_by_how_far_the_back_squat_is_ahead(self, relative_kg, verdict: str) -> None:
        assert self.verdicts(relative_kg=relative_kg)["Leg strength"] == verdict

    def test_mobility_by_faults_or_a_poor_ratio_in_a_newcomer(self) -> None:
        assert self.verdicts(faults=(fault_kinds()["ankle_range"],))["Mobility"] == "likely"
        assert self.verdicts(relative_kg=140.0, new_to_position=True)["Mobility"] == "possible"

    def test_what_nobody_has_recorded_is_not_unlikely(self) -> None:
        assert {self.verdicts()[q] for q in ("Mobility", "Posture")} == {"not recorded"}
        seen = self.verdicts(faults=(fault_kinds()["upper_back_rounds"],))
        assert (seen["Posture"], seen["Mobility"]) == ("likely", "unlikely")

    def test_skill_by_heavy_singles_lately(self) -> None:
        assert self.verdicts(history=(self.past(5, (80, 3)),))["Skill"] == "possible"
        assert self.verdicts()["Skill"] == "not recorded"
        tested = tuple(DAY - timedelta(days=d) for d in (3, 10, 41))
        assert self.verdicts(singles_on=tested)["Skill"] == "unlikely", "a tested single is a heavy single"
        assert self.verdicts(singles_on=(*tested[:2], DAY - timedelta(days=43)))["Skill"] == "possible"
        many = tuple(self.past(d, (92.5, 1)) for d in (5, 12, 19))
        assert self.verdicts(history=many)["Skill"] == "unlikely"

    def test_fatigue_after_a_limit_lift(self) -> None:
        assert self.verdicts(history=(self.past(6, (97.5, 1)),))["Timing of fatigue"] == "likely"
        assert self.verdicts(history=(self.past(14, (97.5, 1)),))["Timing of fatigue"] == "unlikely"

    def test_each_lift_has_its_own_questions_and_relatives(self) -> None:
        assert list(limited_lifts()) == [
            "back_squat", "front_squat", "snatch", "clean", "jerk", "bench_press", "overhead_press", "deadlift",
        ]  # fmt: skip
        for lift in limited_lifts().values():
            answers = limits(self.facts(lift.id), DAY)
            assert len(answers) == 5
            assert all(a.suggests for a in answers)
            assert {r.exercise_id for r in lift.relatives} <= set(exercises())
            assert not {r.exercise_id for r in lift.relatives} & set(lift.measured_by)
            assert all(r.low < r.target < r.high for r in lift.relatives)
        words = " ".join(s for a in limits(self.facts("snatch"), DAY) for s in a.suggests)
        assert "clean and jerk" not in words, "a snatch is not pushed with the clean and jerk"
        assert "back squat" in words

    @pytest.mark.parametrize("lift", list(limited_lifts()))
    def test_each_edge_of_each_band(self, lift: str) -> None:
        for share in limited_lifts()[lift].relatives:

            def verdict(pct_of: float, share=share) -> str:
                facts = self.facts(lift, relative=share, max_kg=100.0, relative_kg=100.0 / pct_of)
                name = limited_lifts()[lift].strength_name
                return next(a.verdict for a in limits(facts, DAY) if a.question == name)

            assert verdict(share.high + 0.002) == "likely"
            assert verdict(share.high - 0.002) == "possible"
            assert verdict(share.target + 0.002) == "possible"
            assert verdict(share.target - 0.002) == "unlikely"

    @pytest.mark.parametrize(("lift", "days", "verdict"), [
        ("deadlift", 10, "likely"), ("deadlift", 11, "unlikely"), ("bench_press", 3, "likely"), ("bench_press", 4, "unlikely"),
    ])  # fmt: skip
    def test_a_limit_lift_is_felt_as_long_as_the_lift_lasts(self, lift: str, days: int, verdict: str) -> None:
        tested = (DAY - timedelta(days=days),)
        found = {a.question: a.verdict for a in limits(self.facts(lift, singles_on=tested), DAY)}
        assert found["Timing of fatigue"] == verdict, "a tested single is a limit lift"

    def test_the_first_relative_with_a_max_is_taken_else_the_first_is_asked_for(self) -> None:
        squat = limited_lifts()["back_squat"]
        assert relative_of(squat, ["trap_bar_deadlift"])[0].exercise_id == "trap_bar_deadlift"
        assert relative_of(squat, ["trap_bar_deadlift", "deadlift"])[0].exercise_id == "deadlift"
        assert relative_of(squat, ["bench_press"]) == (squat.relatives[0], False)

    # common practice: fault and what addresses it
    @pytest.mark.parametrize(("fault", "addressed_by"), [
        ("bar_drifts_forward", "pause at the knee"), ("feet_jump_about", "no-foot lifts"),
        ("slow_under_the_bar", "hang variants"), ("dips_forward", "power jerks"), ("arms_bend_early", "pulls"),
    ])  # fmt: skip
    def test_each_fault_has_its_variations(self, fault: str, addressed_by: str) -> None:
        assert addressed_by in fault_kinds()[fault].addresses


class TestBests:
    def past(self, days_ago: int, *sets: tuple[float, int]) -> PastSession:
        return PastSession(DAY - timedelta(days=days_ago), "", tuple(PastSet(kg, reps) for kg, reps in sets))

    def test_the_best_of_each_scheme(self) -> None:
        found = scheme_records([self.past(9, (80, 5), (80, 5), (80, 5)), self.past(2, (85, 5), (82.5, 5), (82.5, 5))])
        assert [(r.sets, r.reps, r.load_kg) for r in found] == [(3, 5, 82.5)]

    def test_the_heaviest_at_each_velocity(self) -> None:
        points = [LoadVelocity(DAY, 100, 0.45), LoadVelocity(DAY, 80, 0.72), LoadVelocity(DAY, 60, 0.95)]
        found = velocity_records(points)
        assert [(r.at_least_mps, r.load_kg) for r in found] == [(0.4, 100), (0.7, 80), (0.9, 60)]
        assert velocity_records([]) == ()


class TestDropSeries:
    def series(self, *jumps: tuple[float, float, float], mass_kg: float | None = None):
        return drop_series([DropJump(*j) for j in jumps], mass_kg)

    def test_the_drop_grows_only_while_contact_and_rsi_hold(self) -> None:
        # common practice: 45 cm is chosen, 60 cm loses RSI and lengthens the contact
        found = self.series((15, 24, 0.180), (30, 28, 0.185), (45, 30, 0.190), (60, 28, 0.230))
        assert found is not None
        assert found.drop_cm == 45
        assert [j.drop_cm for j in found.jumps] == [15, 30, 45, 60]

    def test_a_longer_contact_alone_is_too_much(self) -> None:
        found = self.series((15, 24, 0.160), (30, 27, 0.165), (45, 40, 0.250))
        assert found is not None
        assert found.drop_cm == 30

    @pytest.mark.parametrize(("mass_kg", "drop_cm"), [(80, 60), (100, 60), (101, 45), (None, 60)])
    def test_over_100_kg_stays_at_lower_boxes(self, mass_kg: float | None, drop_cm: float) -> None:
        # boxes of at most 46 cm above 100 kg: Haff & Triplett 2016, quoted from memory
        found = self.series((30, 28, 0.190), (45, 30, 0.190), (60, 32, 0.190), mass_kg=mass_kg)
        assert found is not None
        assert found.drop_cm == drop_cm

    def test_the_best_jump_of_each_height_counts_and_two_heights_say_nothing(self) -> None:
        assert self.series((30, 20, 0.2), (30, 28, 0.2), (45, 30, 0.2)) is None
        found = self.series((15, 20, 0.2), (30, 20, 0.2), (30, 28, 0.2), (45, 20, 0.2))
        assert found is not None
        assert [j.height_cm for j in found.jumps] == [20, 28, 20]

    def test_it_is_read_from_the_measures_of_a_mark(self) -> None:
        assert drop_jump({"drop_cm": 30, "contact_s": 0.2, "flight_s": 0.5}).rsi == pytest.approx(30.64578 / 100 / 0.2)


class TestAssistedJump:
    free = Reading(40, "cm", "40.0 cm", False)

    @pytest.mark.parametrize(("height_cm", "works"), [(43.9, False), (44.0, True), (46, True), (40, False)])
    def test_about_ten_per_cent_says_that_the_overspeed_works(self, height_cm: float, works: bool) -> None:
        # common practice
        found = assisted_jump(Reading(height_cm, "cm", "", False), self.free, 3)
        assert found is not None
        assert found.works is works
        assert found.pct == pytest.approx(100 * height_cm / 40)

    def test_a_free_jump_of_long_ago_is_no_reference(self) -> None:
        assert assisted_jump(Reading(44, "cm", "", False), self.free, 28) is not None
        assert assisted_jump(Reading(44, "cm", "", False), self.free, 29) is None


class TestRatiosWithRepetitions:
    def maxes(self, **kg: float):
        return {lift: current_max([Mark(lift, DAY, MarkKind.ONE_RM, value)], DAY) for lift, value in kg.items()}

    def found(self, name: str, **kg: float):
        return next(r for r in ratios(self.maxes(**kg)) if r.rule.name == name)

    def test_clean_and_jerk_against_the_front_squat_for_five(self) -> None:
        # common practice: about equal. A front squat of 140 is 120 for 5 by Epley (quoted from memory)
        found = self.found("clean & jerk / 5RM front squat", clean_and_jerk=120, front_squat=140)
        assert found.pct == pytest.approx(100)
        assert found.verdict == "in the usual range"

    def test_the_load_of_eight_to_ten_back_squats_is_a_likely_front_squat_single(self) -> None:
        # common practice; nine repetitions of a back squat of 156 are 120 by Epley
        found = self.found("front squat / 8–10RM back squat", front_squat=108, back_squat=156)
        assert found.pct == pytest.approx(90)
        assert found.lagging == "front_squat"
        assert found.gap_kg == pytest.approx(12)
        assert any("back squat for 9" in i.name for i in found.working.inputs)

    def test_singles_are_compared_as_before(self) -> None:
        assert self.found("front squat / back squat", front_squat=120, back_squat=150).pct == pytest.approx(80)


def counted(*sets: tuple[float, int, float | None, int | None], days_ago: int = 7) -> PastSession:
    return PastSession(DAY - timedelta(days=days_ago), "", tuple(PastSet(kg, n, rir, planned) for kg, n, rir, planned in sets))


class TestHowFarOffReserveIs:
    holds_back = counted((100, 5, 1, 5), (100, 5, 1, 5), (100, 9, 0, 5))

    def test_a_later_set_to_failure_at_the_same_load_shows_it_up(self) -> None:
        pairs = reserve_pairs([self.holds_back], DAY)
        assert [(p.said_reps, p.there_reps, p.off_by) for p in pairs] == [(6, 9, 3), (6, 9, 3)]

    @pytest.mark.parametrize("session", [
        counted((100, 5, 1, 5), (110, 9, 0, 5)),  # another load
        counted((100, 9, 0, 5), (100, 5, 1, 5)),  # the set to failure came first
        counted((100, 5, None, 5), (100, 9, 0, 5)),  # nothing was said
        counted((100, 5, 1, 5), (100, 5, 2, 5)),  # no set to failure
        counted((100, 5, 1, 5), (100, 9, 0, 5), days_ago=181),  # too long ago
        counted((100, 5, 1, 5), (100, 9, 0, 5), days_ago=-1),  # still to come
    ])  # fmt: skip
    def test_what_is_no_pair(self, session: PastSession) -> None:
        assert reserve_pairs([session], DAY) == ()

    def test_a_miss_counts_as_failure(self) -> None:
        assert [p.there_reps for p in reserve_pairs([counted((100, 5, 2, 5), (101, 4, None, 5))], DAY)] == [4]

    def test_the_mean_of_enough_pairs_in_words(self) -> None:
        found = reserve_offset([[self.holds_back, counted((60, 8, 2, 8), (60, 12, 0, 8))]], DAY)
        assert found is not None
        assert found.off_by == pytest.approx((3 + 3 + 2) / 3)
        assert not found.is_trusted
        assert found.words == "has about 3 more in reserve than said"
        assert reserve_offset([[self.holds_back]], DAY) is None, "two pairs are too few"

    def test_a_count_within_a_repetition_is_trusted(self) -> None:
        found = reserve_offset([[counted((100, 5, 2, 5), (100, 5, 2, 5), (100, 5, 1, 5), (100, 6, 0, 5))]], DAY)
        assert found is not None
        assert found.is_trusted
        assert found.off_by == pytest.approx((-1 - 1 + 0) / 3)

    def test_the_coach_sets_how_many_pairs_and_what_is_trusted(self) -> None:
        rules = Rules({"max.reserve_pairs": 2, "max.reserve_trusted": 3})
        found = reserve_offset([[self.holds_back]], DAY, rules)
        assert found is not None
        assert found.is_trusted

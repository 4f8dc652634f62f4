"""Every value a coach may change as it stands: its default, its limits, its mark, and a refusal on each side of the limits.

Written down from the table itself, so it notices a change and does not say which value is right: a change here is a change of
what the application does for everybody, and is made on purpose.
"""

from __future__ import annotations

import pytest

from jarvok.core.errors import CoachError
from jarvok.core.rules import RULE_BY_KEY, RULES, check_rule

# key: default, least, most, mark
DEFAULTS: dict[str, tuple[float, float, float, str]] = {
    "error.one_rm": (1.5, 0.5, 15, "J"),
    "error.technical_max": (2, 0.5, 15, "J"),
    "error.velocity_max": (3.0, 0.5, 15, "J"),
    "error.rep_max": (3, 0.5, 15, "J"),
    "error.amrap": (3, 0.5, 15, "J"),
    "error.set_rir": (4, 0.5, 15, "J"),
    "error.set_done": (4.0, 0.5, 15, "J"),
    "error.rough": (8, 3, 25, "J"),
    "max.ageing_pct_per_week": (0.8, 0, 3, "J"),
    "max.oldest_days": (182, 28, 730, "J"),
    "max.least_share_pct": (80, 50, 95, "C"),
    "max.highest_rir": (4, 1, 6, "C"),
    "max.rise_guard_pct": (5, 1, 20, "J"),
    "max.rise_guard_ten_pct": (15, 5, 40, "J"),
    "max.rise_novice_pct": (10, 2, 30, "J"),
    "max.rise_novice_ten_pct": (25, 8, 60, "J"),
    "max.fall_pct": (3, 1, 10, "J"),
    "max.trend_pct": (0.5, 0, 1.5, "J"),
    "max.trend_weeks": (4, 0, 8, "J"),
    "max.novice_years": (1, 0, 3, "C"),
    "max.own_relation_marks": (3, 3, 10, "J"),
    "max.own_relation_days": (120, 28, 365, "J"),
    "max.training_pct": (100, 85, 100, "C"),
    "max.return_pct": (90, 60, 100, "C"),
    "max.reserve_pairs": (3, 2, 20, "J"),
    "max.reserve_trusted": (1, 0, 3, "J"),
    "load.outside_profile_pct": (10, 0, 30, "J"),
    "load.trained_years": (2, 0.5, 6, "J"),
    "load.two_for_two_reps": (2, 1, 4, "C"),
    "load.apre_cap_small_pct": (5, 2, 10, "J"),
    "load.apre_cap_large_pct": (7.5, 3, 15, "J"),
    "load.best_3x2_pct": (90, 80, 97, "C"),
    "load.upper_scheme_pct": (90, 60, 100, "C"),
    "load.beat_load_pct": (2.5, 0.5, 10, "C"),
    "load.hold_step_s": (5, 1, 20, "C"),
    "load.fallback_rir": (2, 0, 6, "J"),
    "load.fresh_error_pct": (4, 1, 15, "J"),
    "load.half_target_mps": (0.05, 0.01, 0.2, "J"),
    "load.far_from_meant_pct": (5, 1, 25, "J"),
    "load.contacts_step_pct": (10, 0, 30, "J"),
    "load.least_warm_up_step_kg": (5, 1, 20, "J"),
    "velocity.stop_loss_pct": (20, 5, 50, "C"),
    "velocity.least_loads": (4, 3, 8, "C"),
    "velocity.least_span": (40, 20, 70, "C"),
    "velocity.least_r2": (0.95, 0.8, 0.99, "C"),
    "velocity.oldest_days": (56, 14, 182, "J"),
    "floor.step_up_pct": (6, 1, 15, "J"),
    "floor.step_down_pct": (12, 3, 30, "J"),
    "floor.miss_pct": (5, 1, 15, "J"),
    "floor.rir_tolerance": (1, 0.5, 3, "J"),
    "floor.session_drop_pct": (10, 3, 30, "J"),
    "readiness.sleep": (1, 0, 5, "J"),
    "readiness.soreness": (1.5, 0, 5, "J"),
    "readiness.stress": (0.5, 0, 5, "J"),
    "readiness.energy": (1, 0, 5, "J"),
    "readiness.half_life_h": (24, 6, 72, "J"),
    "readiness.au_a_point": (10, 3, 50, "J"),
    "readiness.most_sport": (35, 0, 60, "J"),
    "readiness.low_jump": (15, 0, 50, "J"),
    "readiness.plan_a": (60, 30, 95, "J"),
    "readiness.plan_b": (38, 10, 80, "J"),
    "readiness.cut_pct": (33, 10, 60, "C"),
    "readiness.easy_pct": (60, 30, 75, "C"),
    "floor.set_s": (25, 5, 120, "J"),
    "floor.plates_s": (20, 5, 90, "J"),
    "floor.heart_back_bpm": (130, 90, 170, "J"),
    "floor.run_drop_pct": (5, 1, 20, "J"),
    "floor.jump_drop_pct": (10, 3, 30, "J"),
    "floor.assist_pct": (10, 3, 25, "C"),
    "floor.ladder_step_pct": (20, 5, 40, "J"),
    "floor.ladder_sets": (9, 4, 15, "J"),
    "floor.ladder_fatigue_pct": (6, 3, 20, "J"),
    "floor.usual_sessions": (4, 3, 12, "J"),
    "floor.last_warm_up_pct": (80, 60, 95, "C"),
    "velocity.pairs_sets": (12, 6, 60, "J"),
    "velocity.pairs_weeks": (4, 1, 12, "C"),
    "marks.improbable_pct": (20, 5, 100, "J"),
    "marks.improbable_set_pct": (25, 5, 100, "J"),
    "limiter.singles_weeks": (6, 2, 26, "J"),
    "limiter.enough_singles": (3, 1, 20, "J"),
    "test.top_rest_s": (180, 60, 600, "C"),
    "test.warm_rest_s": (90, 20, 300, "J"),
    "test.novice_step_kg": (7, 2, 15, "C"),
    "season.easy_volume_pct": (50, 20, 90, "C"),
    "season.easy_intensity_pct": (80, 50, 95, "C"),
    "season.return_weeks": (1, 0, 3, "C"),
    "season.secondary_volume_pct": (70, 30, 100, "J"),
    "season.busy_volume_pct": (70, 20, 100, "J"),
    "season.away_volume_pct": (25, 5, 50, "J"),
    "season.match_minutes": (60, 10, 120, "J"),
    "season.matches_0_pct": (100, 30, 120, "J"),
    "season.matches_1_pct": (75, 20, 120, "J"),
    "season.matches_2_pct": (50, 10, 120, "J"),
    "season.max_strength_days": (21, 10, 40, "C"),
    "season.strength_speed_days": (18, 5, 40, "J"),
    "week.hard_practice": (7, 4, 10, "J"),
    "week.high_from": (11, 4, 30, "J"),
    "week.middle_from": (6, 1, 20, "J"),
    "week.set_high": (0.55, 0, 2, "J"),
    "week.set_middle": (0.35, 0, 2, "J"),
    "week.set_low": (0.18, 0, 2, "J"),
    "week.high_day_sets": (4, 1, 20, "J"),
    "session.warm_up_min": (10, 0, 45, "J"),
    "session.ramp_set_min": (1.2, 0.3, 4, "J"),
    "session.transition_s": (20, 0, 120, "J"),
    "session.pair_rest_pct": (50, 0, 100, "J"),
    "session.rest_power_s": (150, 30, 480, "C"),
    "session.rest_jump_s": (60, 15, 480, "C"),
    "session.rest_maximal_jump_s": (150, 60, 480, "C"),
    "session.station_s": (20, 0, 180, "J"),
    "session.cluster_inside_s": (20, 5, 120, "J"),
    "session.strip_s": (10, 0, 60, "J"),
    "session.rest_other_s": (60, 10, 300, "C"),
}


def test_every_value_is_here() -> None:
    assert [r.key for r in RULES] == list(DEFAULTS)


@pytest.mark.parametrize("key", DEFAULTS)
def test_a_default_and_its_limits(key: str) -> None:
    default, least, most, mark = DEFAULTS[key]
    rule = RULE_BY_KEY[key]
    assert (rule.default, rule.least, rule.most, rule.source.mark) == (default, least, most, mark)
    assert check_rule(key, least) == least
    assert check_rule(key, most) == most
    for beyond in (least - 0.001, most + 0.001):
        with pytest.raises(CoachError, match="cannot stand for"):
            check_rule(key, beyond)

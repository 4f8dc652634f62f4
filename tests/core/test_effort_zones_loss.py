"""Small published tables, every row."""

import pytest

from jarvok.core.errors import CoachError
from jarvok.core.marks.effort import RIR_BY_RPE, rir_for_rpe
from jarvok.core.session.review import training_load_au
from jarvok.core.velocity.zones import LOSS_LIMIT_PCT, ZONES, stop_velocity_mps, velocity_loss_pct, zone_for

# Zourdos et al. 2016, RIR-based RPE, quoted from memory
RPE_ROWS = {
    10: (0, 0),
    9.5: (0, 0),
    9: (1, 1),
    8.5: (1, 2),
    8: (2, 2),
    7.5: (2, 3),
    7: (3, 3),
    6: (4, 6),
    5: (4, 6),
}


@pytest.mark.parametrize(("rpe", "rir"), RPE_ROWS.items())
def test_rpe_row(rpe: float, rir: tuple[float, float]) -> None:
    assert RIR_BY_RPE[rpe] == rir
    assert rir_for_rpe(rpe) == (sum(rir) / 2 if rpe >= 7 else 10 - rpe)
    assert rir[0] <= rir_for_rpe(rpe) <= rir[1]


def test_an_rpe_off_the_scale_is_refused() -> None:
    assert set(RIR_BY_RPE) == set(RPE_ROWS)
    with pytest.raises(CoachError, match="not on the scale"):
        rir_for_rpe(6.5)


# Mann et al. 2015, zones of mean velocity, quoted from memory
@pytest.mark.parametrize(
    ("velocity", "name"),
    [
        (0.10, "absolute strength"),
        (0.499, "absolute strength"),
        (0.50, "accelerative strength"),
        (0.749, "accelerative strength"),
        (0.75, "strength-speed"),
        (0.999, "strength-speed"),
        (1.00, "speed-strength"),
        (1.299, "speed-strength"),
        (1.30, "starting strength"),
        (2.5, "starting strength"),
    ],
)
def test_zone_borders(velocity: float, name: str) -> None:
    assert zone_for(velocity).name == name


def test_zones_join_without_gap() -> None:
    assert [z.high_mps for z in ZONES[:-1]] == [z.low_mps for z in ZONES[1:]]


# Pareja-Blanco et al. 2017 and later, quoted from memory: 10 % speed, 20 % strength and power, up to 40 % size
@pytest.mark.parametrize(("goal", "limit"), [("speed", 10), ("power", 20), ("strength", 20), ("size", 40)])
def test_loss_limit_row(goal: str, limit: float) -> None:
    assert LOSS_LIMIT_PCT[goal] == limit


def test_velocity_loss_is_against_the_fastest_not_the_first() -> None:
    assert velocity_loss_pct([0.50, 0.60, 0.48]) == pytest.approx(20.0)
    assert velocity_loss_pct([0.50, 0.60]) == 0
    assert velocity_loss_pct([]) == 0
    assert stop_velocity_mps(0.60, 20) == pytest.approx(0.48)


def test_training_load_is_rpe_times_minutes() -> None:  # Foster et al. 2001, quoted from memory
    assert training_load_au(7, 60) == 420

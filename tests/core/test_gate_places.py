"""Where gates stand, as it is typed."""

from __future__ import annotations

import pytest

from jarvok.core.errors import CoachError
from jarvok.core.sensors.gate_places import MOST_GATES, place_m, read_places_m


@pytest.mark.parametrize(
    ("text", "places_m"),
    [
        ("5 10 20 30", (5.0, 10.0, 20.0, 30.0)),
        ("5, 10, 20, 30", (5.0, 10.0, 20.0, 30.0)),
        ("5 m, 10 m, 20 m", (5.0, 10.0, 20.0)),
        ("5m 10m", (5.0, 10.0)),
        ("9,14; 18,28", (9.14, 18.28)),
        ("5,10,20", (5.0, 10.0, 20.0)),
        ("0.5", (0.5,)),
        ("400", (400.0,)),
        (" ", ()),
        (" ".join(str(n) for n in range(1, MOST_GATES + 1)), tuple(float(n) for n in range(1, MOST_GATES + 1))),
    ],
)
def test_it_is_read_as_it_is_scribbled(text: str, places_m: tuple[float, ...]) -> None:
    assert read_places_m(text) == places_m


@pytest.mark.parametrize(
    "text", ["five", "5,10", "0", "0.4", "401", "10 10", "10 5", "5 -10", "5 nan", "5 inf", " ".join(["7"] * 13)]
)
def test_what_no_gate_can_stand_at_is_refused_with_what_would_be_read(text: str) -> None:
    with pytest.raises(CoachError) as refused:
        read_places_m(text)
    assert refused.value.where == "gates"
    assert "5 10 20 30" in refused.value.accepted


def test_a_gate_is_found_by_its_number() -> None:
    assert [place_m((5.0, 10.0), gate) for gate in (0, 1, 2, 3)] == [None, 5.0, 10.0, None]

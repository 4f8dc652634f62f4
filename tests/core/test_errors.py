"""Errors say what would be accepted, in trade words."""

from __future__ import annotations

import pytest

from jarvok.core.errors import outside


@pytest.mark.parametrize(("name", "value", "said"), [
    ("body_mass_kg", 700, "Body mass in kg: 700 is too much."), ("RPE", -3.5, "RPE: -3.5 is too little."),
])  # fmt: skip
def test_a_figure_outside_its_limits_is_said_with_them(name: str, value: float, said: str) -> None:
    error = outside(name, value, 20, 250, name)
    assert (error.message, error.where, error.accepted) == (said, name, "20 to 250 are accepted.")

"""A row with some fields changed is the row `dataclasses.replace` makes, and carries nothing over that it worked out."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from functools import cached_property

import pytest

from jarvok.core.frozen import changed


@dataclass(frozen=True)
class Row:
    kg: float
    reps: int = 5
    words: tuple[str, ...] = field(default_factory=tuple)

    @cached_property
    def tonnage_kg(self) -> float:
        return self.kg * self.reps


@dataclass(frozen=True)
class Checked:
    kg: float

    def __post_init__(self) -> None:
        if self.kg < 0:
            raise ValueError("less than nothing")


@pytest.mark.parametrize("new", [{}, {"kg": 80.0}, {"reps": 3, "words": ("a",)}])
def test_it_is_what_replace_makes(new):
    row = Row(100.0, 2, ("b",))
    assert changed(row, **new) == replace(row, **new)
    assert row == Row(100.0, 2, ("b",))


def test_what_was_worked_out_is_worked_out_anew():
    row = Row(100.0)
    assert row.tonnage_kg == 500.0
    assert changed(row, reps=2).tonnage_kg == 200.0


def test_a_field_it_does_not_have_is_refused():
    with pytest.raises(TypeError, match="Row has no load"):
        changed(Row(100.0), load=3)


def test_one_that_looks_at_its_fields_is_refused():
    with pytest.raises(TypeError, match="looks at its fields"):
        changed(Checked(1.0), kg=-1.0)

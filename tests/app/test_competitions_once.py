"""The migration that makes one competition of the copies all of a squad or a group have."""

from __future__ import annotations

from importlib import import_module
from types import SimpleNamespace
from typing import Any

import pytest

whose = import_module("jarvok.app.facts.seasons.migrations.0008_competitions_once")._of


def rows_of(*groups: str) -> list[Any]:
    return [
        SimpleNamespace(athlete_id=i, athlete=SimpleNamespace(squad_id=7, group=group)) for i, group in enumerate(groups, start=1)
    ]


def people_of(*groups: str) -> dict[Any, set[int]]:
    found: dict[Any, set[int]] = {7: set(range(1, len(groups) + 1))}
    for i, group in enumerate(groups, start=1):
        found.setdefault((7, group), set()).add(i)
    return found


@pytest.mark.parametrize(("held", "wanted"), [
    (("", "Light", "Light"), [({"squad_id": 7}, 3)]),
    (("", "Light"), [({"athlete_id": 1}, 1), ({"athlete_id": 2}, 1)]),
    (("Light", "Light"), [({"squad_id": 7, "group": "Light"}, 2)]),
    (("Light",), [({"athlete_id": 1}, 1)]),
])  # fmt: skip
def test_copies_become_the_squads_the_groups_or_stay_ones_own(held: tuple[str, ...], wanted: Any) -> None:
    squad = ("", "Light", "Light") if held[:1] == ("",) else ("Light", "Light", "")
    found = whose(rows_of(*held), people_of(*squad))
    assert [(of, len(members)) for of, members in found] == wanted


def test_two_of_one_athlete_are_two() -> None:
    two = [SimpleNamespace(athlete_id=1, athlete=SimpleNamespace(squad_id=7, group="")) for _ in range(2)]
    assert [of for of, _ in whose(two, {7: {1}, (7, ""): {1}})] == [{"athlete_id": 1}] * 2

"""What the page works out too, by the same cases: `web/src/logic` runs them in vitest."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

from jarvok.core.floor.clocks import ClockKind, clock_plan
from jarvok.core.floor.next_step import StepSet, next_set

CASES = Path(__file__).resolve().parents[1] / "cases"


def cases(name: str, title: str) -> list[Any]:
    return [pytest.param(c, id=str(c[title])) for c in json.loads((CASES / f"{name}.json").read_text())["cases"]]


def place(raw: list[Any]) -> StepSet:
    return StepSet(raw[0], raw[1] == "ramp", raw[2])


@pytest.mark.parametrize("case", cases("next_step", "name"))
def test_next_set(case: dict[str, Any]) -> None:
    steps = [[place(p) for p in step] for step in case["steps"]]
    found = next_set(steps, {place(p) for p in case["done"]}, set(case["ended"]))
    assert found == (place(case["next"]) if case["next"] else None)


@pytest.mark.parametrize("case", cases("clock_parts", "kind"))
def test_clock_parts(case: dict[str, Any]) -> None:
    plan = clock_plan(ClockKind(case["kind"]), case["figures"])
    assert [{"call": p.call, "seconds": p.seconds, "is_work": p.is_work, "round": p.round} for p in plan.parts] == case["parts"]
    for moment in case["moments"]:
        part, left_s = plan.at(moment["elapsed_s"])
        assert (part.call if part else None) == moment["call"]
        assert left_s == pytest.approx(moment["left_s"])

"""Shares of the max by goal, as named defaults, and what each week model asks for before it is begun."""

from __future__ import annotations

import pytest

from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.loading.goals import GOALS, GoalRow, goal_of, line_for
from jarvok.core.loading.methods.percent import Percent
from jarvok.core.loading.shorthand import parse, write
from jarvok.core.session.typed_block import typed_blocks
from jarvok.core.week.arrangements import WEEK_ARRANGEMENTS

# Haff & Triplett, Essentials of Strength Training and Conditioning, 4th ed., 2016, quoted from memory: per cent, repetitions
TABLE = {"strength": (85, 100, 1, 6), "power": (75, 90, 1, 5), "size": (67, 85, 6, 12), "endurance": (0, 67, 12, 30)}


@pytest.mark.parametrize(("goal", "row"), TABLE.items())
def test_the_table_and_a_usual_line_inside_it(goal: str, row: tuple[float, float, int, int]) -> None:
    found = GOALS[goal]
    assert (*found.share_pct, *found.reps) == row
    group = parse(line_for(found, exercise("back_squat"))).groups[0]
    assert isinstance(group.load, Percent)
    assert row[0] <= group.load.percents[0] <= row[1]
    assert row[2] <= (group.reps or 0) <= row[3]
    assert found.sets[0] <= group.sets <= found.sets[1]


@pytest.mark.parametrize(("goal", "words"), [
    ("strength", "strength: 85 % and more, 1–6 repetitions, 2–6 sets"), ("size", "size: 67–85 %, 6–12 repetitions, 3–6 sets"),
    ("endurance", "endurance: up to 67 %, 12 and more repetitions, 2–3 sets"),
])  # fmt: skip
def test_a_row_in_words(goal: str, words: str) -> None:
    assert GOALS[goal].words == words


@pytest.mark.parametrize(("typed", "goal"), [("strength", "strength"), (" For Size ", "size"), ("size 3x8", ""), ("", "")])
def test_a_goal_is_named_alone(typed: str, goal: str) -> None:
    found = goal_of(typed)
    assert (found.goal if isinstance(found, GoalRow) else "") == goal


def test_a_line_by_its_goal() -> None:
    (block,) = typed_blocks("Main:\nback squat for strength\nsplit squat size\npush-up endurance", exercises().values())
    assert [x.text for x in block.lines] == ["4 × 5 @ 85 %", "3 × 10/side @ 70 %", "2 × 15"]
    with pytest.raises(CoachError):
        line_for(GOALS["power"], exercise("sprint"))


def test_every_usual_line_is_read() -> None:
    for row in GOALS.values():
        text = line_for(row, exercise("bench_press"))
        assert write(parse(text)) == text


@pytest.mark.parametrize("model", WEEK_ARRANGEMENTS, ids=lambda a: a.key)
def test_what_a_week_model_asks_for(model) -> None:
    if model.is_test or model.key == "in_season":
        return  # they follow what is done anyway
    assert model.asks
    assert model.not_met(model.asks_months / 12) == ""
    if model.asks_months:
        short = (model.asks_months - 1) / 12
        assert model.not_met(short) == f"{int(12 * short)} of {model.asks_months} months of lifting"

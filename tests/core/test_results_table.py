"""Results of a test day as typed or pasted: what is read, what is refused, and that pounds stay pounds."""

from __future__ import annotations

import pytest

from jarvok.core.errors import CoachError
from jarvok.core.interchange.results import MOST_LIFTS, read_result, read_results_table
from jarvok.core.library.exercises import exercises
from jarvok.core.marks.mark import MarkKind

LIFTS = [e for e in exercises().values() if e.is_loaded]


@pytest.mark.parametrize(("text", "unit", "load", "kg", "reps", "kind"), [
    ("100", "kg", 100, 100, 1, MarkKind.ONE_RM),
    ("92,5", "kg", 92.5, 92.5, 1, MarkKind.ONE_RM),
    ("70x5", "kg", 70, 70, 5, MarkKind.REP_MAX),
    ("70 × 5", "kg", 70, 70, 5, MarkKind.REP_MAX),
    ("70 kg x 5", "lb", 70, 70, 5, MarkKind.REP_MAX),
    ("225", "lb", 225, 102.058, 1, MarkKind.ONE_RM),  # 225 × 0.45359237, exact by definition
    ("225 lb x 3", "kg", 225, 102.058, 3, MarkKind.REP_MAX),
    ("225# x 3", "kg", 225, 102.058, 3, MarkKind.REP_MAX),
    ("60 technical", "kg", 60, 60, 1, MarkKind.TECHNICAL_MAX),
    ("60t", "kg", 60, 60, 1, MarkKind.TECHNICAL_MAX),
])  # fmt: skip
def test_what_coaches_type(text: str, unit: str, load: float, kg: float, reps: int, kind: MarkKind) -> None:
    found = read_result(text, unit)
    assert found is not None
    assert (found.load, found.reps, found.kind) == (load, reps, kind)
    assert found.load_kg == pytest.approx(kg, abs=0.001)
    assert found.unit == ("lb" if kg != load else "kg")


@pytest.mark.parametrize("text", ["", " ", "-", "–", "x", "DNS", "miss", "0"])
def test_a_cell_that_says_there_is_none(text: str) -> None:
    assert read_result(text, "kg") is None


@pytest.mark.parametrize("text", ["abc", "100 x", "5x5x5", "60t x 3", "1e3", "-20", "100 stone", "70 5"])
def test_what_cannot_be_read_is_refused_with_what_would(text: str) -> None:
    with pytest.raises(CoachError) as caught:
        read_result(text, "kg")
    assert caught.value.accepted


class TestTable:
    def test_lifts_across_and_athletes_down(self) -> None:
        table = read_results_table(
            [["Name", "Back squat", "Bench press, kg", "Juggling"], ["Ada", "100", "60x5"], ["", "x"]], LIFTS
        )
        assert table.lifts == ("back_squat", "bench_press", None)
        assert table.rows == (("Ada", ("100", "60 kg x5", "")),), "a heading's unit counts where the cell names none"
        assert table.unknown == ("Juggling",)

    @pytest.mark.parametrize("cells", [[], [["Name", "Back squat"]], [["Name"], ["Ada"]]])
    def test_without_a_heading_or_an_athlete_it_is_none(self, cells: list[list[str]]) -> None:
        with pytest.raises(CoachError):
            read_results_table(cells, LIFTS)

    def test_the_widest_table(self) -> None:
        row = ["Ada", *["1"] * MOST_LIFTS]
        heads = ["Name", *["Back squat"] * MOST_LIFTS]
        assert len(read_results_table([heads, row], LIFTS).lifts) == MOST_LIFTS
        with pytest.raises(CoachError):
            read_results_table([[*heads, "Back squat"], [*row, "1"]], LIFTS)

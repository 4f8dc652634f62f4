"""Tables of athletes in and out: forgiving headings, a sentence for each bad row, texts that stay texts."""

from __future__ import annotations

import csv
import io
from datetime import date, datetime

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jarvok.core.errors import CoachError
from jarvok.core.interchange.athletes import HowRead, read_table, read_text, write_csv
from jarvok.core.interchange.lift_columns import lift_column
from jarvok.core.interchange.results import read_result, read_results_table
from jarvok.core.interchange.tables import plain_text, safe_text
from jarvok.core.library.exercises import exercises

TODAY = date(2026, 11, 25)


def one(heading: str, cell) -> tuple[dict, tuple[str, ...]]:
    row = read_table([["Name", heading], ["Ada Example", cell]], TODAY).rows[0]
    return row.values, row.problems


@pytest.mark.parametrize("separator", ["\t", ";", ","])
def test_pasted_text_with_any_separator(separator: str) -> None:
    cells = read_text(f"name{separator}squad\nAda Example{separator}Harbour\n")
    assert cells == [["name", "squad"], ["Ada Example", "Harbour"]]


@pytest.mark.parametrize(("heading", "cell", "column", "value"), [
    ("Date of birth", "28.2.2003", "birth_date", date(2003, 2, 28)),
    ("born", "2003-02-28", "birth_date", date(2003, 2, 28)),
    ("Birth date", datetime(2003, 2, 28), "birth_date", date(2003, 2, 28)),
    ("Years of lifting", "4,5", "training_age_years", 4.5),
    ("Weight (kg)", "61.5", "mass_kg", 61.5),
    ("body mass lb", "135", "mass_kg", 61.2),
    ("Weight class", "62 kg", "body_mass_class", "62 kg"),
    ("sessions per week", "3", "sessions_a_week", 3),
])  # fmt: skip
def test_headings_and_cells_as_people_write_them(heading: str, cell, column: str, value) -> None:
    values, problems = one(heading, cell)
    assert problems == ()
    assert values[column] == value


@pytest.mark.parametrize(("heading", "cell", "said"), [
    ("born", "31.2.2003", "is not a day"), ("born", "2030-01-01", "cannot be"), ("mass", "900", "too much"),
    ("mass", "sixty", "not a number"), ("mass", "5", "body mass of 5 kg"), ("group", "x" * 41, "longer than 40"),
])  # fmt: skip
def test_a_bad_cell_gets_a_sentence(heading: str, cell: str, said: str) -> None:
    _, problems = one(heading, cell)
    assert len(problems) == 1
    assert said in problems[0]


def test_rows_without_a_name_and_repeated_names_are_problems() -> None:
    table = read_table([["name", "mass"], ["Ada", "60"], ["", "61"], ["ada", "62"]], TODAY)
    assert [bool(r.problems) for r in table.rows] == [False, True, True]
    assert "row 2 already" in table.rows[2].problems[0]


def test_unknown_headings_are_named_and_empty_rows_skipped() -> None:
    table = read_table([["name", "shoe size"], ["", ""], ["Ada", "41"]], TODAY)
    assert table.ignored == ("shoe size",)
    assert [r.number for r in table.rows] == [3]


@pytest.mark.parametrize("cells", [[], [["name"]]])
def test_a_table_without_rows_is_refused(cells) -> None:
    with pytest.raises(CoachError):
        read_table(cells, TODAY)


def test_without_a_column_of_names_every_row_says_so() -> None:
    assert [r.problems for r in read_table([["squad"], ["Harbour"]], TODAY).rows] == [("The name is missing.",)]


@pytest.mark.parametrize("text", ["=1+1", "+44 1", "-x", "@me", "=cmd|' /C calc'!A0"])
def test_formula_looking_text_stays_text(text: str) -> None:
    out = list(csv.reader(io.StringIO(write_csv([{"name": text, "squad": "Harbour"}]))))
    assert not out[1][0].startswith(("=", "+", "-", "@"))
    assert read_table(out, TODAY).rows[0].values["name"] == text


@given(st.text(max_size=30))
def test_the_apostrophe_goes_on_and_comes_off(text: str) -> None:
    if not text.startswith("'"):
        assert plain_text(safe_text(text)) == text


LOADED = [e for e in exercises().values() if e.is_loaded]


@pytest.mark.parametrize(
    ("heading", "lift", "unit"),
    [
        ("Back squat", "back_squat", ""),
        ("Bench press (lb)", "bench_press", "lb"),
        ("squat 1RM kg", "back_squat", "kg"),
        ("Clean & jerk", "clean_and_jerk", ""),
        ("C&J", "clean_and_jerk", ""),
        ("Trap-bar deadlift, max", "trap_bar_deadlift", ""),
        ("Deadlift best", "deadlift", ""),
    ],
)
def test_a_column_of_a_lift_as_people_head_it(heading: str, lift: str, unit: str) -> None:
    assert lift_column(heading, LOADED) == (lift, unit)


@pytest.mark.parametrize("heading", ["Height", "Squat jump height", "Shoe size", "", "max", "Countermovement jump"])
def test_a_column_of_no_loaded_lift(heading: str) -> None:
    assert lift_column(heading, LOADED) is None


def test_a_heading_in_pounds_gives_its_cells_their_unit_but_not_those_that_name_one() -> None:
    cells = [["Name", "Bench press lb", "Squat"], ["Bo", "135x5", "100"], ["Cy", "60 kg", "90 kg"]]
    found = read_results_table(cells, LOADED)
    assert found.rows == (("Bo", ("135 lb x5", "100")), ("Cy", ("60 kg", "90 kg")))
    bo = read_result(found.rows[0][1][0], "kg")
    assert bo is not None
    assert (bo.unit, bo.reps, round(bo.load_kg, 2)) == ("lb", 5, 61.23)


@pytest.mark.parametrize(("said", "is_fine"), [("2026-11-24", True), ("2026-11-25", False)])
def test_a_test_day_is_not_ahead(said: str, is_fine: bool) -> None:
    (row,) = read_table([["name", "squat", "tested on"], ["Bo", "100", said]], date(2026, 11, 24), HowRead(LOADED)).rows
    assert (not row.problems) is is_fine

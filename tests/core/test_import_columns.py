"""Columns of a table read from trade words or said by hand, rows that are results, restrictions in a cell."""

from __future__ import annotations

from datetime import date

import pytest

from jarvok.core.errors import CoachError
from jarvok.core.interchange.athletes import HowRead, read_table
from jarvok.core.interchange.columns import guess, words_of
from jarvok.core.interchange.restrictions import SaidRestriction, read_restrictions
from jarvok.core.library.exercises import exercises
from jarvok.core.marks.mark import MarkKind

TODAY = date(2026, 11, 24)
LOADED = [e for e in exercises().values() if e.is_loaded]
TAGS = ("overhead", "press", "squat", "upper", "upper_back")


def rows(heads: list[str], *cells: list[str], **how: object):
    return read_table([heads, *cells], TODAY, HowRead(LOADED, **how)).rows  # type: ignore[arg-type]


# headings as they stand over columns in common practice
@pytest.mark.parametrize(
    ("heading", "key"),
    [
        ("Lifter", "name"), ("BW", "mass_kg"), ("Bodyweight (lb)", "mass_lb"), ("DOB", "birth_date"),
        ("Date", "tested_on"),
        ("Squat 1RM", "result:back_squat:kg"), ("bench press lb", "result:bench_press:lb"),
        ("Exercise", "lift"), ("Reps", "reps"),
        ("Injuries", "restriction"), ("shoe size", ""), ("", ""),
    ],
)  # fmt: skip
def test_trade_words_over_a_column(heading: str, key: str) -> None:
    assert guess(heading, LOADED) == key


@pytest.mark.parametrize(
    ("heading", "key"),
    [("BW", "mass_lb"), ("Body mass kg", "mass_kg"), ("load", "load_lb"), ("load kg", "load_kg"), ("lb", "load_lb"),
     ("Squat 1RM", "result:back_squat:lb"), ("bench press kg", "result:bench_press:kg"), ("Lifter", "name")],
)  # fmt: skip
def test_masses_that_name_no_unit_are_in_that_of_whoever_reads(heading: str, key: str) -> None:
    assert guess(heading, LOADED, "lb") == key


class TestByHand:
    def test_what_is_said_by_hand_counts(self) -> None:
        heads = ["Who", "Wt", "Big lift"]
        (row,) = rows(heads, ["Ada", "140", "225"], mapping={0: "name", 1: "mass_lb", 2: "result:back_squat:lb"})
        assert (row.values, row.problems) == ({"name": "Ada", "mass_kg": 63.5}, ())
        assert (row.results[0].exercise_id, round(row.results[0].typed.load_kg, 1)) == ("back_squat", 102.1)

    def test_a_column_left_out_is_left_out(self) -> None:
        (row,) = rows(["name", "weight"], ["Ada", "9999"], mapping={1: ""})
        assert (row.values, row.problems) == ({"name": "Ada"}, ())

    @pytest.mark.parametrize("key", ["shoe", "result:moon_lift:kg", "result:back_squat:stone", "result:back_squat"])
    def test_nothing_else_can_be_said(self, key: str) -> None:
        with pytest.raises(CoachError, match="is nothing a column can hold"):
            rows(["name", "x"], ["Ada", "1"], mapping={1: key})

    def test_one_thing_is_in_one_column(self) -> None:
        with pytest.raises(CoachError, match="Two columns are “body mass, kg”"):
            rows(["name", "a", "b"], ["Ada", "1", "2"], mapping={0: "name", 1: "mass_kg", 2: "mass_kg"})

    def test_without_names_each_row_says_so(self) -> None:
        (row,) = rows(["x", "y"], ["Ada", "60"], mapping={1: "mass_kg"})
        assert row.problems == ("The name is missing.",)

    def test_in_words(self) -> None:
        assert words_of("result:back_squat:lb", LOADED) == "Back squat, lb"
        assert (words_of("tested_on", LOADED), words_of("squad", LOADED)) == ("day of the results", "squad")


class TestRowsThatAreResults:
    HEADS = ["athlete", "day", "exercise", "load kg", "reps"]

    def test_an_athlete_has_many(self) -> None:
        found = rows(self.HEADS, ["Ada", "2026-10-05", "Back squat", "100", "1"], ["Ada", "2026-10-05", "bench", "60", "3"])
        assert [r.problems for r in found] == [(), ()]
        told = [(r.results[0].exercise_id, r.results[0].typed.kind, r.results[0].typed.reps) for r in found]
        assert told == [("back_squat", MarkKind.ONE_RM, 1), ("bench_press", MarkKind.REP_MAX, 3)]
        assert found[0].values["tested_on"] == date(2026, 10, 5)

    def test_a_result_in_one_cell_or_in_pounds(self) -> None:
        (cell,) = rows(["name", "lift", "result"], ["Ada", "squat", "85 x 3"])
        assert (cell.results[0].typed.load, cell.results[0].typed.reps) == (85, 3)
        (pounds,) = rows(["name", "lift", "load lb"], ["Ada", "squat", "225"])
        assert (pounds.results[0].typed.unit, round(pounds.results[0].typed.load_kg)) == ("lb", 102)

    @pytest.mark.parametrize(
        ("kind", "is_taken"), [("rep_max", True), ("one_rm", True), ("Technical max", True), ("jump", False)]
    )
    def test_kinds_that_are_loads_are_taken(self, kind: str, is_taken: bool) -> None:
        (row,) = rows(["name", "lift", "load kg", "kind"], ["Ada", "squat", "100", kind])
        assert bool(row.results) is is_taken
        assert bool(row.problems) is not is_taken
        if kind == "Technical max":
            assert row.results[0].typed.kind is MarkKind.TECHNICAL_MAX

    def test_what_names_no_lift_is_said(self) -> None:
        (row,) = rows(self.HEADS, ["Ada", "", "moon lift", "100", "1"])
        assert "“moon lift” is no lift that is loaded." in row.problems[0]
        (empty,) = rows(self.HEADS, ["Ada", "", "squat", "", ""])
        assert (empty.results, empty.problems) == ((), ())

    def test_in_a_table_of_athletes_a_name_stands_once_a_day(self) -> None:
        twice = rows(["name", "squat"], ["Ada", "100"], ["ada", "102"])
        assert [len(r.problems) for r in twice] == [0, 1]
        days = rows(["name", "squat", "date"], ["Ada", "100", "2026-09-01"], ["Ada", "102", "2026-10-01"])
        assert [len(r.problems) for r in days] == [0, 0]


@pytest.mark.parametrize(
    ("cell", "month_first", "day"),
    [
        ("2/3/2003", False, date(2003, 3, 2)), ("2/3/2003", True, date(2003, 2, 3)), ("2003-02-28", True, date(2003, 2, 28)),
        ("28/2/2003", True, None), ("2/28/2003", False, None),
    ],
)  # fmt: skip
def test_days_are_read_as_they_are_written_there(cell: str, month_first: bool, day: date | None) -> None:
    (row,) = rows(["name", "born"], ["Ada", cell], month_first=month_first)
    assert row.values.get("birth_date") == day
    assert bool(row.problems) is (day is None)


class TestRestrictions:
    def test_what_which_side_and_by_whose_word(self) -> None:
        assert read_restrictions("no overhead, left shoulder, by Dr Aas; squat (set by Physio Lie)", TAGS) == (
            SaidRestriction("overhead", "no overhead, left shoulder", "left", "Dr Aas"),
            SaidRestriction("squat", "squat", "", "Physio Lie"),
        )
        assert read_restrictions(" ", TAGS) == ()

    def test_the_most_exact_word_counts(self) -> None:
        assert read_restrictions("upper back, by Dr Aas", TAGS)[0].tag == "upper_back"

    @pytest.mark.parametrize(
        ("cell", "said"), [("overhead", "does not say who set it"), ("sore, by Dr Aas", "is nothing that can be taken out")]
    )
    def test_what_lacks_something_is_said(self, cell: str, said: str) -> None:
        with pytest.raises(CoachError, match=said):
            read_restrictions(cell, TAGS)

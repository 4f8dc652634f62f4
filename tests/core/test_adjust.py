"""A line changed by steps."""

from __future__ import annotations

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from jarvok.core.errors import CoachError
from jarvok.core.loading.adjust import WHAT, adjust
from jarvok.core.loading.shorthand import parse, write

LINES = (
    "4 × 3 @ 82.5 %",
    "3 × 5 @ 80–85 %",
    "3 × 8, 2 in reserve",
    "3 × 6/side, 2 in reserve, 3-0-X-0, rest 1:30",
    "5 × 2 @ 0.75–0.85 m/s, stop at 10 % loss",
    "4 × 5 @ RPE 8",
    "3 × 10 @ 40 kg",
    "5 × 3 @ 60 % rising",
    "8 × 2 @ 50 % + 25 % bands, rest 0:45",
    "3 × 3 @ 80 %, 2 in reserve",
    "2 × 30 m/side",
    "3 × 40 s",
)


@pytest.mark.parametrize(
    ("text", "what", "by", "after"),
    [
        ("4 × 3 @ 82.5 %", "sets", 1, "5 × 3 @ 82.5 %"),
        ("4 × 3 @ 82.5 %", "reps", -1, "4 × 2 @ 82.5 %"),
        ("4 × 3 @ 82.5 %", "load", 1, "4 × 3 @ 85 %"),
        ("3 × 5 @ 80–85 %", "load", -1, "3 × 5 @ 77.5–82.5 %"),
        ("3 × 8, 2 in reserve", "load", 1, "3 × 8, 1 in reserve"),
        ("4 × 5 @ RPE 8", "load", 1, "4 × 5 @ RPE 8.5"),
        ("3 × 10 @ 40 kg", "load", 1, "3 × 10 @ 42.5 kg"),
        ("5 × 2 @ 0.75–0.85 m/s", "load", 1, "5 × 2 @ 0.70–0.80 m/s"),
        ("5 × 3 @ 60 % rising", "load", 1, "5 × 3 @ 62.5 % rising"),
        ("8 × 2 @ 50 % + 25 % bands", "load", 1, "8 × 2 @ 52.5 % + 25 % bands"),
        ("3 × 3 @ 80 %, 2 in reserve", "load", 1, "3 × 3 @ 82.5 %, 2 in reserve"),
        ("2 × 30 m/side", "reps", 1, "2 × 35 m/side"),
        ("3 × 40 s", "reps", -1, "3 × 35 s"),
        ("1 × 5 @ 70 % then 3 × 3 @ 85 %", "sets", 1, "1 × 5 @ 70 % then 4 × 3 @ 85 %"),
    ],
)
def test_a_step_in_the_terms_of_the_line(text: str, what: str, by: int, after: str) -> None:
    assert write(adjust(parse(text), what, by)) == after


@given(st.sampled_from(LINES), st.sampled_from(WHAT), st.sampled_from([1, -1]))
def test_a_step_and_back_is_the_same_line_and_what_is_written_reads_back(text: str, what: str, by: int) -> None:
    line = parse(text)
    assume(what != "load" or line.groups[-1].load is not None)
    stepped = adjust(line, what, by)
    assert parse(write(stepped)) == stepped
    assert adjust(stepped, what, -by) == line


@pytest.mark.parametrize(
    ("text", "what", "by", "where"),
    [
        ("1 × 5 @ 80 %", "sets", -1, "sets"),
        ("3 × 1 @ 80 %", "reps", -1, "reps"),
        ("3 × 8, 0 in reserve", "load", 1, "load"),
        ("3 × 8", "load", 1, "load"),
        ("APRE-6", "load", 1, "load"),
        ("3 × 2+1 @ 75 %", "reps", 1, "reps"),
        ("3 × 8", "colour", 1, "what"),
        ("3 × 8", "sets", 3, "what"),
    ],
)
def test_where_there_is_no_step_it_says_so(text: str, what: str, by: int, where: str) -> None:
    with pytest.raises(CoachError) as refused:
        adjust(parse(text), what, by)
    assert refused.value.where == where
    assert refused.value.accepted

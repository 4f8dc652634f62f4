"""What is written on a day of the calendar is read as a coach means it, or refused in words."""

from __future__ import annotations

from datetime import date

import pytest

from jarvok.core.errors import CoachError
from jarvok.core.interchange.day_notes import read_note
from jarvok.core.season.model import Rank

DAY = date(2026, 12, 9)  # a Wednesday


@pytest.mark.parametrize(
    ("text", "kind", "name", "first", "last"),
    [
        ("match 19:00 away, Skerry Hall", "match", "Match away, Skerry Hall", "2026-12-09", "2026-12-09"),
        ("match", "match", "Match", "2026-12-09", "2026-12-09"),
        ("game Reef", "match", "Reef", "2026-12-09", "2026-12-09"),
        ("camp 7–11", "camp", "Camp", "2026-12-07", "2026-12-11"),
        ("camp 7-11 Dec at the bay", "camp", "at the bay", "2026-12-07", "2026-12-11"),
        ("camp 28–3", "camp", "Camp", "2026-12-28", "2027-01-03"),
        ("camp 30 Dec - 4 Jan", "camp", "Camp", "2026-12-30", "2027-01-04"),
        ("off to 12", "unavailable", "Unavailable", "2026-12-09", "2026-12-12"),
        ("off until 3", "unavailable", "Unavailable", "2026-12-09", "2027-01-03"),
        ("off to 3 Jan", "unavailable", "Unavailable", "2026-12-09", "2027-01-03"),
        ("off to Jan 3", "unavailable", "Unavailable", "2026-12-09", "2027-01-03"),
        ("camp Dec 12 to 14 at the bay", "camp", "at the bay", "2026-12-12", "2026-12-14"),
        ("camp December 30 - Jan. 4", "camp", "Camp", "2026-12-30", "2027-01-04"),
        ("camp 30 Dec to Jan 4", "camp", "Camp", "2026-12-30", "2027-01-04"),
        ("match Marit 19:00", "match", "Marit", "2026-12-09", "2026-12-09"),
        ("ill 3 days", "ill", "Ill", "2026-12-09", "2026-12-11"),
        ("holiday 2 weeks", "holiday", "Holiday", "2026-12-09", "2026-12-22"),
        ("exams: biology", "exams", "biology", "2026-12-09", "2026-12-09"),
        ("EXAM", "exams", "Exams", "2026-12-09", "2026-12-09"),
        ("ferry 1 day", "travel", "Travel", "2026-12-09", "2026-12-09"),
    ],
)
def test_read(text: str, kind: str, name: str, first: str, last: str) -> None:
    note = read_note(text, DAY)
    assert (note.kind, note.name, note.start.isoformat(), note.end.isoformat()) == (kind, name, first, last)


@pytest.mark.parametrize(
    ("text", "hour"),
    [
        ("match 19:00", 19.0),
        ("match 7pm", 19.0),
        ("match 12am", 0.0),
        ("match 12 pm", 12.0),
        ("match 9:30 home", 9.5),
        ("match", None),
    ],
)
def test_hours(text: str, hour: float | None) -> None:
    assert read_note(text, DAY).hour == hour


@pytest.mark.parametrize(
    ("text", "weekday", "first", "hour", "minutes", "hardness"),
    [
        ("practice tue 18:00 90 min hard 7", 1, "2026-12-15", 18.0, 90, 7),
        ("practice tue 18:00 90 min RPE 7", 1, "2026-12-15", 18.0, 90, 7),
        ("practice", 2, "2026-12-09", 18.0, 90, 6),
        ("training Thursday 6:45 45 min", 3, "2026-12-10", 6.75, 45, 6),
    ],
)
def test_practices(text: str, weekday: int, first: str, hour: float, minutes: int, hardness: int) -> None:
    note = read_note(text, DAY)
    assert (note.kind, note.weekday, note.start.isoformat()) == ("practice", weekday, first)
    assert (note.hour, note.minutes, note.hardness) == (hour, minutes, hardness)


@pytest.mark.parametrize(
    ("text", "rank", "name"),
    [
        ("competition Quay Cup", Rank.MAIN, "Quay Cup"),
        ("main Quay Cup", Rank.MAIN, "Quay Cup"),
        ("secondary Harbour Open 12 to 13 Dec", Rank.SECONDARY, "Harbour Open"),
        ("train-through Reef Open", Rank.THROUGH, "Reef Open"),
        ("maybe Reef Open", Rank.MAYBE, "Reef Open"),
    ],
)
def test_competitions(text: str, rank: Rank, name: str) -> None:
    note = read_note(text, DAY)
    assert (note.kind, note.rank, note.name) == ("competition", rank, name)


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "Nothing is written"),
        ("blah", "not clear what that is"),
        ("match 25:00", "25:00 is no hour"),
        ("match 12:60", "12:60 is no hour"),
        ("match 9 to 10", "on one day"),
        ("competition", "needs a name"),
        ("practice at the bay", "“at the bay” is not read"),
        ("camp 11-7", "ends before it begins"),
        ("camp 12 Dec to 7 Dec", "ends before it begins"),
        ("off 7-40", "no days of that month"),
        ("camp " + "x" * 81, "too long"),
        ("camp " + "x " * 90, "too long"),
    ],
)
def test_refused_with_what_would_be_read(text: str, said: str) -> None:
    with pytest.raises(CoachError, match=said) as caught:
        read_note(text, DAY)
    assert caught.value.accepted


def test_it_says_back_how_it_was_understood() -> None:
    assert read_note("match 19:00 away", DAY).words == "Match away, Wed 9 Dec, 19:00."
    assert read_note("camp 7-11", DAY).words == "Camp, Mon 7 Dec to Fri 11 Dec."
    assert read_note("practice tue 18:30", DAY).words == "Practice every Tuesday from 15 Dec, 18:30, 90 min, RPE 6."
    assert read_note("maybe Reef Open", DAY).words == "Reef Open: a competition that is a maybe, Wed 9 Dec."

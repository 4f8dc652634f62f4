"""iCalendar in and out: what we write is read back, examples of RFC 5545, bundled files of others, clock changes, updates."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from importlib import resources
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from icalendar import Calendar

from jarvok.core.errors import CoachError
from jarvok.core.interchange.calendar import KINDS, Found, Written, guess_kind, read_calendar, write_calendar

TODAY = date(2026, 11, 24)
OSLO, NEW_YORK = ZoneInfo("Europe/Oslo"), ZoneInfo("America/New_York")
STAMP = datetime(2026, 11, 24, 9, 0, tzinfo=UTC)


def calendar(*events: str) -> str:
    body = "".join(f"BEGIN:VEVENT\r\n{e.strip()}\r\nEND:VEVENT\r\n" for e in events).replace("\n", "\r\n").replace("\r\r", "\r")
    return f"BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//Quay//Test//EN\r\n{body}END:VCALENDAR\r\n"


def read(*events: str, today: date = TODAY, zone: ZoneInfo = OSLO) -> tuple[Found, ...]:
    return read_calendar(calendar(*events), today, zone).found


class TestReading:
    def test_an_all_day_event_ends_the_day_before_its_end(self) -> None:
        # RFC 5545, 3.6.1: DTEND is not included
        found = read("UID:a\nSUMMARY:Bay Cup\nDTSTART;VALUE=DATE:20270403\nDTEND;VALUE=DATE:20270405")
        assert [(f.name, f.start, f.end, f.kind, f.hour) for f in found] == [
            ("Bay Cup", date(2027, 4, 3), date(2027, 4, 4), "competition", None)
        ]

    def test_without_an_end_it_is_one_day(self) -> None:
        found = read("UID:a\nSUMMARY:Exam\nDTSTART;VALUE=DATE:20270403")[0]
        assert (found.start, found.end, found.kind) == (date(2027, 4, 3), date(2027, 4, 3), "exams")

    @pytest.mark.parametrize(("start", "zone", "day", "hour"), [
        ("DTSTART:20261201T233000Z", OSLO, date(2026, 12, 2), 0.5),
        ("DTSTART:20261201T233000Z", NEW_YORK, date(2026, 12, 1), 18.5),
        ("DTSTART;TZID=America/New_York:20261201T200000", OSLO, date(2026, 12, 2), 2.0),
        ("DTSTART:20261201T183000", OSLO, date(2026, 12, 1), 18.5),
    ])  # fmt: skip
    def test_times_are_read_in_the_centres_zone(self, start: str, zone: ZoneInfo, day: date, hour: float) -> None:
        found = read(f"UID:a\nSUMMARY:Match\n{start}\nDURATION:PT1H30M", zone=zone)[0]
        assert (found.start, found.hour, found.minutes) == (day, hour, 90)

    def test_a_weekly_practice_across_a_clock_change_keeps_its_local_time(self) -> None:
        rule = "UID:p\nSUMMARY:Practice\nDTSTART;TZID=Europe/Oslo:20260303T180000\nDURATION:PT90M\nRRULE:FREQ=WEEKLY;BYDAY=TU,TH"
        found = read(rule)
        assert [(f.weekday, f.hour, f.minutes, f.kind) for f in found] == [(1, 18.0, 90, "practice"), (3, 18.0, 90, "practice")]

    def test_recurring_days_are_followed_by_the_wall_clock(self) -> None:
        # RFC 5545, 3.8.5.3: weekly for three occurrences; the clocks change on 28 March 2027
        rule = "UID:m\nSUMMARY:League match\nDTSTART;TZID=Europe/Oslo:20270320T003000\nDURATION:PT1H\nRRULE:FREQ=WEEKLY;COUNT=3"
        assert [f.start for f in read(rule)] == [date(2027, 3, d) for d in (20, 27)] + [date(2027, 4, 3)]

    def test_left_out_and_moved_occurrences(self) -> None:
        rule = "UID:m\nSUMMARY:Match\nDTSTART;VALUE=DATE:20261205\nRRULE:FREQ=WEEKLY;COUNT=4\nEXDATE;VALUE=DATE:20261212"
        moved = "UID:m\nSUMMARY:Match\nRECURRENCE-ID;VALUE=DATE:20261219\nDTSTART;VALUE=DATE:20261220"
        found = read(rule, moved)
        assert [f.start.day for f in found] == [5, 20, 26]
        assert {f.uid for f in found} == {"m@2026-12-05", "m@2026-12-19", "m@2026-12-26"}, "the moved one keeps its name"

    def test_what_has_passed_is_left_out_and_what_is_far_is_not_followed(self) -> None:
        assert read("UID:a\nSUMMARY:Cup\nDTSTART;VALUE=DATE:20261123") == ()
        assert read("UID:a\nSUMMARY:Camp\nDTSTART;VALUE=DATE:20261120\nDTEND;VALUE=DATE:20261125")[0].kind == "camp"
        days = [f.start for f in read("UID:a\nSUMMARY:Match\nDTSTART;VALUE=DATE:20200104\nRRULE:FREQ=WEEKLY")]
        assert days[0] >= TODAY
        assert days[-1] <= TODAY + timedelta(days=400)

    def test_an_update_in_the_same_file_replaces_the_event(self) -> None:
        first, second = (f"UID:a\nSUMMARY:Cup\nSEQUENCE:{n}\nDTSTART;VALUE=DATE:202704{d}" for n, d in ((0, "03"), (1, "10")))
        assert [f.start.day for f in read(first, second)] == [10]

    def test_a_cancelled_event_says_so(self) -> None:
        assert read("UID:a\nSUMMARY:Cup\nSTATUS:CANCELLED\nDTSTART;VALUE=DATE:20270403")[0].is_cancelled

    @pytest.mark.parametrize("broken", ["UID:a\nSUMMARY:No start", "UID:a\nSUMMARY:Bad\nDTSTART:20269901", "UID:a\nDTSTART:x"])
    def test_one_broken_event_does_not_lose_the_others(self, broken: str) -> None:
        good = "UID:b\nSUMMARY:Cup\nDTSTART;VALUE=DATE:20270403"
        assert [f.name for f in read(broken, good)] == ["Cup"]

    @pytest.mark.parametrize("text", ["", "hello", "BEGIN:VEVENT\r\nUID:a\r\nEND:VEVENT\r\n", "a,b\n1,2", "\x00\xff"])
    def test_what_is_no_calendar_is_refused(self, text: str) -> None:
        with pytest.raises(CoachError, match="not a calendar"):
            read_calendar(text, TODAY, OSLO)

    def test_too_large_is_refused(self) -> None:
        with pytest.raises(CoachError, match="too large"):
            read_calendar("x" * 2_000_001, TODAY, OSLO)

    @given(st.text(max_size=200))
    @settings(max_examples=80, deadline=None)
    def test_any_text_is_read_or_refused(self, text: str) -> None:
        for whole in (text, calendar(f"UID:a\nSUMMARY:{text}\nDTSTART;VALUE=DATE:20270403")):
            try:
                read_calendar(whole, TODAY, OSLO)
            except CoachError as error:
                assert error.message  # noqa: PT017 - a refusal in words is one of the two good ends


BUNDLED = sorted(p.name for p in resources.files("icalendar").joinpath("tests/calendars").iterdir() if p.name.endswith(".ics"))


@pytest.mark.parametrize("name", BUNDLED)
def test_files_of_others_are_read_or_refused_in_words(name: str) -> None:
    """The calendars that the icalendar package brings for its own tests."""
    raw = resources.files("icalendar").joinpath("tests/calendars").joinpath(name).read_bytes()
    try:
        found = read_calendar(raw, date(1990, 1, 1), OSLO)
    except CoachError:
        return
    assert all(f.name and f.uid and f.end >= f.start for f in found.found)
    assert all(f.kind in KINDS for f in found.found)


class TestWriting:
    items = (
        Written("competition-1@jarvok", "Gannet Sound Open", "competition", date(2027, 1, 30), date(2027, 1, 31), note="main"),
        Written("entry-4@jarvok", "Camp at the bay", "camp", date(2027, 1, 4), date(2027, 1, 8)),
        Written("entry-5@jarvok", "League, round 9", "match", date(2026, 12, 5), date(2026, 12, 5)),
        Written(
            "practice-7@jarvok", "Mat practice", "practice", date(2026, 11, 24), date(2026, 11, 24), 18.5, 90, 1, date(2027, 2, 6)
        ),
    )

    def test_what_is_written_is_read_back(self) -> None:
        found = {f.uid.split("@")[0]: f for f in read_calendar(write_calendar(self.items, STAMP, OSLO), TODAY, OSLO).found}
        for item in self.items[:3]:
            back = found[item.uid.split("@")[0]]
            assert (back.name, back.kind, back.start, back.end) == (item.name, item.kind, item.start, item.end)
        practice = found["practice-7"]
        assert (practice.weekday, practice.hour, practice.minutes) == (1, 18.5, 90)

    def test_the_icalendar_package_parses_it(self) -> None:
        parsed = Calendar.from_ical(write_calendar(self.items, STAMP, OSLO).decode())
        events = list(parsed.walk("VEVENT"))
        assert len(events) == 4
        assert str(parsed["VERSION"]) == "2.0"
        assert events[0]["DTEND"].dt == date(2027, 2, 1)
        assert all("DTSTAMP" in e and "UID" in e for e in events)
        assert list(parsed.walk("VTIMEZONE")), "a time with a zone brings its zone"

    def test_lines_break_as_the_standard_asks(self) -> None:
        # RFC 5545, 3.1: CRLF, and no line over 75 octets
        long = Written("x@jarvok", "Ø" * 79, "match", TODAY, TODAY)
        data = write_calendar([long], STAMP, OSLO)
        assert all(len(line) <= 75 for line in data.split(b"\r\n"))
        assert read_calendar(data, TODAY, OSLO).found[0].name == "Ø" * 79


@pytest.mark.parametrize(("name", "kind"), [
    ("Gannet Sound Open", "competition"), ("National championships", "competition"), ("Harbour v. Quay", "match"),
    ("Home game", "match"), ("Evening practice", "practice"), ("Winter camp", "camp"), ("Ferry home", "travel"),
    ("Exam week", "exams"), ("School holidays", "holiday"), ("Dentist", "unavailable"),
])  # fmt: skip
def test_a_kind_is_guessed_from_the_words(name: str, kind: str) -> None:
    assert guess_kind(name) == kind


def test_a_category_says_it_better() -> None:
    assert guess_kind("Harbour Open", ["travel"]) == "travel"


class TestWhatAWeeklyPracticeKeeps:
    """Its first and last day, the days it falls out, and its hour where the calendar means another zone."""

    WEEKLY = "UID:p\nSUMMARY:Practice\nDTSTART{start}\nDURATION:PT90M\nRRULE:FREQ=WEEKLY"

    def weekly(self, start: str, more: str = "", *others: str) -> tuple[Found, ...]:
        return read(self.WEEKLY.format(start=start) + more, *others)

    def test_one_that_has_begun_and_goes_on_has_neither_end(self) -> None:
        (found,) = self.weekly(";TZID=Europe/Oslo:20260303T180000")
        assert (found.since, found.until, found.but_not, found.hour) == (None, None, (), 18.0)

    def test_one_that_begins_later_says_when(self) -> None:
        (found,) = self.weekly(";TZID=Europe/Oslo:20270105T180000")
        assert (found.since, found.until) == (date(2027, 1, 5), None)

    @pytest.mark.parametrize("end", [";UNTIL=20261222T170000Z", ";UNTIL=20261222T235900Z", ";UNTIL=20261222"])
    def test_one_that_ends_says_when(self, end: str) -> None:
        (found,) = self.weekly(";TZID=Europe/Oslo:20260303T180000", end)
        assert found.until == date(2026, 12, 22)

    def test_an_end_an_hour_before_it_is_the_week_before(self) -> None:
        """18:00 in Oslo is 17:00 in UTC, where an end without a zone of its own is said."""
        (found,) = self.weekly(";TZID=Europe/Oslo:20260303T180000", ";UNTIL=20261222T165900Z")
        assert found.until == date(2026, 12, 15)

    def test_a_number_of_times_is_an_end_too(self) -> None:
        (found,) = self.weekly(";TZID=Europe/Oslo:20261201T180000", ";COUNT=3")
        assert found.until == date(2026, 12, 15)

    def test_days_it_falls_out_and_days_it_was_moved_from(self) -> None:
        out = "\nEXDATE;TZID=Europe/Oslo:20261222T180000"
        moved = (
            "UID:p\nSUMMARY:Practice\nRECURRENCE-ID;TZID=Europe/Oslo:20261208T180000"
            "\nDTSTART;TZID=Europe/Oslo:20261209T070000\nDURATION:PT60M"
        )
        weekly, single = self.weekly(";TZID=Europe/Oslo:20261201T180000", out, moved)
        assert weekly.but_not == (date(2026, 12, 8), date(2026, 12, 22))
        assert (single.start, single.hour, single.minutes, single.weekday) == (date(2026, 12, 9), 7.0, 60, None)

    def test_where_clocks_change_on_other_days_the_hour_here_changes_with_them(self) -> None:
        """Halifax and Oslo change clocks three weeks apart in spring 2027: 14 and 28 March."""
        found = self.weekly(";TZID=America/Halifax:20261201T130000", ";UNTIL=20270501T000000Z")
        assert [f.hour for f in found] == [18.0, 17.0, 18.0]
        assert [f.since for f in found] == [date(2026, 12, 1), date(2027, 3, 16), date(2027, 3, 30)]
        assert [f.until for f in found] == [date(2027, 3, 9), date(2027, 3, 23), date(2027, 4, 27)]
        assert all(f.zone_words == "13:00 America/Halifax" for f in found)
        assert len({f.uid for f in found}) == 3

    def test_the_same_hour_here_and_there_is_not_mentioned(self) -> None:
        (found,) = self.weekly(";TZID=Europe/Berlin:20261201T180000")
        assert found.zone_words == ""

    @pytest.mark.parametrize(("first", "second", "stands"), [(1, 2, "Late"), (2, 1, "Early"), (1, 1, "Late")])
    def test_of_two_versions_the_newer_stands(self, first: int, second: int, stands: str) -> None:
        event = "UID:e\nSEQUENCE:{}\nSUMMARY:{} match\nDTSTART;VALUE=DATE:20261205"
        (found,) = read(event.format(first, "Early"), event.format(second, "Late"))
        assert (found.name, found.sequence) == (f"{stands} match", max(first, second))


def test_what_is_written_is_read_again_with_its_end_its_days_out_and_its_version() -> None:
    """Also by the library that others use: icalendar."""
    zone = ZoneInfo("Europe/Oslo")
    item = Written(
        "p@x",
        "Practice",
        "practice",
        date(2026, 12, 1),
        date(2026, 12, 1),
        18.5,
        75,
        1,
        date(2027, 1, 26),
        "",
        (date(2026, 12, 22),),
        3,
    )
    raw = write_calendar([item, replace(item, uid="q@x", weekday=None, until=None, but_not=(), is_cancelled=True)], STAMP, zone)
    (weekly, gone) = read_calendar(raw, date(2026, 11, 24), zone).found
    assert (weekly.hour, weekly.minutes, weekly.until, weekly.but_not) == (18.5, 75, date(2027, 1, 26), (date(2026, 12, 22),))
    assert (weekly.sequence, gone.is_cancelled) == (3, True)
    events = Calendar.from_ical(raw).walk("VEVENT")
    assert events[0]["DTSTART"].params["TZID"] == "Europe/Oslo"
    assert int(events[0]["SEQUENCE"]) == 3

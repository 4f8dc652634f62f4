"""What must follow what, over HTTP as the pages ask: the season and its sheets, the contest and the sessions."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

import pytest

START = date(2026, 11, 23)


def sheets(coach: Any, athlete: Any, monday: str) -> list[Any]:
    week = coach.get(f"athletes/{athlete.pk}/week?start={monday}")["week"]
    return [d["sheet"] for d in week["days"] if d["sheet"]]


def main_sets(coach: Any, athlete: Any, monday: str) -> int:
    return coach.get(f"athletes/{athlete.pk}/week?start={monday}")["week"]["sums"]["hard_sets"]


def weeks_of(coach: Any, athlete: Any) -> list[Any]:
    return coach.get(f"athletes/{athlete.pk}/season")["season"]["weeks"]


@pytest.mark.parametrize(("key", "days"), [
    ("two_days", 2), ("weightlifting", 4), ("concurrent", 3), ("high_low", 4), ("percent_lift", 3), ("team_strength", 2),
])  # fmt: skip
def test_a_bar_of_the_season_is_what_its_sheets_hold(coach, athlete, season, key: str, days: int) -> None:
    coach.ok("PUT", f"athletes/{athlete.pk}/week-arrangement", {"arrangement": key, "days": days})
    for week in weeks_of(coach, athlete):
        if week["start"] < START.isoformat():
            continue
        assert main_sets(coach, athlete, week["start"]) == week["main_sets"], week["start"]
        assert abs(week["main_sets"] - week["dose_sets"]) <= max(0.1 * week["dose_sets"], days), week["start"]


def test_an_edit_moves_the_bar_and_undoing_it_moves_it_back(coach, athlete, season) -> None:
    monday = season["weeks"][2]["start"]
    before = weeks_of(coach, athlete)[2]
    sheet = sheets(coach, athlete, monday)[0]
    line = next(x for x in sheet["lines"] if x["slot"] == "A1")
    path = f"athletes/{athlete.pk}/sessions/{sheet['day']}/{sheet['key']}/lines/{line['id']}"
    coach.ok("PUT", path, {"text": "9 × 2 @ 70 %"})
    after = weeks_of(coach, athlete)[2]
    assert after["main_sets"] == main_sets(coach, athlete, monday) > before["main_sets"]
    assert after["dose_sets"] == before["dose_sets"], "what the season asks for stays"
    assert after["is_own"]


@pytest.mark.parametrize("weekday", range(7))
def test_the_taper_note_counts_the_sheets(coach, athlete, weekday: int) -> None:
    day = date(2027, 3, 29) + timedelta(days=weekday)
    season = coach.ok("POST", f"athletes/{athlete.pk}/competitions", {"name": "Test Open", "day": day.isoformat()})["season"]
    note = next(n for n in season["notes"] if n["id"] == "taper")
    first = day - timedelta(days=12)
    assert note["title"] == "Taper: 12 days."
    mondays = [w["start"] for w in season["weeks"] if w["start"] > (first - timedelta(days=7)).isoformat()]
    inside = [s for m in mondays for s in sheets(coach, athlete, m) if first.isoformat() <= s["day"] < day.isoformat()]
    held = sum(x["total_sets"] if "total_sets" in x else len(x["sets"]) for s in inside for x in s["lines"] if x["is_main"])
    assert f"{held} main sets, " in note["text"]


class TestAContest:
    EVENTS = [
        {"kind": "max_deadlift", "name": "Last pull", "load_kg": 180, "exercise_id": "deadlift"},
        {"kind": "timed_endurance", "name": "Press for a minute", "load_kg": 50, "exercise_id": "push_press", "reps": 12,
         "time_s": 60},
        {"kind": "heavy_power", "name": "Short carry", "load_kg": 80, "exercise_id": "farmer_carry", "distance_m": 20},
        {"kind": "heavy_power", "name": "Throw for height", "exercise_id": "overhead_back_throw"},
        {"kind": "timed_endurance", "name": "Lift and hold", "load_kg": 30, "exercise_id": "front_carry", "time_s": 45,
         "divisions": "Open 40, Masters 30"},
    ]  # fmt: skip

    @pytest.mark.parametrize("last_day", [None, "2027-04-05"])
    def test_each_last_heavy_session_is_a_line_on_its_day(self, coach, athlete, last_day: str | None) -> None:
        body = {"name": "Strength Day", "day": "2027-04-03", "last_day": last_day, "events": self.EVENTS}
        coach.ok("POST", f"athletes/{athlete.pk}/competitions", body)
        contest = coach.get(f"athletes/{athlete.pk}/contest")
        competition = contest["competition_id"]
        coach.ok("PATCH", f"competitions/{competition}", {"division": "Open"})
        contest = coach.get(f"athletes/{athlete.pk}/contest?competition={competition}")
        assert len(contest["exposures"]) == 8
        for e in contest["exposures"]:
            assert not e["is_left_out"]
            here = [s for s in sheets(coach, athlete, e["monday"]) if s["day"] == e["day"]]
            texts = [f"{x['exercise']} {x['text']}" for s in here for x in s["lines"]]
            assert all(text in texts for text in e["lines"]), (e["lines"], texts)
        hold = next(e for e in contest["exposures"] if e["event"] == "Lift and hold")
        assert hold["lines"][0].endswith("1 × 45 s @ 40 kg")

    def test_the_season_marks_them_and_the_page_asks_where_no_exercise_is_chosen(self, coach, athlete) -> None:
        body = {"name": "Strength Day", "day": "2027-04-03", "events": [{"kind": "max_strength", "name": "Mystery"}]}
        season = coach.ok("POST", f"athletes/{athlete.pk}/competitions", body)["season"]
        assert [e["event"] for e in season["exposures"]] == ["Mystery"]
        assert coach.get(f"athletes/{athlete.pk}/contest")["exposures"][0]["lines"] == []

    @pytest.mark.parametrize(("event", "said"), [
        ({"kind": "max_strength", "exercise_id": "no_such"}, "not in the library"),
        ({"kind": "max_strength", "reps": 900}, "900 repetitions"),
        ({"kind": "max_strength", "time_s": 1}, "1 s"),
        ({"kind": "max_strength", "divisions": "Open"}, "no division with its load"),
        ({"kind": "max_strength", "divisions": "Open 100, Open 90"}, "name of its own"),
    ])  # fmt: skip
    def test_an_event_that_cannot_be_is_refused_in_words(self, coach, athlete, season, event: Any, said: str) -> None:
        competition = coach.get(f"athletes/{athlete.pk}/contest")["competition_id"]
        response = coach.send("PATCH", f"competitions/{competition}", {"events": [event]})
        assert response.status_code == 422
        assert (
            said in response.json()["detail"]
            if isinstance(response.json().get("detail"), str)
            else said in response.content.decode()
        )

    def test_two_contests_each_open_their_own_events(self, coach, athlete) -> None:
        for name, day in (("First Day", "2027-03-06"), ("Second Day", "2027-04-24")):
            coach.ok(
                "POST", f"athletes/{athlete.pk}/competitions", {"name": name, "day": day, "events": [{"kind": "max_deadlift"}]}
            )
        first = coach.get(f"athletes/{athlete.pk}/contest")
        second = next(c["id"] for c in first["competitions"] if c["name"] == "Second Day")
        assert first["competition"] == "First Day"
        other = coach.get(f"athletes/{athlete.pk}/contest?competition={second}")
        assert other["competition"] == "Second Day"
        assert all(e["day"] > "2027-04-01" for e in other["exposures"])


class TestTheGuards:
    def light(self, season: Any) -> str:
        return next(w["start"] for w in season["weeks"] if w["is_easy"])

    def test_a_whole_session_added_is_answered_and_taken_out_by_its_fix(self, coach, athlete, season) -> None:
        monday = self.light(season)
        day = (date.fromisoformat(monday) + timedelta(days=5)).isoformat()
        taken = {s["day"] for s in sheets(coach, athlete, monday)}
        assert day not in taken
        key = coach.ok("POST", f"athletes/{athlete.pk}/sessions", {"day": day})["key"]
        coach.ok("POST", f"athletes/{athlete.pk}/sessions/{day}/{key}/edit",
                 {"op": "add", "exercise_id": "back_squat", "text": "6 × 3 @ 75 %"})  # fmt: skip
        here = next(s for s in sheets(coach, athlete, monday) if s["day"] == day)
        flag = next(f for f in here["flags"] if f["check_id"] == "added")
        assert flag["title"] == "A session was added to the deload week."
        assert any(f["check_id"] == "added-work" for f in coach.get(f"athletes/{athlete.pk}/season")["season"]["flags"])
        coach.ok("POST", f"athletes/{athlete.pk}/sessions/{day}/{key}/fix", flag["fix"])
        assert day not in {s["day"] for s in sheets(coach, athlete, monday)}

    def test_a_heavy_line_in_the_last_days_is_answered_and_held_by_its_fix(self, coach, athlete, season) -> None:
        last = season["weeks"][-1]["start"]
        sheet = sheets(coach, athlete, last)[0]
        line = next(x for x in sheet["lines"] if x["is_main"])
        path = f"athletes/{athlete.pk}/sessions/{sheet['day']}/{sheet['key']}"
        coach.ok("POST", f"{path}/edit", {"op": "replace", "line": line["id"], "exercise_id": "back_squat"})
        now = next(s for s in sheets(coach, athlete, last) if s["day"] == sheet["day"])
        squat = next(x for x in now["lines"] if x["exercise"] == "Back squat")
        coach.ok("POST", f"{path}/edit", {"op": "write", "line": squat["id"], "text": "1 × 1 @ 102 %"})
        now = next(s for s in sheets(coach, athlete, last) if s["day"] == sheet["day"])
        flag = next(f for f in now["flags"] if f["check_id"] == "too-heavy")
        assert "days before the competition" in flag["title"]
        coach.ok("POST", f"{path}/fix", flag["fix"])
        now = next(s for s in sheets(coach, athlete, last) if s["day"] == sheet["day"])
        assert not [f for f in now["flags"] if f["check_id"] == "too-heavy"]

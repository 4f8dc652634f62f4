"""What must follow what, over HTTP as the pages ask: the season and its sheets, the contest and the sessions."""

from __future__ import annotations

from datetime import date, timedelta
from itertools import pairwise
from typing import Any

import pytest

from jarvok.app.facts.athletes.models import MarkRecord
from jarvok.app.seasons.season_book import snapshot_of

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

    def test_sets_that_the_taper_cannot_take_are_named_as_what_they_are(self, coach, athlete) -> None:
        events = [{"kind": "bout", "name": "Bouts"}]
        season = coach.ok(
            "POST", f"athletes/{athlete.pk}/competitions", {"name": "Long Day", "day": "2027-04-03", "events": events}
        )["season"]
        note = next(n for n in season["notes"] if n["id"] == "taper")
        first = next(p["start"] for p in season["phases"] if p["key"] == "taper")
        inside = [e for e in coach.get(f"athletes/{athlete.pk}/contest")["exposures"] if e["day"] >= first]
        held = sum(int(line.split(" × ")[0].split()[-1]) for e in inside for line in e["lines"])
        assert held > 0
        assert f"last heavy sessions hold {held} of the sets" in note["text"]

    def test_a_written_session_is_not_changed_and_the_line_is_offered(self, coach, athlete) -> None:
        body = {"name": "Strength Day", "day": "2027-04-03", "events": self.EVENTS[:1]}
        coach.ok("POST", f"athletes/{athlete.pk}/competitions", body)
        e = coach.get(f"athletes/{athlete.pk}/contest")["exposures"][0]

        def here() -> Any:
            return next(s for s in sheets(coach, athlete, e["monday"]) if s["day"] == e["day"])

        def said(sheet: Any) -> list[Any]:
            return [f for f in sheet["flags"] if f["check_id"] == "last-heavy"]

        before = here()
        line = next(x for x in before["lines"] if f"{x['exercise']} {x['text']}" == e["lines"][0])
        assert said(before) == []
        path = f"athletes/{athlete.pk}/sessions/{before['day']}/{before['key']}"
        coach.ok("POST", f"{path}/edit", {"op": "drop", "line": line["id"]})
        without = here()
        assert line["exercise"] not in [x["exercise"] for x in without["lines"]]
        (flag,) = said(without)
        assert flag["fix"]["words"].startswith("Add deadlift 1 × 1")
        coach.ok("POST", f"{path}/fix", {"kind": flag["fix"]["kind"], "values": flag["fix"]["values"]})
        again = here()
        assert said(again) == []
        assert e["lines"][0] in [f"{x['exercise']} {x['text']}" for x in again["lines"]]

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


class TestABlockOfWeeks:
    def test_an_athlete_without_a_competition_has_weeks_and_sessions(self, coach, athlete) -> None:
        assert coach.get(f"athletes/{athlete.pk}/week")["week"] is None
        season = coach.ok("POST", f"athletes/{athlete.pk}/blocks", {"weeks": 5})["season"]
        assert [w["intensity_pct"] for w in season["weeks"]] == [80, 83.5, 87.5, 90, 80]
        assert (season["name"], season["weeks"][0]["start"]) == ("Block 1", "2026-11-23")
        for week in season["weeks"]:
            assert main_sets(coach, athlete, week["start"]) == week["main_sets"] > 0
        assert season["competitions"][0]["block"]["weeks"] == 5

    def test_it_is_repeated_after_itself_and_taken_out_and_brought_back(self, coach, athlete) -> None:
        coach.ok("POST", f"athletes/{athlete.pk}/blocks", {"weeks": 5})
        season = coach.ok("POST", f"athletes/{athlete.pk}/blocks", {"weeks": 5, "has_test_week": True})["season"]
        assert [c["day"] for c in season["competitions"]] == ["2026-12-27", "2027-01-31"]
        assert season["weeks"][-1]["phase_name"] == "Test week"
        second = season["competitions"][1]["id"]
        assert len(coach.ok("DELETE", f"competitions/{second}")["season"]["weeks"]) == 5
        assert len(coach.ok("POST", f"athletes/{athlete.pk}/season/undo")["season"]["weeks"]) == 10

    def test_its_last_week_asks_for_the_max_until_the_round_has_shown_it(self, coach, athlete) -> None:
        def squat(start: str) -> Any:
            return next(x for s in sheets(coach, athlete, start) for x in s["lines"] if x["exercise_id"] == "back_squat")

        MarkRecord.objects.filter(athlete=athlete).update(day=date(2026, 10, 1))
        athlete.training_age_years = 6
        athlete.save()
        coach.ok("POST", f"athletes/{athlete.pk}/blocks", {"weeks": 10})
        coach.ok("PUT", f"athletes/{athlete.pk}/week-arrangement", {"arrangement": "percent_lift", "days": 3})
        assert squat("2026-12-21")["text"] == "1 × 3 @ 75 % then 1 × 3+ @ 80 %"
        assert "left open: nothing in this round has shown the max" in squat("2026-12-21")["reason"]
        before = squat("2026-12-28")["sets"][-1]["load_kg"]
        body = {"kind": "rep_max", "exercise_id": "back_squat", "day": "2026-11-24", "load_kg": 82.5, "reps": 6}
        coach.ok("POST", f"athletes/{athlete.pk}/marks", body)
        assert "+" not in squat("2026-12-21")["text"]
        assert squat("2026-12-28")["sets"][-1]["load_kg"] > before, "the next round starts from what this one gave"

    @pytest.mark.parametrize(("body", "status", "said"), [
        ({"weeks": 1}, 422, "1 week"), ({"weeks": 5, "way": "falling"}, 422, "no such block"),
        ({"weeks": 5, "starts": "2026-11-01"}, 422, "this week"), ({"weeks": 20}, 409, "Test Open"),
    ])  # fmt: skip
    def test_what_cannot_be_is_said(self, coach, athlete, season, body: Any, status: int, said: str) -> None:
        response = coach.send("POST", f"athletes/{athlete.pk}/blocks", body)
        assert (response.status_code, said in response.content.decode()) == (status, True)

    def test_a_block_for_the_squad_and_no_rank_for_it(self, coach, athlete, squad) -> None:
        other = type(athlete).objects.create(squad=squad, name="Bea Test", training_age_years=2)
        season = coach.ok("POST", f"athletes/{athlete.pk}/blocks", {"weeks": 4, "scope": "squad"})["season"]
        assert coach.get(f"athletes/{other.pk}/season")["season"]["name"] == "Block 1"
        block = season["competitions"][0]["id"]
        assert coach.send("PATCH", f"competitions/{block}", {"rank": "main"}).status_code == 409


class TestAWeekByHand:
    def test_its_sheets_and_its_bar_follow_and_go_back(self, coach, athlete, season) -> None:
        monday, path = season["weeks"][2]["start"], f"athletes/{athlete.pk}/season/week"
        before = season["weeks"][2]
        week = coach.ok("PUT", path, {"monday": monday, "volume_pct": 60, "top_pct": 70})["season"]["weeks"][2]
        assert (week["volume"], week["intensity_pct"], week["is_by_hand"]) == (0.6, 70, True)
        assert main_sets(coach, athlete, monday) == week["main_sets"] < before["main_sets"]
        texts = [x["text"] for s in sheets(coach, athlete, monday) for x in s["lines"] if x["is_main"]]
        assert any("70 %" in t for t in texts)
        week = coach.ok("PUT", path, {"monday": monday})["season"]["weeks"][2]
        assert (week["volume"], week["is_by_hand"]) == (before["volume"], False)
        undone = coach.ok("POST", f"athletes/{athlete.pk}/season/undo")["season"]["weeks"][2]
        assert undone["volume"] == 0.6

    @pytest.mark.parametrize("body", [{"monday": "2026-12-08", "volume_pct": 60}, {"monday": "2026-12-07", "volume_pct": 151},
                                      {"monday": "2026-12-07", "top_pct": 39}])  # fmt: skip
    def test_what_cannot_be_is_refused(self, coach, athlete, season, body: Any) -> None:
        assert coach.send("PUT", f"athletes/{athlete.pk}/season/week", body).status_code == 422


class TestTheSeasonModelAndTheWeek:
    def names(self, coach: Any, athlete: Any) -> tuple[str, set[str]]:
        monday = "2026-12-07"
        week = coach.get(f"athletes/{athlete.pk}/week?start={monday}")["week"]
        return week["arrangement_name"], {x["exercise"] for s in sheets(coach, athlete, monday) for x in s["lines"]}

    @pytest.mark.parametrize(("model", "name"), [
        ("linear", "One percentage-based main lift a day"), ("concurrent", "Concurrent, heavy days apart"),
        ("high_low", "High and low days around speed"),
        ("daily_doses", "A small dose a day"),
    ])  # fmt: skip
    def test_choosing_a_season_model_changes_the_weeks(self, coach, athlete, season, model: str, name: str) -> None:
        before, lifts = self.names(coach, athlete)
        assert before == "Two days around practice"
        body = {"arrangement": model, "loading_weeks": None, "taper": None, "scope": "athlete"}
        after = coach.ok("PUT", f"athletes/{athlete.pk}/season/style", body)["season"]["week_model"]
        assert (after["name"], after["is_proposed"], after["is_own"]) == (name, True, False)
        now, others = self.names(coach, athlete)
        assert now == name
        assert others != lifts

    def test_another_choice_is_kept_and_said(self, coach, athlete, season) -> None:
        coach.ok("PUT", f"athletes/{athlete.pk}/week-arrangement", {"arrangement": "team_strength", "days": 3})
        model = coach.get(f"athletes/{athlete.pk}/season")["season"]["week_model"]
        assert (model["name"], model["days"], model["is_proposed"]) == ("Team strength week", 3, False)
        assert model["proposed_name"] == "Two days around practice"


class TestUndoAndRedo:
    def state(self, athlete: Any) -> Any:
        return snapshot_of(athlete)

    def change(self, coach: Any, athlete: Any, i: int) -> None:
        season = coach.get(f"athletes/{athlete.pk}/season")["season"]
        weeks = [w["start"] for w in season["weeks"] if w["can_set"]]
        path = f"athletes/{athlete.pk}/season"
        match i % 5:
            case 0:
                coach.ok("PUT", f"{path}/week", {"monday": weeks[i % len(weeks)], "volume_pct": 50 + i})
            case 1:
                coach.ok("PUT", f"{path}/easy", {"monday": weeks[i % len(weeks)], "easy": i > 15})
            case 2:
                taper = {"days": 8 + i % 7, "shape": "step", "depth_pct": 50, "frequency_pct": 100}
                body = {"arrangement": "linear" if i % 2 else "block", "loading_weeks": None, "taper": taper, "scope": "athlete"}
                coach.ok("PUT", f"{path}/style", body)
            case 3:
                day = (date(2027, 1, 10) + timedelta(days=i)).isoformat()
                coach.ok(
                    "POST", f"athletes/{athlete.pk}/competitions", {"name": f"Small {i}", "day": day, "rank": "train_through"}
                )
            case _:
                c = next(c for c in season["competitions"] if c["rank"] == "main")
                day = (date(2027, 4, 1) + timedelta(days=i)).isoformat()
                coach.ok("PATCH", f"competitions/{c['id']}", {"day": day})

    def test_forty_steps_back_and_forward_are_exact(self, coach, athlete, season) -> None:
        states = [self.state(athlete)]
        for i in range(40):
            self.change(coach, athlete, i)
            states.append(self.state(athlete))
        assert [i for i, (a, b) in enumerate(pairwise(states)) if a == b] == []
        for state in reversed(states[:-1]):
            coach.ok("POST", f"athletes/{athlete.pk}/season/undo")
            assert self.state(athlete) == state
        for state in states[1:]:
            coach.ok("POST", f"athletes/{athlete.pk}/season/redo")
            assert self.state(athlete) == state
        assert coach.send("POST", f"athletes/{athlete.pk}/season/redo").status_code == 409

    def test_a_new_change_ends_what_could_be_redone(self, coach, athlete, season) -> None:
        self.change(coach, athlete, 0)
        coach.ok("POST", f"athletes/{athlete.pk}/season/undo")
        assert coach.get(f"athletes/{athlete.pk}/season")["redo"]["words"]
        self.change(coach, athlete, 2)
        assert coach.get(f"athletes/{athlete.pk}/season")["redo"] is None

    def test_a_squads_change_is_one_step_or_this_athletes(self, coach, athlete, squad, season) -> None:
        people = [athlete, *(type(athlete).objects.create(squad=squad, name=f"No {i}") for i in range(3))]
        before = [self.state(p) for p in people]
        body = {"name": "Squad Cup", "day": "2027-05-22", "rank": "main", "events": [], "scope": "squad"}
        answer = coach.ok("POST", f"athletes/{athlete.pk}/competitions", body)
        assert (answer["undo"]["people"], answer["undo"]["words"]) == (4, "Squad Cup on 22 May added")
        after = [self.state(p) for p in people]
        coach.ok("POST", f"athletes/{people[2].pk}/season/undo", {"scope": "all"})
        assert [self.state(p) for p in people] == before
        assert coach.get(f"athletes/{people[1].pk}/season")["redo"]["people"] == 4
        coach.ok("POST", f"athletes/{people[1].pk}/season/redo", {"scope": "all"})
        assert [self.state(p) for p in people] == after
        coach.ok("POST", f"athletes/{people[3].pk}/season/undo", {"scope": "athlete"})
        assert [self.state(p) for p in people] == [*after[:3], before[3]]

    def test_with_later_changes_on_top_it_is_refused_with_their_words(self, coach, athlete, squad, season) -> None:
        other = type(athlete).objects.create(squad=squad, name="Bea Test")
        body = {"name": "Squad Cup", "day": "2027-05-22", "rank": "main", "events": [], "scope": "squad"}
        coach.ok("POST", f"athletes/{athlete.pk}/competitions", body)
        coach.ok("POST", f"athletes/{other.pk}/competitions", {"name": "Own Day", "day": "2027-03-20", "rank": "secondary"})
        refused = coach.send("POST", f"athletes/{athlete.pk}/season/undo", {"scope": "all"})
        assert refused.status_code == 409
        assert "Own Day" in refused.json()["title"]
        assert "Squad Cup" in [c["name"] for c in coach.get(f"athletes/{other.pk}/season")["season"]["competitions"]]

    def test_taking_out_the_only_competition_leaves_undo(self, coach, athlete, season) -> None:
        only = season["competitions"][0]["id"]
        answer = coach.ok("DELETE", f"competitions/{only}")
        assert (answer["season"], answer["undo"]["words"]) == (None, "Test Open taken out")
        assert coach.ok("POST", f"athletes/{athlete.pk}/season/undo")["season"]["name"] == "Test Open"


class TestTheSquadsSeason:
    def people(self, athlete: Any, squad: Any) -> list[Any]:
        return [athlete, *(type(athlete).objects.create(squad=squad, name=f"No {i}", group="Light") for i in range(3))]

    def page(self, coach: Any, squad: Any) -> Any:
        return coach.get(f"squads/{squad.pk}/season")

    def test_a_competition_is_given_to_all_moved_and_taken_out_in_one_step_each(self, coach, athlete, squad, season) -> None:
        people = self.people(athlete, squad)
        one = self.page(coach, squad)["competitions"][0]
        assert (one["name"], one["holders"], len(one["missing"])) == ("Test Open", 1, 3)
        after = coach.ok("POST", f"competitions/{one['id']}/share", {"scope": "squad"})
        assert (after["competitions"][0]["holders"], after["competitions"][0]["missing"]) == (4, [])
        assert after["undo"]["step"]["people"] == 3
        coach.ok("PATCH", f"competitions/{one['id']}", {"day": "2027-04-10", "scope": "squad"})
        now = self.page(coach, squad)
        assert (now["competitions"][0]["day"], now["competitions"][0]["departures"]) == ("2027-04-10", [])
        coach.ok("POST", f"athletes/{now['undo']['athlete_id']}/season/undo", {"scope": "all"})
        assert self.page(coach, squad)["competitions"][0]["day"] == "2027-04-03"
        coach.ok("DELETE", f"competitions/{one['id']}?scope=squad")
        gone = self.page(coach, squad)
        assert (gone["competitions"], len(gone["without"])) == ([], 4)
        coach.ok("POST", f"athletes/{gone['undo']['athlete_id']}/season/undo", {"scope": "all"})
        assert self.page(coach, squad)["competitions"][0]["holders"] == 4
        assert coach.send("POST", f"competitions/{one['id']}/share", {"scope": "squad"}).status_code == 409
        assert people

    def test_who_departs_is_marked_and_variants_stand_apart(self, coach, athlete, squad, season) -> None:
        people = self.people(athlete, squad)
        one = self.page(coach, squad)["competitions"][0]["id"]
        coach.ok("POST", f"competitions/{one}/share", {"scope": "squad"})
        own = coach.get(f"athletes/{people[2].pk}/season")["season"]["competitions"][0]["id"]
        coach.ok("PATCH", f"competitions/{own}", {"day": "2027-04-17"})
        body = {"arrangement": "linear", "loading_weeks": None, "taper": None, "scope": "athlete"}
        coach.ok("PUT", f"athletes/{people[3].pk}/season/style", body)
        page = self.page(coach, squad)
        assert page["competitions"][0]["departures"] == ["No 1: 17 Apr, main"]
        assert [len(v["names"]) for v in page["variants"]] == [2, 1, 1]
        assert {v["season_model"] for v in page["variants"]} == {"Force–velocity progression", "Linear"}

    def test_a_squad_without_a_season_says_so(self, coach, athlete, squad) -> None:
        page = self.page(coach, squad)
        assert (page["competitions"], page["variants"], page["without"]) == ([], [], ["Ada Test"])
        assert page["undo"] is None


class TestAnAthleteMadeFiveMinutesAgo:
    def test_is_written_down_planned_and_has_a_sheet(self, coach, db) -> None:
        new = {"name": "Cy New", "squad": "Cove throwers", "sport": "strength", "training_age_years": 4}
        added = coach.ok("POST", "athletes", new)
        season = coach.ok("POST", f"athletes/{added['id']}/blocks", {"weeks": 5})["season"]
        assert len(season["weeks"]) == 5
        first = season["weeks"][1]["start"]
        week = coach.get(f"athletes/{added['id']}/week?start={first}")["week"]
        assert [d["sheet"] for d in week["days"] if d["sheet"]]
        assert week["sums"]["hard_sets"] == season["weeks"][1]["main_sets"]
        again = coach.send("POST", "athletes", new)
        assert (again.status_code, "already" in again.json()["title"]) == (409, True)
        second = coach.ok("POST", "athletes", {"name": "Di New", "squad": "cove throwers"})
        assert second["squad_id"] == added["squad_id"]

    @pytest.mark.parametrize(("body", "said"), [
        ({"name": " ", "squad": "Cove"}, "needs a name"), ({"name": "Cy", "squad": ""}, "in a squad"),
        ({"name": "Cy", "squad": "Cove", "birth_date": "2026-01-01"}, "Born"),
        ({"name": "Cy", "squad": "Cove", "training_age_years": 70}, "Years of lifting"),
    ])  # fmt: skip
    def test_what_cannot_be_is_said_and_nothing_is_made(self, coach, db, body: Any, said: str) -> None:
        response = coach.send("POST", "athletes", body)
        assert (response.status_code, said in response.content.decode()) == (422, True)
        assert coach.get("athletes")["squads"] == []


class TestOddCases:
    def test_sixty_people_are_read_in_a_bounded_number_of_queries(
        self, coach, athlete, squad, season, django_assert_max_num_queries
    ) -> None:
        for i in range(60):
            type(athlete).objects.create(squad=squad, name=f"No {i:02}")
        one = coach.get(f"squads/{squad.pk}/season")["competitions"][0]["id"]
        coach.ok("POST", f"competitions/{one}/share", {"scope": "squad"})
        with django_assert_max_num_queries(30):
            page = coach.get(f"squads/{squad.pk}/season")
        assert page["competitions"][0]["holders"] == 61
        assert page["undo"]["step"]["people"] == 60

    def test_a_single_change_seen_from_the_squad_says_whose(self, coach, athlete, squad, season) -> None:
        assert coach.get(f"squads/{squad.pk}/season")["undo"]["step"]["words"].startswith("Ada Test: ")

    def test_days_before_a_plan_began_are_not_missed(self, coach, athlete) -> None:
        coach.ok("PUT", f"athletes/{athlete.pk}/week-arrangement", {"arrangement": "daily_dose", "days": 6})
        coach.ok("POST", f"athletes/{athlete.pk}/blocks", {"weeks": 5})  # on a Tuesday
        assert coach.get(f"athletes/{athlete.pk}/week?start=2026-11-23")["week"]["missed"] == []

    def test_three_missed_sessions_are_not_offered_to_one_day(self, coach, athlete, settings) -> None:
        settings.TODAY = "2026-11-23"
        coach.ok("PUT", f"athletes/{athlete.pk}/week-arrangement", {"arrangement": "daily_dose", "days": 6})
        coach.ok("POST", f"athletes/{athlete.pk}/blocks", {"weeks": 5})
        settings.TODAY = "2026-11-27"
        missed = coach.get(f"athletes/{athlete.pk}/week?start=2026-11-23")["week"]["missed"]
        days = [o["day"] for m in missed for o in m["options"] if o["day"]]
        assert len(missed) >= 3
        assert len(days) == len(set(days))
        assert all([o["is_proposed"] for o in m["options"]].count(True) == 1 for m in missed)

    def test_a_block_that_begins_later_is_not_begun_today(self, coach, athlete) -> None:
        season = coach.ok("POST", f"athletes/{athlete.pk}/blocks", {"weeks": 5, "starts": "2026-12-16"})["season"]
        assert [w["phase_name"] for w in season["weeks"]].count("Rising block") == 5
        assert season["weeks"][3]["start"] == "2026-12-14"
        assert not sheets(coach, athlete, "2026-11-30")
        crossing = coach.send("POST", f"athletes/{athlete.pk}/blocks", {"weeks": 3, "starts": "2026-11-30"})
        assert crossing.status_code == 409
        assert coach.send("POST", f"athletes/{athlete.pk}/blocks", {"weeks": 2, "starts": "2026-11-30"}).status_code == 200

    def test_a_block_is_no_competition_in_an_exported_calendar_nor_near_its_end(self, coach, athlete) -> None:
        coach.ok("POST", f"athletes/{athlete.pk}/blocks", {"weeks": 2})
        text = coach.client.get(f"/api/export/athletes/{athlete.pk}/calendar.ics").content.decode()
        assert "VCALENDAR" in text
        assert "Block 1" not in text
        last = sheets(coach, athlete, "2026-11-30")[-1]
        line = next(x for x in last["lines"] if x["is_main"])
        path = f"athletes/{athlete.pk}/sessions/{last['day']}/{last['key']}"
        coach.ok("POST", f"{path}/edit", {"op": "write", "line": line["id"], "text": "2 × 2 @ 79 %"})
        again = next(s for s in sheets(coach, athlete, "2026-11-30") if s["day"] == last["day"])
        assert not [f for f in again["flags"] if f["check_id"] == "too-heavy"]

    def test_an_own_session_and_a_last_heavy_session_do_not_share_a_key(self, coach, athlete, season) -> None:
        competition = season["competitions"][0]["id"]
        events = [{"kind": "timed_endurance", "exercise_id": "push_press", "contest_day": d} for d in (0, 1, 2)]
        own = coach.ok("POST", f"athletes/{athlete.pk}/sessions", {"day": "2027-03-22"})["key"]
        coach.ok("PATCH", f"competitions/{competition}", {"events": events, "last_day": "2027-04-05"})
        for e in coach.get(f"athletes/{athlete.pk}/contest")["exposures"]:
            here = [s for s in sheets(coach, athlete, e["monday"]) if s["day"] == e["day"] and s["key"] != own]
            assert [x for s in here for x in s["lines"] if x["exercise"] == "Push press"], e

    def test_a_standing_that_is_none_is_refused(self, coach, athlete, season) -> None:
        competition = season["competitions"][0]["id"]
        body = {"events": [{"kind": "max_strength", "standing": "best"}]}
        assert coach.send("PATCH", f"competitions/{competition}", body).status_code == 422

    @pytest.mark.parametrize("body", [{"weeks": None}, {"weeks": 2.5}, {"weeks": "five"}])
    def test_an_odd_number_of_weeks_is_refused_in_words(self, coach, athlete, body: Any) -> None:
        response = coach.send("POST", f"athletes/{athlete.pk}/blocks", body)
        assert response.status_code == 422
        assert response.json()["title"]

"""Whole sessions put together, changed, copied and taken back; checks answered; the library; the squad on one page."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from typing import Any

import pytest
from icalendar import Calendar

from jarvok.app.facts.athletes.models import Athlete, Fault, Restriction
from jarvok.app.facts.centre.models import KitRecord
from jarvok.app.facts.seasons.models import Entry
from jarvok.app.facts.training.models import OwnExercise, WrittenSession
from jarvok.app.training.own_library import own_exercises
from jarvok.core.library.exercises import exercise, shipped, with_own

TODAY = date(2026, 11, 24)
MONDAY = date(2026, 11, 30)


def week(coach, athlete: Athlete, monday: date = MONDAY) -> Any:
    return coach.get(f"athletes/{athlete.pk}/week?start={monday}")["week"]


def sessions(coach, athlete: Athlete, monday: date = MONDAY) -> dict[str, Any]:
    return {d["day"]: d["sheet"] for d in week(coach, athlete, monday)["days"] if d["sheet"]}


@pytest.fixture
def first(coach, athlete, season) -> str:
    """The path of the first session of next week."""
    day, sheet = next(iter(sessions(coach, athlete).items()))
    return f"athletes/{athlete.pk}/sessions/{day}/{sheet['key']}"


def mate_of(athlete: Athlete, name: str = "Mate Example", **more: Any) -> Athlete:
    mate = Athlete.objects.create(squad=athlete.squad, name=name, training_age_years=4, **more)
    goal = Entry.objects.get(athlete=athlete)
    Entry.objects.create(athlete=mate, competition=goal.competition, own=goal.own, planned_from=goal.planned_from)
    return mate


class TestASessionOfOnesOwn:
    def free_day(self, coach, athlete) -> str:
        return next(d["day"] for d in week(coach, athlete)["days"] if not d["sheet"])

    def test_it_is_built_from_nothing_line_by_line(self, coach, athlete, season) -> None:
        day = self.free_day(coach, athlete)
        sheet = coach.ok("POST", f"athletes/{athlete.pk}/sessions", {"day": day, "theme": "Contrast"})
        assert (sheet["theme"], sheet["is_own"], sheet["lines"]) == ("Contrast", True, [])
        path = f"athletes/{athlete.pk}/sessions/{day}/{sheet['key']}"
        for exercise_id, text in (
            ("back_squat", "3 × 3 @ 80 %"),
            ("countermovement_jump", ""),
            ("jump_squat", "3x3 @ 30%"),
            ("band_assisted_jump", "3x3"),
        ):
            sheet = coach.ok("POST", f"{path}/edit", {"op": "add", "exercise_id": exercise_id, "text": text, "block": "power"})
        assert [x["slot"] for x in sheet["lines"]] == ["A1", "A2", "A3", "A4"]
        assert sheet["lines"][0]["sets"][0]["load_kg"] is not None or sheet["lines"][0]["sets"][0]["method"]
        sheet = coach.ok(
            "POST", f"{path}/edit", {"op": "regroup", "block": "A · power", "grouping": "contrast", "rest_between_s": 180}
        )
        assert sheet["blocks"][0]["words"] == "contrast, 3:00 between rounds"
        clocked = coach.ok(
            "POST", f"{path}/edit", {"op": "add", "exercise_id": "kettlebell_swing", "text": "8x5", "block": "to the clock"}
        )
        assert clocked["lines"][-1]["slot"] == "B1"
        clocked = coach.ok("POST", f"{path}/edit", {"op": "regroup", "block": "to the clock", "grouping": "every", "every_s": 90})
        assert clocked["lines"][-1]["text"].endswith("every 1:30")
        assert clocked["blocks"][1]["minutes"] == pytest.approx(12, abs=0.1)

    def test_the_weakest_lift_of_a_complex_sets_the_load_for_all(self, coach, athlete, first) -> None:
        for exercise_id in ("back_squat", "prone_row"):
            body = {"op": "add", "exercise_id": exercise_id, "text": "3 × 5 @ 70 %", "block": "complex"}
            apart = coach.ok("POST", f"{first}/edit", body)
        block = apart["lines"][-1]["block"]
        loads = [x["sets"][0]["load_kg"] for x in apart["lines"] if x["block"] == block]
        assert loads[0] > loads[1]
        together = coach.ok("POST", f"{first}/edit", {"op": "regroup", "block": block, "grouping": "complex"})
        rows = [x for x in together["lines"] if x["block"] == block]
        assert {s["load_kg"] for x in rows for s in x["sets"]} == {loads[1]}
        assert rows[0]["sets"][0]["share_of_max"] == pytest.approx(0.7 * loads[1] / loads[0], abs=0.02)
        assert any("sets the load for all" in n["text"] and n["text"].startswith("Bench pull") for n in together["notes"])

    def test_a_day_takes_a_second_session_and_no_third(self, coach, athlete, first) -> None:
        day = first.split("/")[3]
        second = coach.ok("POST", f"athletes/{athlete.pk}/sessions", {"day": day, "theme": "Evening"})
        found = next(d for d in coach.get(f"athletes/{athlete.pk}/week?start={day}")["week"]["days"] if d["day"] == day)
        assert found["second"]["key"] == second["key"]
        answer = coach.send("POST", f"athletes/{athlete.pk}/sessions", {"day": day, "theme": "x"})
        assert answer.status_code == 409
        assert "holds two sessions already" in answer.json()["title"]

    def test_two_sessions_of_a_day_are_held_six_hours_apart_and_copied_both(self, coach, athlete, first) -> None:
        day, whole = first.split("/")[3], f"athletes/{athlete.pk}/week?start={first.split('/')[3]}"
        key = coach.ok("POST", f"athletes/{athlete.pk}/sessions", {"day": day, "theme": "Engine"})["key"]
        second = f"athletes/{athlete.pk}/sessions/{day}/{key}/edit"
        coach.ok("POST", second, {"op": "add", "exercise_id": "bike_intervals", "text": "6 × 60 s", "block": "engine"})

        def said() -> str:
            return " ".join(f["reason"] for f in coach.get(whole)["week"]["flags"] if f["check_id"] == "two-a-day")

        assert "Say when each begins" in said()
        coach.ok("POST", f"{first}/edit", {"op": "starts", "text": "7"})
        assert coach.ok("POST", second, {"op": "starts", "text": "10:30"})["starts"] == "10:30"
        assert "hours apart" in said()
        coach.ok("POST", second, {"op": "starts", "text": "17.00"})
        assert said() == ""
        held = next(d for d in coach.get(whole)["week"]["days"] if d["day"] == day)
        assert [held["sheet"]["starts"], held["second"]["starts"]] == ["07:00", "17:00"]
        assert coach.send("POST", second, {"op": "starts", "text": "25:00"}).status_code == 422
        monday = coach.get(whole)["week"]["start"]
        later = str(date.fromisoformat(monday) + timedelta(weeks=2))
        coach.ok("POST", f"athletes/{athlete.pk}/week/{monday}/copy", {"day": later})
        copied = coach.get(f"athletes/{athlete.pk}/week?start={later}")["week"]["days"][date.fromisoformat(day).weekday()]
        assert copied["second"]["lines"][0]["exercise_id"] == "bike_intervals"

    def test_the_sessions_ahead_go_out_with_their_hour_and_are_never_taken_in(self, coach, athlete, first) -> None:
        coach.ok("POST", f"{first}/edit", {"op": "starts", "text": "6:30"})
        text = coach.client.get(f"/api/export/athletes/{athlete.pk}/calendar.ics").content.decode()
        events = [e for e in Calendar.from_ical(text).walk("VEVENT") if str(e["UID"]).startswith("session-")]
        planned = []
        for n in range(5):
            monday = date(2026, 11, 23) + timedelta(weeks=n)
            week = coach.get(f"athletes/{athlete.pk}/week?start={monday}")["week"]
            planned += [d["day"] for d in week["days"] for s in (d["sheet"], d["second"]) if s]
        until = str(date(2026, 11, 24) + timedelta(weeks=4))
        assert sorted(str(e["DTSTART"].dt)[:10] for e in events) == [d for d in sorted(planned) if "2026-11-24" <= d < until]
        (mine,) = [e for e in events if isinstance(e["DTSTART"].dt, datetime)]
        assert (str(mine["DTSTART"].dt)[:16], mine["DTEND"].dt - mine["DTSTART"].dt) == (
            f"{first.split('/')[3]} 06:30", timedelta(hours=1)
        )  # fmt: skip
        rows = coach.ok("POST", f"athletes/{athlete.pk}/calendar/preview", {"text": text})["rows"]
        assert "session" not in {r["kind"] for r in rows}
        assert all(r["status"] == "same" for r in rows)

    @pytest.mark.parametrize("day", ["2029-01-01", "2026-01-05"])
    def test_a_day_outside_the_season_is_refused(self, coach, athlete, season, day: str) -> None:
        assert coach.send("POST", f"athletes/{athlete.pk}/sessions", {"day": day}).json()["where"] == "day"

    @pytest.mark.parametrize(("body", "where"), [
        ({"op": "add", "exercise_id": "moon_walk"}, "exercise"),
        ({"op": "write", "line": "A1", "text": "lots"}, "0"),
        ({"op": "drop", "line": "Q9"}, "slot"),
        ({"op": "regroup", "block": "A · main pair", "grouping": "contrast"}, "grouping"),
        ({"op": "regroup", "block": "A · main pair", "grouping": "sideways"}, "grouping"),
        ({"op": "regroup", "block": "no such", "grouping": "pair"}, "block"),
        ({"op": "regroup", "block": "A · main pair", "grouping": "metronome"}, "bpm"),
        ({"op": "move", "line": "A1", "to": "sideways"}, "to"),
    ])  # fmt: skip
    def test_what_cannot_be_is_refused_with_its_place(self, coach, first, body: dict, where: str) -> None:
        answer = coach.send("POST", f"{first}/edit", body)
        assert answer.status_code == 422
        assert answer.json()["where"] == where
        assert not WrittenSession.objects.exists(), "nothing is kept of a refused change"

    def test_changing_a_planned_session_makes_it_the_coachs_own_and_undo_gives_it_back(self, coach, athlete, first) -> None:
        planned = coach.get(first)
        edited = coach.ok("POST", f"{first}/edit", {"op": "drop", "line": "A2"})
        assert edited["is_own"]
        assert len(edited["lines"]) == len(planned["lines"]) - 1
        assert edited["can_undo"] == "A2 taken out"
        assert coach.ok("POST", f"athletes/{athlete.pk}/plan/undo")["words"] == "A2 taken out"
        again = coach.get(first)
        assert again["lines"] == planned["lines"]
        assert not again["is_own"]

    def test_twenty_undo_steps_restore_the_week(self, coach, athlete, first) -> None:
        before = week(coach, athlete)["days"]
        for i in range(20):
            coach.ok("POST", f"{first}/edit", {"op": "write", "line": "A1", "text": f"{1 + i % 4} × {1 + i % 5} @ {60 + i} %"})
        for _ in range(20):
            coach.ok("POST", f"athletes/{athlete.pk}/plan/undo")
        assert week(coach, athlete)["days"] == before
        assert coach.send("POST", f"athletes/{athlete.pk}/plan/undo").status_code == 409

    def test_another_exercise_takes_the_lines_form(self, coach, first) -> None:
        sheet = coach.ok("POST", f"{first}/edit", {"op": "replace", "line": "A1", "exercise_id": "split_squat"})
        line = next(x for x in sheet["lines"] if x["slot"] == "A1")
        assert line["exercise"] == "Rear-foot-elevated split squat"
        assert "/side" in line["text"]
        assert line["reason"] == "in place of trap-bar deadlift"

    def test_a_word_beside_a_line_is_kept_printed_and_taken_away(self, coach, first) -> None:
        body = {"op": "add", "exercise_id": "flying_sprint", "text": "3 × 30 m, rest 3:00", "block": "runs"}
        slot = coach.ok("POST", f"{first}/edit", body)["lines"][-1]["slot"]
        noted = coach.ok("POST", f"{first}/edit", {"op": "note", "line": slot, "text": "track, spikes"})
        assert noted["lines"][-1]["note"] == "track, spikes"
        assert any("95–100 %" in n["text"] and "3:00 of rest for 30 m" in n["text"] for n in noted["notes"])
        assert coach.get(f"{first}/squad")["lines"][-1]["note"] == "track, spikes"
        assert coach.send("POST", f"{first}/edit", {"op": "note", "line": slot, "text": "x" * 61}).json()["where"] == "text"
        assert coach.ok("POST", f"{first}/edit", {"op": "note", "line": slot, "text": ""})["lines"][-1]["note"] == ""

    def test_a_line_is_changed_by_steps_and_stays_with_the_plan(self, coach, athlete, first) -> None:
        before = next(x for x in coach.get(first)["lines"] if x["slot"] == "A1")
        after = coach.ok("POST", f"{first}/lines/A1/step", {"what": "load", "by": 1})
        line = next(x for x in after["lines"] if x["slot"] == "A1")
        assert line["edited"]
        assert not after["is_own"], "a line written otherwise leaves the session to the plan"
        assert line["sets"][0]["load_kg"] > before["sets"][0]["load_kg"]
        assert coach.send("POST", f"{first}/lines/A1/step", {"what": "colour", "by": 1}).json()["where"] == "what"
        coach.ok("POST", f"athletes/{athlete.pk}/plan/undo")
        assert not any(x["edited"] for x in coach.get(first)["lines"])

    def test_a_line_of_an_own_session_answers_as_it_is_written(self, coach, first) -> None:
        coach.ok("POST", f"{first}/edit", {"op": "rename", "text": "Mine"})
        written = coach.ok("PUT", f"{first}/lines/A1", {"text": "2 × 2 @ 70 %"})
        assert next(x["text"] for x in written["lines"] if x["slot"] == "A1") == "2 × 2 @ 70 %"
        stepped = coach.ok("POST", f"{first}/lines/A1/step", {"what": "sets", "by": 1})
        assert next(x["text"] for x in stepped["lines"] if x["slot"] == "A1") == "3 × 2 @ 70 %"

    def test_lines_go_up_down_first_and_last(self, coach, first) -> None:
        names = [x["exercise"] for x in coach.get(first)["lines"]]
        prepares = sum(x["slot"].startswith("P") for x in coach.get(first)["lines"])
        last = coach.get(first)["lines"][-1]["slot"]
        moved = coach.ok("POST", f"{first}/edit", {"op": "move", "line": last, "to": "first"})
        order = [x["exercise"] for x in moved["lines"]]
        assert order.index(names[-1]) == prepares, "after what prepares"
        assert sorted(order) == sorted(names)
        back = coach.ok("POST", f"{first}/edit", {"op": "move", "line": "A1", "to": "last"})
        assert [x["exercise"] for x in back["lines"]] == names

    def test_a_session_of_ones_own_runs_on_the_floor(self, coach, athlete, season) -> None:
        day = next(d["day"] for d in week(coach, athlete, TODAY)["days"] if not d["sheet"] and not d["is_past"])
        key = coach.ok("POST", f"athletes/{athlete.pk}/sessions", {"day": day, "theme": "Own"})["key"]
        path = f"athletes/{athlete.pk}/sessions/{day}/{key}"
        body = {"op": "add", "exercise_id": "trap_bar_deadlift", "text": "3x3 @ 80%", "block": "strong", "is_main": True}
        coach.ok("POST", f"{path}/edit", body)
        floor = coach.ok("POST", "floor/sessions", {"athlete_id": athlete.pk, "day": day, "key": key}, key="own-session-1")
        assert [x["exercise"] for x in floor["lines"]] == ["Trap-bar deadlift"]
        assert floor["lines"][0]["sets"]

    def test_a_started_session_stays(self, coach, athlete, season, floor) -> None:
        path = f"athletes/{athlete.pk}/sessions/{floor['day']}/{floor['key']}"
        assert coach.send("POST", f"{path}/edit", {"op": "drop", "line": "A1"}).status_code == 409
        assert coach.send("POST", f"{path}/take-out").status_code == 409


class TestDaysAndCopies:
    def test_a_session_is_taken_out_and_comes_back_as_planned(self, coach, athlete, first) -> None:
        day, key = first.split("/")[3:5]
        coach.ok("POST", f"{first}/take-out")
        assert day not in sessions(coach, athlete)
        answer = coach.ok("POST", f"{first}/as-planned")
        assert any(d["sheet"] and d["sheet"]["key"] == key for d in answer["week"]["days"])

    def test_an_exercise_moves_to_another_day(self, coach, athlete, first) -> None:
        free = next(d["day"] for d in week(coach, athlete)["days"] if not d["sheet"])
        name = next(x["exercise"] for x in coach.get(first)["lines"] if x["slot"] == "C1")
        coach.ok("POST", f"{first}/lines/C1/move", {"day": free})
        found = sessions(coach, athlete)
        assert [x["exercise"] for x in found[free]["lines"]] == [name]
        assert name not in [x["exercise"] for x in found[first.split("/")[3]]["lines"]]
        coach.ok("POST", f"athletes/{athlete.pk}/plan/undo")
        assert free not in sessions(coach, athlete), "one step takes back both sessions"

    def test_it_joins_the_session_that_is_there(self, coach, athlete, first) -> None:
        days = list(sessions(coach, athlete))
        count = len(sessions(coach, athlete)[days[1]]["lines"])
        coach.ok("POST", f"{first}/lines/A1/move", {"day": days[1]})
        assert len(sessions(coach, athlete)[days[1]]["lines"]) == count + 1
        away = coach.send("POST", f"{first}/lines/A1/move", {"day": "2026-12-09"})
        assert away.json()["where"] == "to"

    def test_a_session_is_copied_to_the_squad_with_everybodys_own_loads(self, coach, athlete, first) -> None:
        mate = mate_of(athlete)
        stranger = Athlete.objects.create(squad=athlete.squad, name="No Season")
        day = "2026-12-02"
        answer = coach.ok("POST", f"{first}/copy", {"day": day, "scope": "squad"})
        assert set(answer["done"]) == {athlete.name, mate.name}
        assert answer["left"] == [f"{stranger.name}: 2 December lies outside the season"]
        theirs = sessions(coach, mate)[day]
        assert theirs["is_own"]
        assert [x["exercise"] for x in theirs["lines"]] == [x["exercise"] for x in coach.get(first)["lines"]]
        coach.ok("POST", f"athletes/{mate.pk}/plan/undo")
        assert day not in sessions(coach, athlete), "taken back for everybody"

    def test_a_week_is_copied_in_place_of_another(self, coach, athlete, first) -> None:
        coach.ok("POST", f"{first}/edit", {"op": "rename", "text": "Mine"})
        to = MONDAY + timedelta(days=7)
        answer = coach.ok("POST", f"athletes/{athlete.pk}/week/{MONDAY}/copy", {"day": str(to)})
        assert answer["done"] == [athlete.name]
        here, there = sessions(coach, athlete), sessions(coach, athlete, to)
        assert [s["theme"] for s in there.values()] == [s["theme"] for s in here.values()]
        assert [date.fromisoformat(d).weekday() for d in there] == [date.fromisoformat(d).weekday() for d in here]
        coach.ok("POST", f"athletes/{athlete.pk}/plan/undo")
        assert not any(s["is_own"] for s in sessions(coach, athlete, to).values())

    def test_a_week_copied_onto_free_days_keeps_every_session(self, coach, athlete, first) -> None:
        to = MONDAY + timedelta(days=7)
        for day, sheet in list(sessions(coach, athlete, to).items()):
            other = date.fromisoformat(day) + timedelta(days=1)
            coach.ok("PUT", f"athletes/{athlete.pk}/sessions/{day}/{sheet['key']}/day", {"day": str(other)})
        coach.ok("POST", f"athletes/{athlete.pk}/week/{MONDAY}/copy", {"day": str(to)})
        here, there = sessions(coach, athlete), sessions(coach, athlete, to)
        assert [s["theme"] for s in there.values()] == [s["theme"] for s in here.values()]
        assert all(s["is_own"] for s in there.values())

    def test_copies_taken_back_leave_their_keys_free(self, coach, athlete, first) -> None:
        kept = coach.ok("POST", f"{first}/copy", {"day": "2026-12-06"})
        assert kept["done"] == [athlete.name]
        for _ in range(12):
            coach.ok("POST", f"{first}/copy", {"day": "2026-12-05"})
            coach.ok("POST", f"athletes/{athlete.pk}/plan/undo")
        assert "2026-12-06" in sessions(coach, athlete), "no copy has taken the place of another day's session"
        assert coach.ok("POST", f"{first}/copy", {"day": "2026-12-05"})["done"] == [athlete.name]
        assert {"2026-12-05", "2026-12-06"} <= set(sessions(coach, athlete))

    def test_a_copy_to_another_athlete(self, coach, athlete, first) -> None:
        mate = mate_of(athlete)
        answer = coach.ok("POST", f"{first}/copy", {"day": "2026-12-03", "to_athlete": mate.pk})
        assert answer["done"] == [mate.name]
        assert coach.send("POST", f"{first}/copy", {"day": "2026-12-03", "scope": "town"}).json()["where"] == "scope"


class TestArrangingTheWeek:
    def arrange(self, coach, athlete, **body: Any) -> Any:
        return coach.ok("PUT", f"athletes/{athlete.pk}/week-arrangement", body)

    def test_another_arrangement_for_all_weeks(self, coach, athlete, season) -> None:
        self.arrange(coach, athlete, arrangement="team_strength", days=3)
        found = week(coach, athlete)
        assert (found["arrangement"], found["arrangement_days"], found["only_this_week"]) == ("team_strength", 3, False)
        assert len(sessions(coach, athlete)) == 3
        coach.ok("POST", f"athletes/{athlete.pk}/plan/undo")
        assert week(coach, athlete)["arrangement"] == "two_days"

    def test_a_test_week_for_one_week_only(self, coach, athlete, season) -> None:
        self.arrange(coach, athlete, arrangement="test_week", days=2, only_this_week=str(MONDAY))
        assert week(coach, athlete)["arrangement"] == "test_week"
        assert week(coach, athlete, MONDAY + timedelta(days=7))["arrangement"] == "two_days"

    def test_for_the_squad_and_refused_numbers(self, coach, athlete, season) -> None:
        mate = mate_of(athlete)
        self.arrange(coach, athlete, arrangement="concurrent", days=4, scope="squad")
        assert week(coach, mate)["arrangement"] == "concurrent"
        bad = coach.send("PUT", f"athletes/{athlete.pk}/week-arrangement", {"arrangement": "concurrent", "days": 6})
        assert bad.json()["accepted"] == "2, 3, 4"
        assert len(coach.get("week-arrangements")) >= 12

    def test_max_effort_is_not_planned_for_a_minor_without_supervision(self, coach, athlete, season) -> None:
        self.arrange(coach, athlete, arrangement="concurrent", days=4)

        def tops() -> bool:
            found = sessions(coach, athlete, MONDAY + timedelta(days=7))
            return any("top RPE" in x["text"] for s in found.values() for x in s["lines"])

        assert tops()
        athlete.birth_date = TODAY - timedelta(days=365 * 16)
        athlete.save()
        assert not tops()
        athlete.supervised = True
        athlete.save()
        assert tops()

    def test_kit_and_faults_reach_the_week(self, coach, athlete, season) -> None:
        self.arrange(coach, athlete, arrangement="weightlifting", days=3)
        Fault.objects.create(athlete=athlete, exercise_id="snatch", fault="feet_jump_about", since="2026-11-01")
        lines = [x for s in sessions(coach, athlete).values() for x in s["lines"]]
        assert any(x["exercise"] == "No-feet snatch" for x in lines)
        athlete.kit = KitRecord.objects.create(name="Bands only", has=["dumbbell"], gear=["bands"])
        athlete.save()
        lines = [x for s in sessions(coach, athlete).values() for x in s["lines"]]
        assert not any(x["exercise"] in ("Snatch", "Back squat") for x in lines)


class TestChecksAnswered:
    def broken(self, coach, athlete, first) -> Any:
        Restriction.objects.create(athlete=athlete, tag="squat", words="Left knee", set_by="physiotherapist", since="2026-11-01")
        return coach.ok(
            "POST", f"{first}/edit", {"op": "add", "exercise_id": "front_squat", "text": "3x3 @ 80%", "block": "legs"}
        )

    def test_a_broken_restriction_is_a_caution_with_a_fix_of_one_step(self, coach, athlete, first) -> None:
        sheet = self.broken(coach, athlete, first)
        flag = next(f for f in sheet["flags"] if f["check_id"] == "restriction")
        assert flag["severity"] == "caution"
        coach.ok("POST", f"{first}/fix", {"kind": flag["fix"]["kind"], "values": flag["fix"]["values"]})
        assert not any(f["check_id"] == "restriction" for f in coach.get(first)["flags"])

    def test_a_kept_flag_stays_visible_until_it_is_lifted(self, coach, athlete, first) -> None:
        sheet = self.broken(coach, athlete, first)
        flag = next(f for f in sheet["flags"] if f["check_id"] == "restriction")
        body = {"check_id": flag["check_id"], "where": flag["where"], "reason": "cleared by phone this morning"}
        coach.ok("POST", f"athletes/{athlete.pk}/plan/flags", body)
        kept = next(f for f in coach.get(first)["flags"] if f["check_id"] == "restriction")
        assert kept["kept_reason"] == "cleared by phone this morning"
        coach.ok("DELETE", f"plan-flags/{kept['kept_id']}")
        assert next(f for f in coach.get(first)["flags"] if f["check_id"] == "restriction")["kept_id"] is None

    def test_the_same_max_effort_lift_in_two_weeks_is_seen_on_the_week(self, coach, athlete, season) -> None:
        for monday in (MONDAY, MONDAY + timedelta(days=7)):
            day, sheet = next(iter(sessions(coach, athlete, monday).items()))
            body = {
                "op": "add",
                "exercise_id": "high_box_squat",
                "text": "5x3 @ 60% rising",
                "block": "max effort",
                "is_main": True,
            }
            coach.ok("POST", f"athletes/{athlete.pk}/sessions/{day}/{sheet['key']}/edit", body)
        flags = week(coach, athlete, MONDAY + timedelta(days=7))["flags"]
        flag = next(f for f in flags if f["check_id"] == "same-max-effort")
        day, key, _ = flag["where"].split(":")
        coach.ok("POST", f"athletes/{athlete.pk}/sessions/{day}/{key}/fix", {"kind": "replace", "values": flag["fix"]["values"]})
        assert not any(f["check_id"] == "same-max-effort" for f in week(coach, athlete, MONDAY + timedelta(days=7))["flags"])

    @pytest.mark.parametrize("far", ["0001-01-01", "9999-12-31", "2031-01-01"])
    def test_days_years_away_are_refused_with_a_sentence(self, coach, athlete, first, far: str) -> None:
        calls = (
            ("GET", f"squads/{athlete.squad_id}/week?start={far}", None),
            ("POST", f"athletes/{athlete.pk}/week/{MONDAY}/copy", {"day": far}),
            ("PUT", f"athletes/{athlete.pk}/week-arrangement", {"arrangement": "two_days", "only_this_week": far}),
            ("POST", f"{first}/fix", {"kind": "move", "values": {"to": far}}),
            ("POST", f"{first}/fix", {"kind": "move", "values": {"to": "soon"}}),
        )
        for method, path, body in calls:
            answer = coach.send(method, path, body)
            assert answer.status_code == 422
            assert answer.json()["accepted"]

    def test_an_unknown_fix_is_refused(self, coach, first) -> None:
        assert coach.send("POST", f"{first}/fix", {"kind": "magic", "values": {}}).json()["where"] == "kind"


OWN = {"name": "Tyre flip", "cue": "Hips low, push through", "pattern": "hinge", "region": "lower", "cost": "high",
       "kind": "strength",
       "implement": "none", "needs": ["space"]}  # fmt: skip


class TestTheLibrary:
    def test_it_holds_at_least_220_exercises_with_what_a_coach_asks(self, coach) -> None:
        rows = coach.get("library")["exercises"]
        assert len(rows) >= 220
        assert all(r["name"] and r["pattern"] and r["cost"] in ("high", "middle", "low") for r in rows)

    def test_one_exercise_with_its_chain_and_what_stands_in(self, coach, athlete) -> None:
        found = coach.get("library/trap_bar_deadlift")
        assert [s["exercise"] for s in found["chain"]][:2] == ["Trap-bar deadlift", "Trap-bar deadlift, fast"]
        assert found["substitutes"][0]["reason"]
        Restriction.objects.create(athlete=athlete, tag="overhead", words="Shoulder", set_by="doctor", since="2026-11-01")
        there = coach.get(f"library/overhead_press?athlete_id={athlete.pk}")
        assert there["why_not"] == "restricted: overhead"
        assert there["substitutes"][0]["exercise"] == "Half-kneeling landmine press"

    def test_own_exercises_can_be_used_edited_and_taken_back(self, coach, athlete, first) -> None:
        row = coach.ok("POST", "library", OWN)
        assert row["is_own"]
        sheet = coach.ok("POST", f"{first}/edit", {"op": "add", "exercise_id": row["id"], "text": "3x5", "block": "strong"})
        assert sheet["lines"][-1]["exercise"] == "Tyre flip"
        coach.ok("PUT", f"library/{row['id']}", {**OWN, "cue": "Chest up"})
        assert coach.get(f"library/{row['id']}")["cue"] == "Chest up"
        coach.ok("DELETE", f"library/{row['id']}")
        assert row["id"] not in [e["id"] for e in coach.get("library")["exercises"]]
        assert coach.get(first)["lines"][-1]["exercise"] == "Tyre flip", "what was written with it is still read"
        assert OwnExercise.objects.count() == 2, "the history stays"
        assert week(coach, athlete)["days"], "a session that used it does not break the week"

    def test_a_shipped_exercise_is_edited_apart_from_the_shipped_one(self, coach) -> None:
        edit = {
            **OWN,
            "name": "Back squat",
            "cue": "Knees follow the toes",
            "pattern": "squat",
            "implement": "barbell",
            "needs": ["rack"],
        }
        assert coach.ok("PUT", "library/back_squat", edit)["is_edited"]
        with with_own(own_exercises()):
            kept = exercise("back_squat")
        before = shipped()["back_squat"]
        assert (kept.v1rm, kept.light_load, kept.motion, kept.simulated_pattern) == (
            before.v1rm, before.light_load, before.motion, before.simulated_pattern,
        )  # fmt: skip
        found = coach.get("library/back_squat")
        assert (found["cue"], found["is_shipped"]) == ("Knees follow the toes", True)
        coach.ok("DELETE", "library/back_squat")
        assert coach.get("library/back_squat")["cue"] == "Brace before you unlock the knees"

    @pytest.mark.parametrize(("change", "where"), [
        ({"name": ""}, "name"), ({"pattern": "sideways"}, "pattern"), ({"needs": ["moon"]}, "needs"),
        ({"seconds_per_rep": 0}, "seconds_per_rep"), ({"name": "Back squat"}, "name"),
    ])  # fmt: skip
    def test_what_cannot_be_an_exercise_is_refused(self, coach, change: dict, where: str) -> None:
        assert coach.send("POST", "library", {**OWN, **change}).json()["where"] == where


class TestTheSquadOnOnePage:
    def test_everybodys_week(self, coach, athlete, season) -> None:
        mate = mate_of(athlete)
        Athlete.objects.create(squad=athlete.squad, name="No Season")
        found = coach.get(f"squads/{athlete.squad_id}/week?start={MONDAY}")
        assert [r["name"] for r in found["rows"]] == sorted([athlete.name, mate.name])
        assert found["without_season"] == ["No Season"]
        mine = next(r for r in found["rows"] if r["athlete_id"] == athlete.pk)
        assert any(x["loads"] for c in mine["cells"] for x in c["lines"])

    def test_one_session_as_a_table_of_loads(self, coach, athlete, first) -> None:
        mate_of(athlete)
        table = coach.get(f"{first}/squad")
        assert len(table["rows"]) == 2
        row = next(r for r in table["rows"] if r["athlete_id"] == athlete.pk)
        assert row["lines"]["A1"]["is_loaded"]
        assert row["lines"]["A1"]["sides"]

    def test_the_queries_do_not_grow_with_the_squad(self, coach, athlete, season, django_assert_max_num_queries) -> None:
        for i in range(6):
            mate_of(athlete, f"Mate {i}")
        path = f"squads/{athlete.squad_id}/week?start={MONDAY}"
        with django_assert_max_num_queries(44):
            coach.get(path)
        with django_assert_max_num_queries(9):  # nobody has changed since
            coach.get(path)


class TestTemplates:
    def save(self, coach, athlete, first, **more: Any) -> Any:
        day, key = first.split("/")[3:5]
        body = {"name": "Strong Monday", "kind": "session", "athlete_id": athlete.pk, "day": day, "key": key, **more}
        return coach.send("POST", "templates", body)

    def test_a_session_is_saved_in_versions_and_applied_with_a_preview(self, coach, athlete, first) -> None:
        assert self.save(coach, athlete, first).json()[0]["version"] == 1
        coach.ok("POST", f"{first}/edit", {"op": "drop", "line": "A2"})
        saved = self.save(coach, athlete, first).json()[0]
        assert (saved["version"], saved["versions"]) == (2, [2, 1])
        body = {"athlete_id": athlete.pk, "day": "2026-12-09"}
        seen = coach.ok("POST", f"templates/{saved['id']}/preview", body)
        assert seen["days"] == ["2026-12-09"]
        count = WrittenSession.objects.count()
        assert count == 1, "a preview stores nothing"
        coach.ok("POST", f"templates/{saved['id']}/apply", body)
        there = sessions(coach, athlete, MONDAY + timedelta(days=7))["2026-12-09"]
        assert [x["exercise"] for x in there["lines"]] == [x["exercise"] for x in seen["sessions"][0]["lines"]] or there["lines"]

    def test_a_phase_of_two_weeks_goes_to_the_squad_and_back_in_one_step(self, coach, athlete, first) -> None:
        mate = mate_of(athlete)
        saved = self.save(coach, athlete, first, kind="phase", weeks=2, name="Block").json()[0]
        assert saved["words"] == "4 sessions in 2 weeks"
        later = MONDAY + timedelta(days=14)
        body = {"athlete_id": athlete.pk, "day": str(later), "scope": "squad"}
        seen = coach.ok("POST", f"templates/{saved['id']}/preview", body)
        assert len(seen["replaces"]) == 4
        assert coach.ok("POST", f"templates/{saved['id']}/apply", body)["done"] == sorted([athlete.name, mate.name])
        assert all(s["is_own"] for s in sessions(coach, mate, later + timedelta(days=7)).values())
        coach.ok("POST", f"athletes/{mate.pk}/plan/undo")
        assert not any(s["is_own"] for s in sessions(coach, athlete, later).values())

    def test_out_as_json_and_in_again_is_the_same(self, coach, athlete, first) -> None:
        saved = self.save(coach, athlete, first).json()[0]
        text = coach.client.get(f"/api/export/templates/{saved['id']}.json").content.decode()
        again = coach.ok("POST", "templates/import", {"text": text})
        assert again[0]["versions"] == [2, 1]
        assert coach.client.get(f"/api/export/templates/{again[0]['id']}.json").content.decode() == text

    @pytest.mark.parametrize(("text", "where"), [
        ("{", "text"), ("[]", "text"), ("{}", "format"),
        ('{"name": "a\\ud800"}', ""), ('{"name": "a\\u0007"}', ""), ('{"format": "jarvok-template", "version": 9}', "version"),
        ('{"format": "jarvok-template", "version": 1, "kind": "year"}', "kind"),
        ('{"format": "jarvok-template", "version": 1, "kind": "session", "sessions": []}', "sessions"),
        ('{"format": "jarvok-template", "version": 1, "kind": "session", "sessions": [{"weekday": 9}]}', "sessions[0].weekday"),
        ('{"format": "jarvok-template", "version": 1, "kind": "session", "sessions": [{"session": {"format": "jarvok-session", '
         '"version": 1, "theme": "x", "blocks": [{"name": "a", "lines": [{"exercise": "moon"}]}]}}]}',
         "sessions[0].session.blocks[0].lines[0].exercise"),
    ])  # fmt: skip
    def test_a_file_that_cannot_be_read_says_where(self, coach, text: str, where: str) -> None:
        answer = coach.send("POST", "templates/import", {"text": text})
        assert (answer.status_code, answer.json()["where"]) == (422, where)

    def test_names_and_kinds_are_checked_and_a_template_can_go(self, coach, athlete, first) -> None:
        assert self.save(coach, athlete, first, name=" ").json()["where"] == "name"
        assert self.save(coach, athlete, first, kind="year").json()["where"] == "kind"
        saved = self.save(coach, athlete, first).json()[0]
        assert coach.ok("DELETE", f"templates/{saved['id']}") == []


class TestOnPaper:
    def test_a_squad_of_24_fits_a_wall_sheet_and_cards(self, coach, athlete, first) -> None:
        for i in range(23):
            mate_of(athlete, f"Mate {i:02d}")
        for kind, least in (("wall", 2), ("cards", 3)):
            answer = coach.client.get(f"/api/export/{first}/{kind}.pdf")
            assert answer.status_code == 200
            assert answer["Content-Type"] == "application/pdf"
            pages = answer.content.count(b"/Type /Page\n") or answer.content.count(b"/Type /Page ")
            assert least <= pages <= 2 * least
        assert coach.send("GET", f"export/{first}/poster.pdf").json()["where"] == "kind"

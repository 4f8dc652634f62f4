from datetime import date

import pytest
from django.contrib.auth import get_user_model
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext

from jarvok.app.accounts.middleware import DEMO_COACH
from jarvok.app.athletes.kept_known import forget_all_kept
from jarvok.app.facts.athletes.models import Athlete, MarkRecord, Restriction
from jarvok.app.facts.centre.models import KitRecord
from jarvok.app.facts.training.models import LineEdit

pytestmark = pytest.mark.django_db


def line(sheet, slot):
    return next(item for item in sheet["lines"] if item["slot"] == slot)


class TestSignIn:
    def test_nothing_is_told_to_strangers(self, client: Client, athlete) -> None:
        for path in ("today", "athletes", f"athletes/{athlete.pk}", f"athletes/{athlete.pk}/season"):
            response = client.get(f"/api/{path}")
            assert response.status_code == 401
            assert response["Content-Type"] == "application/problem+json"
        assert client.get("/api/floor/sessions/1/events").status_code == 401

    def test_a_coach_signs_in_and_out(self, client: Client, coach) -> None:
        client.logout()
        assert client.get("/api/me").json()["signed_in"] is False
        body = {"name": "tester", "password": "wrong"}
        assert client.post("/api/sign-in", body, content_type="application/json").status_code == 401
        body["password"] = "a long enough word"
        assert client.post("/api/sign-in", body, content_type="application/json").json()["signed_in"] is True
        assert client.post("/api/sign-out").json()["signed_in"] is False

    def test_writes_need_the_csrf_token(self, coach, athlete) -> None:
        strict = Client(enforce_csrf_checks=True)
        strict.cookies = coach.client.cookies
        body = {"name": "x", "day": "2027-04-03"}
        response = strict.post(f"/api/athletes/{athlete.pk}/competitions", body, content_type="application/json")
        assert response.status_code == 403

    def test_the_local_demo_signs_in_by_itself_on_this_machine_only(self, client: Client, coach, settings) -> None:
        client.logout()
        settings.LOCAL_DEMO = True
        get_user_model().objects.create_user(DEMO_COACH)
        assert client.get("/api/me").json()["signed_in"] is True
        assert client.get("/api/me", REMOTE_ADDR="192.0.2.7").status_code == 403


class TestSeason:
    def test_it_is_built_backwards_and_carries_days_to_go(self, season) -> None:
        assert season["days_to_go"] == 130
        assert [p["key"] for p in season["phases"]] == ["base", "strength_speed", "speed_strength", "taper"]
        assert season["phases"][-1]["end"] == "2027-04-03"
        assert sum(p["weeks"] for p in season["phases"]) == len(season["weeks"]) == 19

    def test_moving_the_day_recomputes_and_can_be_undone(self, coach, season) -> None:
        undo = f"athletes/{season['athlete_id']}/season/undo"
        moved = coach.ok("PATCH", f"competitions/{season['competitions'][0]['id']}", {"day": "2027-02-06"})
        assert len(moved["season"]["weeks"]) == 11
        assert "moved from 3 Apr to 6 Feb" in moved["undo"]["words"]
        assert len(coach.ok("POST", undo)["season"]["weeks"]) == 19
        assert coach.ok("POST", undo)["season"] is None, "adding the competition is taken back as well"
        assert coach.send("POST", undo).status_code == 409

    def test_moving_a_boundary_pins_the_phases(self, coach, season) -> None:
        lengths = {p["key"]: p["weeks"] for p in season["phases"]}
        weeks = {"base": lengths["base"] - 1, "strength_speed": lengths["strength_speed"] + 1}
        changed = coach.ok("PUT", f"competitions/{season['competitions'][0]['id']}/phases", {"weeks": weeks})["season"]
        after = {p["key"]: p["weeks"] for p in changed["phases"]}
        assert after["base"] == lengths["base"] - 1
        assert after["speed_strength"] == lengths["speed_strength"]
        assert [p["pinned"] for p in changed["phases"]] == [True, True, False, False]

    @pytest.mark.parametrize(("body", "said"), [
        ({"name": "x", "day": "2026-11-24"}, "not ahead"),
        ({"name": "x", "day": "2020-01-01"}, "not ahead"),
        ({"name": "x", "day": "2030-01-01"}, "weeks away"),
        ({"name": "  ", "day": "2027-04-03"}, "needs a name"),
        ({"name": "x", "day": "30 February"}, "Day"),
        ({"name": "x"}, "Day"),
    ])  # fmt: skip
    def test_bad_days_are_refused_in_words(self, coach, athlete, body, said: str) -> None:
        response = coach.send("POST", f"athletes/{athlete.pk}/competitions", body)
        assert response.status_code == 422
        assert said in response.json()["title"]

    def test_the_same_competition_twice_is_refused(self, coach, athlete, season) -> None:
        response = coach.send("POST", f"athletes/{athlete.pk}/competitions", {"name": "Test Open", "day": "2027-04-03"})
        assert response.status_code == 409
        assert "is there already" in response.json()["title"]

    def test_taken_out_the_athlete_has_no_season(self, coach, athlete, season) -> None:
        assert coach.ok("DELETE", f"competitions/{season['competitions'][0]['id']}")["season"] is None
        assert coach.get(f"athletes/{athlete.pk}/week")["reason"] == "No competition ahead yet."

    def test_a_preview_stores_nothing(self, coach, athlete) -> None:
        words = coach.ok("POST", f"athletes/{athlete.pk}/competitions/preview", {"name": "x", "day": "2027-04-03"})
        assert words["phases"][0].startswith("Base strength")
        assert words["before"] == []
        assert coach.get(f"athletes/{athlete.pk}/season")["season"] is None


class TestWeekAndSession:
    def test_two_sessions_on_days_without_practice(self, coach, athlete, season) -> None:
        week = coach.get(f"athletes/{athlete.pk}/week?start=2026-11-30")["week"]
        sheets = [d for d in week["days"] if d["sheet"]]
        assert len(sheets) == 2
        assert all(not d["practices"] for d in sheets)
        assert week["sums"]["hard_sets"] > 0

    def test_each_prescription_shows_kilograms_plates_and_working(self, sheet) -> None:
        main = line(sheet, "A1")
        first = main["sets"][0]
        assert first["load_kg"] == 25 + 2 * sum(first["per_side_kg"])
        assert first["working"]["rule"].endswith("% of 120.0 kg")
        assert first["working"]["inputs"][1]["ref"].startswith("mark:")

    def test_a_typed_line_is_kept_and_formatted_and_taken_back(self, coach, athlete, sheet) -> None:
        path = f"athletes/{athlete.pk}/sessions/{sheet['day']}/A/lines/A1"
        changed = line(coach.ok("PUT", path, {"text": "4x3 @ 82%"}), "A1")
        assert (changed["text"], changed["edited"], changed["sets"][0]["load_kg"]) == ("4 × 3 @ 82 %", True, 97.5)
        back = line(coach.ok("PUT", path, {"text": ""}), "A1")
        assert back["edited"] is False
        assert LineEdit.objects.count() == 2  # both stay as history

    def test_a_wrong_line_points_at_the_place_and_changes_nothing(self, coach, athlete, sheet) -> None:
        path = f"athletes/{athlete.pk}/sessions/{sheet['day']}/A/lines/A1"
        response = coach.send("PUT", path, {"text": "4x3 82"})
        assert response.status_code == 422
        assert (response.json()["position"], response.json()["suggestion"]) == (4, "")
        assert LineEdit.objects.count() == 0

    def test_a_session_moves_within_its_week_with_its_edits(self, coach, athlete, sheet) -> None:
        path = f"athletes/{athlete.pk}/sessions/{sheet['day']}/A"
        coach.ok("PUT", f"{path}/lines/A1", {"text": "3x3 @ 80 %"})
        assert coach.send("PUT", f"{path}/day", {"day": "2026-12-10"}).status_code == 422
        week = coach.ok("PUT", f"{path}/day", {"day": "2026-12-05"})["week"]
        moved = next(d["sheet"] for d in week["days"] if d["day"] == "2026-12-05")
        assert line(moved, "A1")["text"] == "3 × 3 @ 80 %"
        assert moved["day_reason"] == "moved here by you"

    def test_no_such_session(self, coach, athlete, season) -> None:
        response = coach.send("GET", f"athletes/{athlete.pk}/sessions/2026-11-30/Z")
        assert response.status_code == 422
        assert "No session Z" in response.json()["title"]

    def test_an_athlete_without_marks_trains_by_feel_and_is_told_why(self, coach, squad) -> None:
        new = Athlete.objects.create(squad=squad, name="No Marks")
        coach.ok("POST", f"athletes/{new.pk}/competitions", {"name": "o", "day": "2027-04-03"})
        week = coach.get(f"athletes/{new.pk}/week?start=2026-11-30")["week"]
        sheet = next(d["sheet"] for d in week["days"] if d["sheet"])
        assert line(sheet, "A1")["sets"][0]["method"] == "effort"
        assert any("no max in this lift" in n["text"].lower() for n in sheet["notes"])

    def test_a_restriction_replaces_the_exercise_and_the_margin_says_so(self, coach, athlete, season) -> None:
        Restriction.objects.create(
            athlete=athlete, tag="press", words="Right shoulder", set_by="physiotherapist", since="2026-11-01"
        )
        week = coach.get(f"athletes/{athlete.pk}/week?start=2026-11-30")["week"]
        sheet = next(d["sheet"] for d in week["days"] if d["sheet"] and d["sheet"]["key"] == "A")
        assert not any(x["exercise"] == "Bench press" for x in sheet["lines"])
        left = next(n for n in sheet["notes"] if n["title"] == "Left out.")
        assert left["text"].startswith("Bench press (restricted: press)")
        assert "Set by physiotherapist" in left["text"]


class TestMarks:
    def test_maxes_come_with_their_working(self, coach, athlete) -> None:
        lifts = {x["exercise_id"]: x for x in coach.get(f"athletes/{athlete.pk}")["lifts"]}
        assert lifts["trap_bar_deadlift"]["max_kg"] == 120
        assert lifts["bench_press"]["max_kg"] == pytest.approx(67.1)
        assert "57.5 × 5 (rep-max)" in lifts["bench_press"]["working"]["inputs"][0]["text"]

    @pytest.mark.parametrize(("change", "said"), [
        ({"load_kg": 900}, "cannot be a load"),
        ({"load_kg": -5}, "cannot be a load"),
        ({"load_kg": 0}, "above zero"),
        ({"day": "2026-12-24"}, "still to come"),
        ({"reps": 40}, "say too little"),
        ({"exercise_id": "front_hold"}, "not a loaded lift"),
        ({"exercise_id": "moonwalk"}, "no exercise"),
        ({"kind": "velocity_max"}, "from a sensor"),
        ({"load_kg": "heavy"}, "Load in kg is no number"),
    ])  # fmt: skip
    def test_impossible_marks_are_refused_in_words(self, coach, athlete, change, said: str) -> None:
        body = {"exercise_id": "bench_press", "kind": "rep_max", "day": "2026-11-20", "load_kg": 60, "reps": 5} | change
        response = coach.send("POST", f"athletes/{athlete.pk}/marks", body)
        assert response.status_code == 422
        assert said in response.json()["title"]
        assert MarkRecord.objects.count() == 4

    def test_an_improbable_mark_asks_once(self, coach, athlete) -> None:
        body = {"exercise_id": "bench_press", "kind": "rep_max", "day": "2026-11-20", "load_kg": 80, "reps": 5}
        response = coach.send("POST", f"athletes/{athlete.pk}/marks", body)
        assert response.status_code == 428
        assert "93 kg" in response.json()["title"]
        coach.ok("POST", f"athletes/{athlete.pk}/marks", {**body, "confirm": True})
        assert MarkRecord.objects.count() == 5

    def test_a_room_of_pounds_is_asked_about_a_leap_in_pounds(self, coach, athlete) -> None:
        kit = KitRecord.objects.create(name="Pounds", unit="lb", bar_kg=20.41)
        Athlete.objects.filter(pk=athlete.pk).update(kit=kit)
        body = {"exercise_id": "bench_press", "kind": "rep_max", "day": "2026-11-10", "load_kg": 65, "reps": 6, "confirm": True}
        coach.ok("POST", f"athletes/{athlete.pk}/marks", body)
        (asked,) = [d for d in coach.get("today")["decisions"] if d["kind"] == "rise"]
        rise = asked["rise"]
        said = [asked["title"], asked["text"], rise["question"], rise["words"], rise["would_be"], *rise["readings"]]
        assert not [words for words in said if "kg" in words]
        assert (rise["question"], rise["would_be"][-3:]) == ("148 to 172 lb?", " lb")

    def test_a_leap_waits_for_the_coach(self, coach, athlete) -> None:
        body = {"exercise_id": "bench_press", "kind": "rep_max", "day": "2026-11-10", "load_kg": 65, "reps": 6, "confirm": True}
        lifts = coach.ok("POST", f"athletes/{athlete.pk}/marks", body)["lifts"]
        bench = next(x for x in lifts if x["exercise_id"] == "bench_press")
        rise = bench["proposal"]
        assert (rise["day"], rise["from_kg"], rise["says_kg"], len(rise["readings"])) == ("2026-11-10", 67.1, 78.0, 3)
        assert bench["max_kg"] == pytest.approx(67.1)
        path = f"athletes/{athlete.pk}/max-decisions"
        answer = {"exercise_id": "bench_press", "evidence": rise["evidence"]}
        waiting = [d for d in coach.get("today")["decisions"] if d["kind"] == "rise"]
        assert [d["rise"]["evidence"] for d in waiting] == [rise["evidence"]]
        assert coach.send("POST", path, {**answer, "answer": "later", "ask_again_on": "2027-06-01"}).status_code == 422
        assert coach.send("POST", path, {**answer, "answer": "perhaps"}).status_code == 422
        later = coach.ok("POST", path, {**answer, "answer": "later", "ask_again_on": "2026-12-01"})["lifts"]
        assert next(x for x in later if x["exercise_id"] == "bench_press")["proposal"]["put_off_to"] == "2026-12-01"
        assert not any(d["kind"] == "rise" for d in coach.get("today")["decisions"])
        lifts = coach.ok("POST", path, {**answer, "answer": "accept"})["lifts"]
        bench = next(x for x in lifts if x["exercise_id"] == "bench_press")
        assert bench["proposal"] is None
        assert bench["max_kg"] == pytest.approx(rise["to_kg"])
        assert coach.send("POST", path, {**answer, "answer": "accept"}).status_code == 409

    def test_a_refused_rise_leaves_its_evidence_out_and_all_else_in(self, coach, athlete) -> None:
        body = {"exercise_id": "bench_press", "kind": "rep_max", "day": "2026-11-10", "load_kg": 65, "reps": 6, "confirm": True}
        bench = next(
            x for x in coach.ok("POST", f"athletes/{athlete.pk}/marks", body)["lifts"] if x["exercise_id"] == "bench_press"
        )
        answer = {"exercise_id": "bench_press", "evidence": bench["proposal"]["evidence"], "answer": "refuse"}
        lifts = coach.ok("POST", f"athletes/{athlete.pk}/max-decisions", answer)["lifts"]
        after = next(x for x in lifts if x["exercise_id"] == "bench_press")
        assert (after["proposal"], after["max_kg"]) == (None, bench["max_kg"])

    @pytest.mark.parametrize(("kind", "reps", "rir", "kept"), [
        ("rep_max", 1, 0, False), ("amrap", 1, 0, False), ("set_rir", 1, 0, False), ("one_rm", 1, 0, False),
        ("rep_max", 2, 0, True), ("set_rir", 1, 2, True), ("technical_max", 1, 0, True),
    ])  # fmt: skip
    def test_a_single_of_a_minor_is_a_1rm_whatever_it_is_called(self, coach, athlete, kind, reps, rir, kept) -> None:
        athlete.birth_date, athlete.supervised = date(2011, 1, 1), False
        athlete.save()
        body = {"exercise_id": "back_squat", "kind": kind, "day": "2026-11-10", "load_kg": 50, "reps": reps, "rir": rir}
        assert (coach.send("POST", f"athletes/{athlete.pk}/marks", body).status_code == 200) is kept

    def test_a_withdrawn_mark_stays_but_counts_no_more(self, coach, athlete) -> None:
        mark = athlete.marks.get(exercise_id="trap_bar_deadlift")
        after = coach.ok("POST", f"marks/{mark.pk}/withdraw")
        assert "trap_bar_deadlift" not in {x["exercise_id"] for x in after["lifts"]}
        assert next(m for m in after["marks"] if m["id"] == mark.pk)["withdrawn"] is True
        assert coach.send("POST", f"marks/{mark.pk}/withdraw").status_code == 409


def test_the_squad_list_asks_the_database_a_bounded_number_of_times(coach, athlete, squad) -> None:
    def queries() -> int:
        forget_all_kept()
        with CaptureQueriesContext(connection) as seen:
            coach.get("athletes")
        return len(seen)

    coach.get("athletes")  # the first request of a process finds out where the centre lies
    few = queries()
    for i in range(12):
        other = Athlete.objects.create(squad=squad, name=f"More {i}")
        MarkRecord.objects.create(athlete=other, exercise_id="bench_press", kind="one_rm", day="2026-11-02", load_kg=60)
    assert queries() == few


def test_pages_that_do_not_exist_and_methods_that_do_not_fit(coach) -> None:
    assert coach.send("GET", "athletes/999").json()["title"] == "That athlete is not here."
    assert coach.client.get("/api/nowhere").status_code == 404
    assert coach.client.delete("/api/today").status_code == 405

"""Pain told at a set, through the application: what ends, what stands in, what the review, the sheet and the next arrival say."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

import pytest

from jarvok.app.facts.athletes.models import Athlete, Restriction
from jarvok.app.facts.floor.models import PainReport, SetRecord
from jarvok.core.floor.pain import loads
from jarvok.core.library.exercises import exercise

pytestmark = pytest.mark.django_db


def line_of(floor: Any, slot: str = "A1") -> Any:
    return next(x for x in floor["lines"] if x["slot"] == slot)


def told(coach: Any, floor: Any, slot: str = "A1", kind: str = "work", number: int = 1, **more: Any) -> Any:
    body = {"line_id": line_of(floor, slot)["id"], "kind": kind, "number": number, "load_kg": 60, "reps": 2, "trouble": "pain"}
    return coach.send("POST", f"floor/sessions/{floor['id']}/sets", {**body, "pain_area": "knee", **more})


def hurt(coach: Any, floor: Any, **more: Any) -> Any:
    response = told(coach, floor, **more)
    assert response.status_code == 200, response.content
    return response.json()


def reviewed(coach: Any, floor: Any) -> Any:
    return coach.get(f"floor/sessions/{floor['id']}/review")


class TestAtASet:
    @pytest.mark.parametrize("kind", ["ramp", "work"])
    def test_a_warm_up_stops_what_loads_the_place_as_a_work_set_does(self, coach, floor, kind: str) -> None:
        after = hurt(coach, floor, kind=kind)
        for line in after["lines"]:
            away = line["slot"] == "A1" or loads("knee", exercise(line["exercise_id"]))
            assert line["ended"] is away, line["exercise"]
            assert line["ended_by"] == ("pain, knee" if away else "")
        assert after["current"]["line_id"] != line_of(after)["id"]
        (pain,) = after["pains"]
        assert line_of(after)["exercise"] in pain["sentence"]
        assert "licensed professional" in pain["sentence"]
        assert line_of(after)["advice"] is None, "no next load after pain"

    def test_the_page_is_told_before_what_each_place_would_end(self, coach, floor) -> None:
        knee = next(a for a in floor["pain_areas"] if a["key"] == "knee")
        after = hurt(coach, floor)
        ended = {x["id"] for x in after["lines"] if x["ended"]}
        assert ended == {*knee["line_ids"], line_of(after)["id"]}

    def test_only_what_was_done_before_it_is_logged(self, coach, floor) -> None:
        hurt(coach, floor, reps=2)
        record = SetRecord.objects.get()
        assert (record.reps, record.trouble) == (2, "pain")

    def test_without_a_place_nothing_is_stored(self, coach, floor) -> None:
        response = told(coach, floor, pain_area="")
        assert response.status_code == 422
        assert response.json()["title"] == "Where does it hurt?"
        assert not SetRecord.objects.exists()

    def test_carrying_on_wants_a_reason_and_ends_nothing(self, coach, floor) -> None:
        assert told(coach, floor, carries_on=True).status_code == 422
        after = hurt(coach, floor, carries_on=True, carry_on="looked at by the physiotherapist")
        assert not any(x["ended"] for x in after["lines"])
        assert "looked at by the physiotherapist" in after["pains"][0]["sentence"]

    def test_unwell_ends_everything_and_cannot_be_carried_on(self, coach, floor) -> None:
        assert told(coach, floor, pain_area="unwell", carries_on=True, carry_on="wants to").status_code == 422
        after = hurt(coach, floor, pain_area="unwell")
        assert all(x["ended"] for x in after["lines"])
        assert after["current"] is None
        assert not any(x["instead"] for x in after["lines"])

    def test_undo_takes_the_pain_back(self, coach, floor) -> None:
        hurt(coach, floor)
        after = coach.ok("POST", f"floor/sessions/{floor['id']}/undo", {})
        assert not any(x["ended"] for x in after["lines"])
        assert after["pains"] == []

    def test_a_correction_keeps_the_pain(self, coach, floor) -> None:
        after = hurt(coach, floor)
        done = next(s for s in line_of(after)["sets"] if s["kind"] == "work")["done"]
        body = {"line_id": line_of(after)["id"], "kind": "work", "number": 1, "load_kg": 60, "reps": 1, "trouble": "pain"}
        after = coach.ok("POST", f"floor/sessions/{floor['id']}/sets/correct", {**body, "seen_id": done["id"]})
        assert [p["sentence"] for p in after["pains"]]
        assert line_of(after)["ended"] is True
        assert reviewed(coach, floor)["pains"][0]["words"].endswith("after 1 repetition")


class TestInItsPlace:
    def test_one_tap_puts_what_does_not_load_the_place_there_for_the_sets_left(self, coach, floor) -> None:
        after = hurt(coach, floor)
        line = line_of(after)
        left = sum(1 for s in line["sets"] if s["kind"] == "work" and not s["done"])
        pick = line["instead"][0]
        assert not loads("knee", exercise(pick["exercise_id"]))
        after = coach.ok("POST", f"floor/sessions/{floor['id']}/lines/{line['id']}/instead", {"exercise_id": pick["exercise_id"]})
        new = next(x for x in after["lines"] if x["exercise_id"] == pick["exercise_id"])
        assert len(new["sets"]) == left
        assert new["slot"] == "A1b"
        assert "in place of" in new["reason"]
        assert line_of(after)["instead"] == [], "once"
        slots = [x["slot"] for x in after["lines"]]
        assert slots.index("A1b") == slots.index("A1") + 1
        upcoming = [s["sets"][0]["line_id"] for s in after["steps"]]
        assert upcoming.count(new["id"]) == left
        for n in range(1, left + 1):
            body = {"line_id": new["id"], "kind": "work", "number": n, "load_kg": None, "reps": 8}
            after = coach.ok("POST", f"floor/sessions/{floor['id']}/sets", body)
        assert all(s["done"] for s in next(x for x in after["lines"] if x["slot"] == "A1b")["sets"])

    def test_with_the_pain_taken_back_it_goes_too_and_comes_back_with_it(self, coach, floor) -> None:
        line = line_of(hurt(coach, floor))
        pick = line["instead"][0]["exercise_id"]
        coach.ok("POST", f"floor/sessions/{floor['id']}/lines/{line['id']}/instead", {"exercise_id": pick})
        after = coach.ok("POST", f"floor/sessions/{floor['id']}/undo", {})
        new = line_of(after, "A1b")
        assert (new["ended"], new["ended_by"]) == (True, "the pain was taken back")
        assert line_of(after)["ended"] is False
        assert after["current"]["line_id"] != new["id"]
        assert "A1b" not in {x["slot"] for x in reviewed(coach, floor)["lines"]}
        again = hurt(coach, floor)
        assert line_of(again, "A1b")["ended"] is False
        assert line_of(again)["instead"] == [], "it is there already"

    def test_what_loads_the_place_is_refused(self, coach, floor) -> None:
        after = hurt(coach, floor)
        path = f"floor/sessions/{floor['id']}/lines/{line_of(after)['id']}/instead"
        refused = coach.send("POST", path, {"exercise_id": "front_squat"})
        assert refused.status_code == 422
        assert "it loads: knee" in refused.json()["title"]

    def test_nothing_is_put_in_the_place_of_a_line_that_goes_on(self, coach, floor) -> None:
        path = f"floor/sessions/{floor['id']}/lines/{line_of(floor)['id']}/instead"
        assert coach.send("POST", path, {"exercise_id": "hip_thrust"}).status_code == 422


class TestAfterwards:
    def test_a_warm_up_that_hurt_stands_with_its_line(self, coach, floor) -> None:
        hurt(coach, floor, kind="ramp", number=1)
        words = next(x for x in reviewed(coach, floor)["lines"] if x["slot"] == "A1")["words"]
        assert words == "not done, pain in warm-up 1"

    def test_the_review_says_it_and_the_next_load_waits(self, coach, floor) -> None:
        hurt(coach, floor)
        found = reviewed(coach, floor)
        assert found["pains"][0]["words"].startswith("Knee, Tuesday 1 December")
        waiting = [n for n in found["next_loads"] if n["waits"]]
        assert all("knee" in n["waits"] for n in waiting)
        hit = [n for n in found["next_loads"] if n["exercise"] == line_of(floor)["exercise"]]
        assert all(n["waits"] for n in hit)

    def test_it_stands_on_the_next_sheet_until_it_is_answered(self, coach, athlete, floor) -> None:
        hurt(coach, floor)
        assert self.flagged(coach, athlete)
        coach.ok("POST", f"floor/pains/{PainReport.objects.get().pk}/answer", {"answer": "cleared"})
        assert not self.flagged(coach, athlete)
        assert not any(n["waits"] for n in reviewed(coach, floor)["next_loads"])

    def flagged(self, coach: Any, athlete: Athlete) -> list[Any]:
        week = coach.get(f"athletes/{athlete.pk}/week?start=2026-12-07")["week"]
        flags = [f for d in week["days"] if d["sheet"] for f in d["sheet"]["flags"]]
        return [f for f in flags if f["check_id"] == "open-pain"]

    def test_it_becomes_a_restriction_by_a_persons_word_alone(self, coach, athlete, floor) -> None:
        hurt(coach, floor)
        assert not Restriction.objects.exists()
        after = coach.ok("POST", f"floor/pains/{PainReport.objects.get().pk}/answer", {"answer": "restricted"})
        assert after["pains"][0]["answer"] == "restricted"
        assert "squat" in set(Restriction.objects.values_list("tag", flat=True))
        week = coach.get(f"athletes/{athlete.pk}/week?start=2026-12-07")["week"]
        lines = [x for d in week["days"] if d["sheet"] for x in d["sheet"]["lines"]]
        assert not [x["exercise"] for x in lines if loads("knee", exercise(x["exercise_id"]))]
        again = coach.send("POST", f"floor/pains/{PainReport.objects.get().pk}/answer", {"answer": "cleared"})
        assert again.status_code == 409

    def test_no_other_answer(self, coach, floor) -> None:
        hurt(coach, floor)
        assert coach.send("POST", f"floor/pains/{PainReport.objects.get().pk}/answer", {"answer": "asked"}).status_code == 422

    def test_the_next_arrival_asks_again_and_its_answer_counts(self, coach, athlete, floor) -> None:
        hurt(coach, floor)
        same_day = coach.ok("POST", "room", {"squad_id": athlete.squad_id, "day": "2026-12-01"})
        assert self.mine(same_day, athlete)["open_pain"] == []
        room = coach.ok("POST", "room", {"squad_id": athlete.squad_id, "day": str(date(2026, 12, 1) + timedelta(days=3))})
        (asked,) = self.mine(room, athlete)["open_pain"]
        assert asked["area"] == "knee"
        assert "Tuesday 1 December" in asked["words"]
        unsaid = self.mine(room, athlete)["suggestion"]
        assert (unsaid["plan"], "squats" in unsaid["removed"]) == ("B", True), "until something is said, it stands"
        link = coach.ok("POST", f"room/{room['id']}/ready-link/{athlete.pk}")["path"].removeprefix("/ready/")
        assert coach.get(f"ready/{link}")["open_pain"] == [asked]
        after = coach.ok("POST", f"room/{room['id']}/answers/{athlete.pk}", {"pain": []})
        assert self.mine(after, athlete)["open_pain"] == []
        assert self.mine(after, athlete)["suggestion"]["removed"] == []
        assert PainReport.objects.get().answer == "asked"

    def mine(self, room: Any, athlete: Athlete) -> Any:
        return next(p for p in room["people"] if p["athlete_id"] == athlete.pk)


def test_form_that_broke_logs_the_good_repetitions(coach, floor) -> None:
    body = {"line_id": line_of(floor)["id"], "kind": "work", "number": 1, "load_kg": 60, "reps": 1, "trouble": "form_broke"}
    coach.ok("POST", f"floor/sessions/{floor['id']}/sets", body)
    words = next(x for x in reviewed(coach, floor)["lines"] if x["slot"] == "A1")["words"]
    assert "technique broke in set 1" in words

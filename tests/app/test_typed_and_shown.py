"""What is typed at the rack where no sensor is, what follows from it, two words on one set, a room in pounds, the board."""

from __future__ import annotations

import re
from datetime import timedelta
from typing import Any

import pytest

from jarvok.app import clock
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.centre.models import KitRecord
from jarvok.app.facts.floor.models import SetRecord
from jarvok.core.velocity.definition import Definition

pytestmark = pytest.mark.django_db


def line_of(floor: Any, slot: str) -> Any:
    return next(x for x in floor["lines"] if x["slot"] == slot)


def begun(coach: Any, athlete: Athlete, room: Any, *lines: tuple[str, str]) -> Any:
    """A free session of an athlete at rack 1, with some lines."""
    coach.ok("POST", f"room/{room['id']}/racks/1/join", {"athlete_id": athlete.pk, "source": "free"})
    lanes = coach.get(f"room/{room['id']}/racks")
    session = next(t["session_id"] for lane in lanes["lanes"] for t in lane["turns"] if t["athlete_id"] == athlete.pk)
    for exercise_id, text in lines:
        floor = coach.ok("POST", f"floor/sessions/{session}/lines", {"exercise_id": exercise_id, "text": text})
    return floor


def texts_in(data: Any) -> list[str]:
    """Every text in an answer."""
    if isinstance(data, str):
        return [data]
    rows = data.values() if isinstance(data, dict) else data if isinstance(data, list) else ()
    return [t for row in rows for t in texts_in(row)]


def log(coach: Any, floor: Any, slot: str, number: int, kind: str = "work", **more: Any) -> Any:
    body = {"line_id": line_of(floor, slot)["id"], "kind": kind, "number": number, "reps": 3, **more}
    return coach.ok("POST", f"floor/sessions/{floor['id']}/sets", body)


@pytest.fixture
def room(coach: Any, athlete: Athlete) -> Any:
    return coach.ok("POST", "room", {"squad_id": athlete.squad_id})


def asks(floor: Any, slot: str) -> list[str]:
    step = next(
        s for s in floor["steps"] if s["sets"][0]["line_id"] == line_of(floor, slot)["id"] and s["sets"][0]["kind"] == "work"
    )
    return [a["key"] for a in step["asks"]]


class TestTyped:
    def test_heights_and_contacts_give_reactive_strength_and_end_the_jumps(self, coach, athlete, room) -> None:
        floor = begun(coach, athlete, room, ("drop_jump", "3x3"))
        assert asks(floor, "X1") == ["heights", "contacts"]
        jumps = [{"height_cm": 40, "contact_s": 0.2}, {"height_cm": 38, "contact_s": 0.19}]
        floor = log(coach, floor, "X1", 1, jumps=jumps)
        first = line_of(floor, "X1")["sets"][0]
        assert [j["rsi"] for j in first["jumps"]] == [2.0, 2.0]
        assert floor["just_done"]["measured"] == ["best 40.0 cm", "contact 0.19 s", "reactive strength 2.00"]
        assert line_of(floor, "X1")["advice"]["move"] == "same"
        floor = log(coach, floor, "X1", 2, jumps=[{"height_cm": 35.5}])
        assert "under the best" in line_of(floor, "X1")["advice"]["sentence"]
        assert line_of(floor, "X1")["advice"]["move"] == "done"

    def test_the_height_to_beat_is_the_best_of_earlier_days(self, coach, athlete, room) -> None:
        floor = begun(coach, athlete, room, ("countermovement_jump", "2x3"))
        log(coach, floor, "X1", 1, jumps=[{"height_cm": 41}, {"height_cm": 43.2}])
        SetRecord.objects.get().line.session.__class__.objects.update(day=clock.today() - timedelta(days=3))
        again = begun(coach, athlete, room, ("countermovement_jump", "2x3"))
        step = next(s for s in again["steps"] if s["asks"])
        assert step["asks"][0]["last"].startswith("to beat: 43 cm")

    def test_a_run_that_is_too_slow_ends_the_runs(self, coach, athlete, room) -> None:
        floor = begun(coach, athlete, room, ("sprint", "4x30 m"))
        assert asks(floor, "X1") == ["time_s"]
        floor = log(coach, floor, "X1", 1, reps=1, measures={"time_s": 4.0})
        assert line_of(floor, "X1")["advice"]["move"] != "done"
        floor = log(coach, floor, "X1", 2, reps=1, measures={"time_s": 4.25})
        assert line_of(floor, "X1")["ended"]
        assert "Run 4.25 s, 6 % over the best" in line_of(floor, "X1")["advice"]["sentence"]
        assert line_of(floor, "X1")["sets"][1]["run_off"]

    def test_a_typed_velocity_moves_the_next_load_and_is_kept_as_another_devices(self, coach, athlete, room) -> None:
        floor = begun(coach, athlete, room, ("trap_bar_deadlift", "3x3 @ 0.80-0.90 m/s"))
        load = line_of(floor, "X1")["sets"][-1]["load_kg"]
        floor = log(coach, floor, "X1", 1, load_kg=load, measures={"velocity_mps": 0.6})
        advice = line_of(floor, "X1")["advice"]
        assert "0.60 m/s, slower than 0.80" in advice["sentence"]
        assert advice["load_kg"] < load
        book = LiftBook([athlete], clock.today())
        (point,) = book.points_of(athlete.pk, "trap_bar_deadlift")
        assert (point.velocity_mps, point.load_kg, point.definition) == (0.6, load, Definition.DEVICE)
        undone = coach.ok("POST", f"floor/sessions/{floor['id']}/undo", {})
        assert line_of(undone, "X1")["advice"] is None
        assert not LiftBook([athlete], clock.today()).points_of(athlete.pk, "trap_bar_deadlift")

    def test_what_cannot_be_is_said_in_trade_words(self, coach, athlete, room) -> None:
        floor = begun(coach, athlete, room, ("drop_jump", "3x3"))
        body = {"line_id": line_of(floor, "X1")["id"], "kind": "work", "number": 1, "reps": 3, "jumps": [{"height_cm": 0}]}
        refused = coach.send("POST", f"floor/sessions/{floor['id']}/sets", body)
        assert refused.status_code == 422
        assert refused.json()["title"] == "0 cm cannot be a jump."

    def test_correcting_a_set_keeps_its_jumps(self, coach, athlete, room) -> None:
        floor = begun(coach, athlete, room, ("drop_jump", "3x3"))
        floor = log(coach, floor, "X1", 1, jumps=[{"height_cm": 40, "contact_s": 0.2}])
        was = line_of(floor, "X1")["sets"][0]["done"]
        body = {
            "line_id": line_of(floor, "X1")["id"],
            "kind": "work",
            "number": 1,
            "reps": 2,
            "seen_id": was["id"],
            "jumps": was["jumps"],
        }
        fresh = coach.ok("POST", f"floor/sessions/{floor['id']}/sets/correct", body)
        now = line_of(fresh, "X1")["sets"][0]
        assert (now["done"]["reps"], now["jumps"][0]["height_cm"]) == (2, 40)


class TestTwoWords:
    def test_the_same_tapped_twice_stands_once(self, coach, floor) -> None:
        for _ in range(2):
            log(coach, floor, "A1", 1, load_kg=60)
        assert SetRecord.objects.count() == 1

    def test_two_different_words_are_both_told_and_one_is_chosen(self, coach, floor) -> None:
        log(coach, floor, "A1", 1, load_kg=60, rir=2)
        body = {"line_id": line_of(floor, "A1")["id"], "kind": "work", "number": 1, "reps": 2, "load_kg": 60}
        answer = coach.send("POST", f"floor/sessions/{floor['id']}/sets", body)
        assert answer.status_code == 409
        problem = answer.json()
        assert problem["stored"] == "set 1 of A1: 60 kg × 3, 2 left"
        coach.ok("POST", f"floor/sessions/{floor['id']}/sets/correct", {**body, "seen_id": problem["stored_id"]})
        assert [r.reps for r in SetRecord.objects.filter(taken_back_at__isnull=True)] == [2]


class TestPounds:
    def test_a_pounds_room_says_no_kilogram_on_the_floor(self, coach, athlete, room) -> None:
        plates = [{"mass": m, "pairs": 4} for m in (45, 35, 25, 10, 5, 2.5)]
        kit = {
            "name": "Pounds hall",
            "unit": "lb",
            "bar": 45,
            "collar": 0,
            "plates": plates,
            "has": ["barbell"],
            "attachments": [],
        }
        coach.ok("POST", "settings/kits", kit)
        coach.ok("PATCH", f"athletes/{athlete.pk}/record", {"kit_id": KitRecord.objects.get().pk})
        floor = begun(coach, athlete, room, ("bench_press", "4x5 @ 75 %"))
        said: list[str] = []
        for rir in (None, 4, 0, None):
            while floor["current"]["kind"] == "ramp":
                floor = coach.ok(
                    "POST", f"floor/sessions/{floor['id']}/sets", {**floor["current"], "load": 45, "unit": "lb", "reps": 5}
                )
            at = floor["current"]
            item = next(s for s in line_of(floor, "X1")["sets"] if (s["kind"], s["number"]) == ("work", at["number"]))
            assert item["load_words"]
            body = {**at, "load": float(item["load_words"]), "unit": item["unit"], "reps": 5, "rir": rir}
            floor = coach.ok("POST", f"floor/sessions/{floor['id']}/sets", body)
            said += texts_in(floor) + texts_in(coach.get(f"room/{room['id']}/racks"))
            if line_of(floor, "X1")["ended"]:
                break
        assert any(re.search(r"\d lb", t) for t in said)
        assert sorted({t for t in said if re.search(r"\d ?kg\b", t)}) == []
        coach.ok("POST", f"floor/sessions/{floor['id']}/finish", {"srpe": 6})
        review = coach.get(f"floor/sessions/{floor['id']}/review")
        lift = next(x for x in review["lifts"] if x["exercise_id"] == "bench_press")
        assert lift["unit"] == "lb"
        assert float(lift["after"]) == pytest.approx(lift["after_kg"] / 0.45359237, abs=0.2)
        assert all(" lb × " in words for line in review["lines"] for words in line["sets"])
        benches = [n for n in review["next_loads"] if n["exercise"].startswith("Bench press")]
        assert all(n["after"].endswith(" lb") for n in benches)

    def test_a_load_typed_in_pounds_is_the_one_the_plates_make(self, coach, floor) -> None:
        floor = log(coach, floor, "A1", 1, load=135, unit="lb")
        record = SetRecord.objects.get()
        assert record.load_kg == pytest.approx(61.23, abs=0.01)
        body = {"line_id": line_of(floor, "A1")["id"], "kind": "work", "number": 2, "reps": 3, "load": 5, "unit": "stone"}
        assert coach.send("POST", f"floor/sessions/{floor['id']}/sets", body).json()["accepted"] == "kg or lb."


class TestBoard:
    def test_the_board_shows_who_is_shown(self, coach, athlete, room) -> None:
        other = Athlete.objects.create(squad=athlete.squad, name="Bo Quiet", training_age_years=3)
        coach.ok("POST", "room", {"squad_id": athlete.squad_id})
        for who, height in ((athlete, 38.0), (other, 44.0)):
            floor = begun(coach, who, room, ("countermovement_jump", "2x3"))
            log(coach, floor, "X1", 1, jumps=[{"height_cm": height}])
        board = coach.get(f"room/{room['id']}/board")
        assert [c["key"] for c in board["choices"]] == ["height:countermovement_jump"]
        assert (board["chosen"], board["rows"]) == ("", [])
        board = coach.ok("POST", f"room/{room['id']}/board", {"key": "height:countermovement_jump"})
        assert [(r["place"], r["name"], r["best"]) for r in board["rows"]] == [(1, "Bo Quiet", "44.0"), (2, athlete.name, "38.0")]
        board = coach.ok("POST", f"room/{room['id']}/board/shown", {"athlete_id": other.pk, "is_shown": False})
        assert [(r["place"], r["name"]) for r in board["rows"]] == [(1, athlete.name)]
        assert {p["name"]: p["is_shown"] for p in board["people"]}["Bo Quiet"] is False
        assert coach.send("POST", f"room/{room['id']}/board", {"key": "height:back_squat"}).status_code == 422


class TestPlaces:
    def test_a_place_for_jumps_has_no_plates_and_nobody_is_placed_there_by_load(self, coach, athlete, room) -> None:
        coach.ok("POST", f"room/{room['id']}/racks", {"racks": 2, "goal": "strength"})
        after = coach.ok("POST", f"room/{room['id']}/use", {"rack": 1, "use": "jumps"})
        assert [p["title"] for p in after["places"]] == ["Jumps 1", "Rack 2"]
        floor = begun(coach, athlete, room, ("countermovement_jump", "2x3"))
        log(coach, floor, "X1", 1, jumps=[{"height_cm": 41.5}])
        lane = coach.get(f"room/{room['id']}/racks")["lanes"][0]
        assert (lane["title"], lane["word"]) == ("Jumps 1", "")
        assert lane["turns"][0]["results"] == "42, best 42 cm"
        coach.ok("POST", f"room/{room['id']}/racks", {"racks": 2, "goal": "strength", "place": True})
        assert athlete.attendances.get().rack == 2

    def test_an_unknown_use_is_refused(self, coach, room) -> None:
        assert coach.send("POST", f"room/{room['id']}/use", {"rack": 1, "use": "swimming"}).status_code == 422


class TestAfterTheMainWork:
    def test_it_may_stop_there_with_one_tap_and_undo_brings_it_back(self, coach, floor) -> None:
        while floor["current"] and not floor["asks_to_stop"]:
            at = floor["current"]
            floor = coach.ok("POST", f"floor/sessions/{floor['id']}/sets", {**at, "load_kg": 30, "reps": 5})
        assert floor["asks_to_stop"]
        after = coach.ok("POST", f"floor/sessions/{floor['id']}/stop-here", {})
        assert after["current"] is None
        assert after["left"] == {"sets": 0, "minutes": 0, "may_cut": []}
        assert coach.ok("POST", f"floor/sessions/{floor['id']}/undo", {})["current"] is not None

    def test_a_line_of_three_to_five_sets_asks_for_more_until_five_or_the_next_lift(self, coach, athlete, season) -> None:
        week = coach.get(f"athletes/{athlete.pk}/week")["week"]
        day = next(d["day"] for d in week["days"] if d["sheet"] is None and not d["is_past"])
        key = coach.ok("POST", f"athletes/{athlete.pk}/sessions", {"day": day, "theme": "By hand"})["key"]
        text = "back squat 2-3x5 @ 60 kg\nbench press 1x5 @ 40 kg"
        coach.ok("POST", f"athletes/{athlete.pk}/sessions/{day}/{key}/edit", {"op": "type", "text": text})
        floor = coach.ok("POST", "floor/sessions", {"athlete_id": athlete.pk, "day": day, "key": key})
        squat = floor["lines"][0]["id"]

        def log(floor: Any) -> Any:
            return coach.ok("POST", f"floor/sessions/{floor['id']}/sets", {**floor["current"], "load_kg": 40, "reps": 5})

        done = 0
        while done < 2:
            assert floor["goes_on"] is None
            done += floor["current"]["kind"] == "work"
            floor = log(floor)
        assert floor["current"]["line_id"] != squat
        assert (floor["goes_on"]["line_id"], floor["sets_left"]) == (squat, 1)
        assert "2 done, up to 3 are written" in floor["goes_on"]["words"]
        floor = coach.ok("POST", f"floor/sessions/{floor['id']}/lines/{squat}/more", {})
        assert (floor["current"]["line_id"], floor["goes_on"]) == (squat, None)
        assert log(floor)["goes_on"] is None, "three are done"
        coach.ok("POST", f"floor/sessions/{floor['id']}/undo", {})
        coach.ok("POST", f"floor/sessions/{floor['id']}/undo", {})
        floor = coach.get(f"floor/sessions/{floor['id']}")
        assert floor["goes_on"]["line_id"] == squat
        while floor["current"]:
            floor = log(floor)
        assert floor["goes_on"] is None, "the next lift was done"

    def test_minutes_left_fall_with_every_set(self, coach, floor) -> None:
        seen = [floor["left"]["minutes"]]
        main = next(x for x in floor["lines"] if x["slot"] == "A1")
        work = sum(1 for s in main["sets"] if s["kind"] == "work")
        before = after_main = None
        while floor["current"]:
            at = floor["current"]
            is_main = (at["line_id"], at["kind"]) == (main["id"], "work")
            before = seen[-1] if is_main and before is None else before
            floor = coach.ok("POST", f"floor/sessions/{floor['id']}/sets", {**at, "load_kg": 30, "reps": 5})
            seen.append(floor["left"]["minutes"])
            after_main = seen[-1] if is_main else after_main
        assert seen == sorted(seen, reverse=True)
        assert seen[0] > seen[-1] == 0
        assert before - after_main >= work * main["rest_s"] / 60 - 1, "its sets and the rests between them"

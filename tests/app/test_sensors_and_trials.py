"""A device with results only, a gap in a signal, a trial measured by a sensor, heart rates, what practice has worked."""

from __future__ import annotations

import json
from typing import Any

import numpy as np
import pytest
from django.test import Client

from jarvok.app import clock
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import SensorStream, SetRecord
from jarvok.app.facts.room.models import Reading, Sensor
from jarvok.app.room import sensors
from jarvok.core.exercises import Pattern
from jarvok.core.floor.left import heart_words
from jarvok.core.floor.pain import loads
from jarvok.core.library.exercises import exercise
from jarvok.core.sensors.readings import RESULTS, Results, read_messages
from jarvok.core.sensors.simulated import mat_messages, result_messages
from jarvok.core.sensors.stream import write_samples
from jarvok.core.sensors.trace import simulate_set

pytestmark = pytest.mark.django_db


@pytest.fixture
def room(coach: Any, athlete: Athlete) -> Any:
    return coach.ok("POST", "room", {"squad_id": athlete.squad_id})


def begun(coach: Any, athlete: Athlete, room: Any, exercise_id: str, text: str) -> Any:
    coach.ok("POST", f"room/{room['id']}/racks/1/join", {"athlete_id": athlete.pk, "source": "free"})
    lanes = coach.get(f"room/{room['id']}/racks")
    session = lanes["lanes"][0]["turns"][0]["session_id"]
    return coach.ok("POST", f"floor/sessions/{session}/lines", {"exercise_id": exercise_id, "text": text})


def paired(coach: Any, sort: str, rack: int | None = 1) -> Sensor:
    coach.ok("POST", "sensors", {"name": f"My {sort}", "sort": sort, "rack": rack})
    found = Sensor.objects.get(name=f"My {sort}")
    sensors.forget(found.token)
    return found


def sent(sensor: Sensor, body: str) -> Any:
    answer = Client().post(f"/api/sensors/{sensor.token}/messages", body, content_type="text/plain")
    assert answer.status_code == 200, answer.content
    return answer.json()


def to_work(coach: Any, floor: Any) -> Any:
    while floor["current"]["kind"] == "ramp":
        floor = coach.ok("POST", f"floor/sessions/{floor['id']}/sets", {**floor["current"], "load_kg": 40, "reps": 3})
    return floor


class TestResultsOnly:
    def lines(self, *velocities: float, is_peak: bool = False, first: int = 0) -> str:
        rows = result_messages(velocities, is_peak, np.random.default_rng(1))
        return "".join(json.dumps({"n": n + first, "t": t, "mps": v, "peak": p}) + "\n" for n, t, (v, p) in rows)

    def test_its_velocities_are_of_the_set_that_is_up_and_move_the_next_load(self, coach, athlete, room) -> None:
        floor = to_work(coach, begun(coach, athlete, room, "trap_bar_deadlift", "3x3 @ 0.80-0.90 m/s"))
        sensor = paired(coach, "results")
        assert sent(sensor, self.lines(0.62, 0.6))["found"] == 2
        assert sent(sensor, self.lines(0.62, 0.6))["found"] == 0, "sent twice counts once"
        floor = coach.get(f"floor/sessions/{floor['id']}")
        item = next(s for s in floor["lines"][0]["sets"] if s["kind"] == "work")
        assert item["device_mps"] == [0.62, 0.6]
        floor = coach.ok(
            "POST", f"floor/sessions/{floor['id']}/sets", {**floor["current"], "load_kg": item["load_kg"], "reps": 3}
        )
        assert "Best rep 0.62, slower than 0.80" in floor["lines"][0]["advice"]["sentence"]
        assert SetRecord.objects.latest("pk").measures == {"velocity_mps": 0.62}
        (point,) = LiftBook([athlete], clock.today()).points[athlete.pk, "trap_bar_deadlift"]
        assert point.velocity_mps == 0.62

    def test_a_peak_is_no_mean(self, coach, athlete, room) -> None:
        floor = to_work(coach, begun(coach, athlete, room, "trap_bar_deadlift", "3x3 @ 80 %"))
        sent(paired(coach, "results"), self.lines(1.2, is_peak=True))
        item = next(s for s in coach.get(f"floor/sessions/{floor['id']}")["lines"][0]["sets"] if s["kind"] == "work")
        assert item["device_mps"] == []

    def test_what_cannot_be_is_named(self) -> None:
        read = read_messages(RESULTS, '{"n": 0, "t": 1, "mps": 9}\n{"n": 1, "t": 2, "mps": 0.5}\n{"n": 2, "t": 2, "mps": true}')
        assert [r[2] for r in read.rows] == [(0.5, False)]
        assert "from 0.05 to 6" in read.problems[0]
        results = Results()
        assert results.push(read.rows) == [(0.5, False)]
        assert results.push(read.rows) == []


class TestGap:
    def test_a_set_with_a_gap_in_its_signal_says_so(self, coach, floor) -> None:
        line = next(x for x in floor["lines"] if x["slot"] == "A1")
        body = {"line_id": line["id"], "kind": "work", "number": 1}
        coach.ok("POST", f"floor/sessions/{floor['id']}/streams", body)
        SensorStream.objects.update(gaps=1)
        after = coach.ok("POST", f"floor/sessions/{floor['id']}/sets", {**body, "load_kg": 60, "reps": 5})
        sets = next(x for x in after["lines"] if x["slot"] == "A1")["sets"]
        assert next(s for s in sets if s["kind"] == "work")["done"]["has_gap"]
        assert "gap in the signal" in after["just_done"]["measured"]
        again = coach.ok("POST", f"floor/sessions/{floor['id']}/sets", {**body, "number": 2, "load_kg": 60, "reps": 5})
        assert "gap in the signal" not in again["just_done"]["measured"]


class TestTrials:
    def trial(self, coach: Any, athlete: Athlete, kind: str, exercise_id: str, **asked: Any) -> Any:
        return coach.ok("POST", f"athletes/{athlete.pk}/trials", {"kind": kind, "exercise_id": exercise_id, **asked})

    def test_a_bar_sensor_measures_a_ladder_and_goes_back_to_its_rack(self, coach, athlete, room) -> None:
        trial = self.trial(coach, athlete, "ladder", "trap_bar_jump", target_mps=1.8)
        sensor = paired(coach, "bar")
        found = coach.ok("POST", f"trials/{trial['id']}/sensor", {"sensor_id": sensor.pk})
        assert (found["chosen"], found["velocities_mps"]) == (sensor.pk, [])
        trace = simulate_set(Pattern.SQUAT, [0.9, 0.92], 0.5, 100, 0.0005, np.random.default_rng(2))
        rows = [(n, t, x) for n, (t, x) in enumerate(trace.samples())]
        for at in range(0, len(rows), 50):
            sent(sensor, write_samples(rows[at : at + 50]))
        seen = coach.get(f"trials/{trial['id']}/measured")["velocities_mps"]
        assert len(seen) >= 1
        coach.ok("POST", f"trials/{trial['id']}/tries", {"number": 1, "load": 40, "velocity_mps": max(seen)})
        assert coach.get(f"trials/{trial['id']}/measured")["velocities_mps"] == [], "what was logged is not asked again"
        back = coach.ok("POST", f"trials/{trial['id']}/sensor", {"sensor_id": None})
        assert back["chosen"] is None

    def test_a_mat_measures_the_jumps_of_a_rest_test(self, coach, athlete, room) -> None:
        trial = self.trial(
            coach, athlete, "rest", "countermovement_jump", rests_s=[60, 180, 300], heavy_set="back squat 1 × 3 @ 85 %"
        )
        sensor = paired(coach, "mat")
        coach.ok("POST", f"trials/{trial['id']}/sensor", {"sensor_id": sensor.pk})
        rows = mat_messages([34, 36], 0.0, np.random.default_rng(1))
        sent(sensor, "".join(json.dumps({"n": n, "t": t, "down": d}) + "\n" for n, t, d in rows))
        heights = coach.get(f"trials/{trial['id']}/measured")["heights_cm"]
        assert heights == [pytest.approx(34, abs=0.6), pytest.approx(36, abs=0.6)]
        assert not Reading.objects.filter(line__isnull=False).exists()

    def test_what_does_not_measure_it_is_refused(self, coach, athlete, room) -> None:
        trial = self.trial(coach, athlete, "rest", "countermovement_jump", rests_s=[60, 180, 300], heavy_set="squat")
        bar = paired(coach, "bar")
        assert coach.get(f"trials/{trial['id']}/measured")["sensors"] == []
        assert coach.send("POST", f"trials/{trial['id']}/sensor", {"sensor_id": bar.pk}).status_code == 422


class TestHeart:
    def test_the_next_run_waits_for_the_heart(self, coach, athlete, room) -> None:
        begun(coach, athlete, room, "sprint", "4x30 m")
        sensor = paired(coach, "heart")
        sent(sensor, '{"n": 0, "t": 10, "bpm": 150}\n')
        turn = coach.get(f"room/{room['id']}/racks")["lanes"][0]["turns"][0]
        assert turn["heart"] == "150 bpm: wait for 130"
        assert heart_words(130) == "130 bpm: wait for 130"
        assert heart_words(129) == "129 bpm: go"


class TestWorkedByPractice:
    def test_what_practice_has_worked_is_less_without_being_called_pain(self, coach, athlete, season) -> None:
        week = coach.get(f"athletes/{athlete.pk}/week")["week"]
        day = next(d for d in week["days"] if d["sheet"] and not d["is_past"])
        room = coach.ok("POST", "room", {"squad_id": athlete.squad_id, "day": day["day"]})
        said = {"sleep": 4, "soreness": 4, "stress": 4, "energy": 4, "loaded": ["shoulder"]}
        after = coach.ok("POST", f"room/{room['id']}/answers/{athlete.pk}", said)
        person = next(p for p in after["people"] if p["athlete_id"] == athlete.pk)
        assert person["suggestion"]["plan"] == "A"
        assert person["suggestion"]["referral"] == ""
        assert "worked by practice today: shoulder" in person["suggestion"]["reasons"]
        up = next(
            x for x in coach.ok("POST", f"room/{room['id']}/racks/1/join", {"athlete_id": athlete.pk})["lanes"] if x["rack"] == 1
        )["up"]
        for line in up["lines"]:
            worked = loads("shoulder", exercise(line["exercise_id"]))
            assert not line["left_out"]
            assert ("worked by practice" in line["change"]) <= worked
            assert not worked or line["sets_as_written"] == 1 or "worked by practice" in line["change"] or not line["change"]
        assert any("worked by practice" in x["change"] for x in up["lines"])

    def test_a_place_that_is_not_known_is_refused(self, coach, athlete, room) -> None:
        refused = coach.send("POST", f"room/{room['id']}/answers/{athlete.pk}", {"loaded": ["ear"]})
        assert refused.json()["where"] == "loaded"

"""A device with results only, a gap in a signal, a trial measured by a sensor, heart rates, what practice has worked."""

from __future__ import annotations

import json
import time
from datetime import timedelta
from types import SimpleNamespace
from typing import Any

import numpy as np
import pytest
from django.test import Client

from jarvok.app import clock
from jarvok.app.athletes.lift_book import LiftBook
from jarvok.app.facts.athletes.models import Athlete, MarkRecord
from jarvok.app.facts.floor.models import AdviceRecord, SensorStream, SetRecord, TrainingSession
from jarvok.app.facts.room.models import Reading, Sensor
from jarvok.app.floor import streams
from jarvok.app.floor.bests import bests_since
from jarvok.app.floor.results import last_results
from jarvok.app.room import paired as paired_sensors
from jarvok.core.exercises import Pattern
from jarvok.core.floor.left import heart_words
from jarvok.core.floor.pain import loads
from jarvok.core.library.exercises import exercise
from jarvok.core.sensors.readings import RESULTS, Results, is_of_the_set_before, read_messages
from jarvok.core.sensors.simulated import gate_messages, mat_messages, result_messages
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
    paired_sensors.forget(found.token)
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
        assert "Best rep 0.62 m/s, slower than 0.80" in floor["lines"][0]["advice"]["sentence"]
        assert SetRecord.objects.latest("pk").measures == {"velocity_mps": 0.62}
        (point,) = LiftBook([athlete], clock.today()).points_of(athlete.pk, "trap_bar_deadlift")
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

    def kept(self) -> float | None:
        return SetRecord.objects.latest("pk").measures.get("velocity_mps")

    def test_one_taken_out_or_come_late_changes_what_is_kept_and_the_next_load(
        self, coach, athlete, room, django_capture_on_commit_callbacks
    ) -> None:
        floor = to_work(coach, begun(coach, athlete, room, "trap_bar_deadlift", "3x3 @ 0.80-0.90 m/s"))
        sensor = paired(coach, "results")
        sent(sensor, self.lines(0.62, 0.95))
        fast = Reading.objects.latest("pk")
        with django_capture_on_commit_callbacks(execute=True):
            floor = coach.ok("POST", f"floor/sessions/{floor['id']}/sets", {**floor["current"], "load_kg": 60, "reps": 3})
        assert self.kept() == 0.95
        assert "faster than 0.80" in floor["lines"][0]["advice"]["sentence"]
        floor = coach.ok("POST", f"floor/sessions/{floor['id']}/readings/{fast.pk}/out", {})
        assert self.kept() == 0.62
        assert "Best rep 0.62 m/s, slower than 0.80" in floor["lines"][0]["advice"]["sentence"]
        sent(sensor, self.lines(0.7, first=100))
        assert self.kept() == 0.7
        floor = coach.get(f"floor/sessions/{floor['id']}")
        assert "Best rep 0.70 m/s" in floor["lines"][0]["advice"]["sentence"]

    def test_what_was_typed_stays(self, coach, athlete, room) -> None:
        floor = to_work(coach, begun(coach, athlete, room, "trap_bar_deadlift", "3x3 @ 80 %"))
        sent(paired(coach, "results"), self.lines(0.62, 0.95))
        body = {**floor["current"], "load_kg": 60, "reps": 3, "measures": {"velocity_mps": 0.66}}
        coach.ok("POST", f"floor/sessions/{floor['id']}/sets", body)
        coach.ok("POST", f"floor/sessions/{floor['id']}/readings/{Reading.objects.latest('pk').pk}/out", {})
        assert self.kept() == 0.66


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


class TestDropOut:
    """A bar sensor that stops sending in the middle of a set."""

    def half_a_set(self, sensor: Sensor, first: int = 0) -> list[tuple[int, float, float]]:
        trace = simulate_set(Pattern.SQUAT, [0.9, 0.88, 0.86, 0.84], 0.5, 100, 0.0005, np.random.default_rng(2))
        rows = [(n + first, t, x) for n, (t, x) in enumerate(trace.samples())]
        for at in range(0, len(rows) // 2, 50):
            sent(sensor, write_samples(rows[at : at + 50]))
        return rows

    @pytest.fixture
    def lifting(self, coach: Any, athlete: Athlete, room: Any) -> tuple[Any, Sensor]:
        floor = to_work(coach, begun(coach, athlete, room, "trap_bar_deadlift", "2x4 @ 60 %"))
        sensor = paired(coach, "bar")
        self.half_a_set(sensor)
        return floor, sensor

    def log(self, coach: Any, floor: Any, reps: int) -> Any:
        body = {**floor["current"], "load_kg": 60, "reps": reps}
        after = coach.ok("POST", f"floor/sessions/{floor['id']}/sets", body)
        return next(s for s in after["lines"][0]["sets"] if s["kind"] == "work" and s["number"] == body["number"])

    @pytest.mark.parametrize(("silent_s", "gap"), [(3.0, False), (3.01, True)])
    def test_the_set_says_that_its_numbers_are_of_a_part(self, coach, lifting, monkeypatch, silent_s: float, gap: bool) -> None:
        floor, _ = lifting
        now = time.monotonic()
        monkeypatch.setattr(streams, "time", SimpleNamespace(monotonic=lambda: now, time=time.time))
        for live in streams._live.values():
            live.heard_at = now - silent_s
        done = self.log(coach, floor, 4)
        assert 1 <= len(done["measured"]) < 4
        assert done["done"]["has_gap"] is gap

    def test_with_every_repetition_seen_silence_is_no_gap(self, coach, lifting) -> None:
        floor, _ = lifting
        for live in streams._live.values():
            live.heard_at = time.monotonic() - 60
        seen = len(coach.get(f"floor/sessions/{floor['id']}")["lines"][0]["sets"][-2]["measured"])
        assert not self.log(coach, floor, seen)["done"]["has_gap"]

    @pytest.mark.parametrize(
        ("silent_s", "said"), [(9, None), (11, "sends nothing for 11 s"), (1795, "sends nothing for 1795 s"), (1801, None)]
    )
    def test_a_lane_says_which_sensor_is_silent(self, coach, room, lifting, silent_s: float, said: str | None) -> None:
        _, sensor = lifting
        paired_sensors.known(sensor.token).heard_at = time.monotonic() - silent_s
        found = coach.get(f"room/{room['id']}/silent")
        assert found == ([{"sensor_id": sensor.pk, "words": said}] if said else [])

    def test_a_tablet_hears_of_its_own_rack_alone(self, coach, room, lifting) -> None:
        _, sensor = lifting
        paired_sensors.known(sensor.token).heard_at = time.monotonic() - 20
        coach.ok("POST", f"room/{room['id']}/racks", {"racks": 2, "goal": "strength"})
        for rack, count in ((1, 1), (2, 0)):
            link = coach.ok("POST", f"room/{room['id']}/racks/{rack}/link", {})["path"].removeprefix("/rack/")
            answer = Client(headers={"X-Rack-Link": link}).get(f"/api/room/{room['id']}/silent")
            assert len(answer.json()) == count
        assert Client().get(f"/api/room/{room['id']}/silent").status_code == 401


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

    def test_a_guided_test_of_load_and_velocity_is_measured_too(self, coach, athlete, room) -> None:
        sensor = paired(coach, "bar")
        test = coach.ok("POST", f"athletes/{athlete.pk}/tests", {"exercise_id": "back_squat", "kind": "load_velocity"})
        assert coach.ok("POST", f"trials/{test['id']}/sensor", {"sensor_id": sensor.pk})["chosen"] == sensor.pk
        trace = simulate_set(Pattern.SQUAT, [0.95, 0.9], 0.5, 100, 0.001, np.random.default_rng(5))
        sent(sensor, write_samples([(n, t, x) for n, (t, x) in enumerate(trace.samples())]))
        seen = coach.get(f"trials/{test['id']}/measured")["velocities_mps"]
        assert seen == pytest.approx([0.95, 0.9], rel=0.06)  # phases of half a second
        body = {"number": 1, "load": 60, "reps": 2, "velocity_mps": max(seen)}
        assert coach.ok("POST", f"tests/{test['id']}/attempts", body)["attempts"][0]["velocity_mps"] == max(seen)
        assert coach.get(f"trials/{test['id']}/measured")["velocities_mps"] == []

    def test_what_does_not_measure_it_is_refused(self, coach, athlete, room) -> None:
        trial = self.trial(coach, athlete, "rest", "countermovement_jump", rests_s=[60, 180, 300], heavy_set="squat")
        bar = paired(coach, "bar")
        assert coach.get(f"trials/{trial['id']}/measured")["sensors"] == []
        assert coach.send("POST", f"trials/{trial['id']}/sensor", {"sensor_id": bar.pk}).status_code == 422


class TestOnePerSet:
    """A jump that was none, or came after the tap."""

    def mat(self, heights_cm: list[float], first: int = 0, at_s: float = 0.0) -> str:
        rows = mat_messages(heights_cm, 0.0, np.random.default_rng(1))
        return "".join(json.dumps({"n": n + first, "t": t + at_s, "down": d}) + "\n" for n, t, d in rows)

    def heights(self, coach: Any, floor: Any, number: int) -> list[int]:
        sets = coach.get(f"floor/sessions/{floor['id']}")["lines"][0]["sets"]
        return [round(j["height_cm"]) for s in sets if (s["kind"], s["number"]) == ("work", number) for j in s["jumps"]]

    @pytest.fixture
    def jumping(self, coach: Any, athlete: Athlete, room: Any) -> Any:
        return to_work(coach, begun(coach, athlete, room, "countermovement_jump", "2x3"))

    def test_a_step_off_the_mat_is_taken_out_and_put_back(self, coach, jumping) -> None:
        sent(paired(coach, "mat"), self.mat([36, 35, 20]))
        assert self.heights(coach, jumping, 1) == [36, 35, 20]
        item = next(s for s in coach.get(f"floor/sessions/{jumping['id']}")["lines"][0]["sets"] if s["kind"] == "work")
        assert item["jumps_off"], "the low one would end the set"
        low = next(x for x in item["seen"] if x["words"].startswith("20"))
        path = f"floor/sessions/{jumping['id']}/readings/{low['id']}"
        after = coach.ok("POST", f"{path}/out", {})
        item = next(s for s in after["lines"][0]["sets"] if s["kind"] == "work")
        assert not item["jumps_off"]
        assert [x["id"] for x in item["seen_out"]] == [low["id"]]
        assert self.heights(coach, jumping, 1) == [36, 35]
        coach.ok("POST", f"{path}/back", {})
        assert self.heights(coach, jumping, 1) == [36, 35, 20]

    def test_one_taken_out_is_no_height_to_beat(self, coach, athlete, jumping) -> None:
        sent(paired(coach, "mat"), self.mat([36, 48]))
        high = Reading.objects.latest("pk")
        coach.ok("POST", f"floor/sessions/{jumping['id']}/readings/{high.pk}/out", {})
        TrainingSession.objects.update(day=clock.today() - timedelta(days=3))
        session = TrainingSession(athlete=athlete, day=clock.today())
        assert last_results(session, ["countermovement_jump"])["countermovement_jump"].startswith("to beat: 36 cm")

    def test_it_goes_to_another_set_of_the_same_exercise_only(self, coach, jumping) -> None:
        sent(paired(coach, "mat"), self.mat([36, 35]))
        last = Reading.objects.latest("pk")
        path = f"floor/sessions/{jumping['id']}/readings/{last.pk}/move"
        line = jumping["lines"][0]["id"]
        coach.ok("POST", path, {"line_id": line, "kind": "work", "number": 2})
        assert (self.heights(coach, jumping, 1), self.heights(coach, jumping, 2)) == ([36], [35])
        more = coach.ok("POST", f"floor/sessions/{jumping['id']}/lines", {"exercise_id": "back_squat", "text": "1x3 @ 50 %"})
        other = next(x["id"] for x in more["lines"] if x["id"] != line)
        assert coach.send("POST", path, {"line_id": other, "kind": "work", "number": 1}).status_code == 409
        assert coach.send("POST", path.replace(str(last.pk), "999999"), {"line_id": line, "kind": "work", "number": 1}
        ).status_code == 422  # fmt: skip

    @pytest.mark.parametrize(("seen", "seconds", "of_set"), [(2, 1.0, 1), (3, 1.0, 2), (2, 3.0, 2)])
    def test_what_comes_just_after_the_tap_fills_the_place_that_is_missing(
        self, coach, jumping, django_capture_on_commit_callbacks, seen: int, seconds: float, of_set: int
    ) -> None:
        mat = paired(coach, "mat")
        sent(mat, self.mat([36.0] * seen))
        with django_capture_on_commit_callbacks(execute=True):  # the sensor hears of it
            coach.ok("POST", f"floor/sessions/{jumping['id']}/sets", {**jumping["current"], "load_kg": None, "reps": 3})
        SetRecord.objects.update(done_at=clock.now() - timedelta(seconds=seconds))
        sent(mat, self.mat([30], first=1000, at_s=100.0))
        assert 30 in self.heights(coach, jumping, of_set)

    @pytest.fixture
    def off(self, coach: Any, jumping_on: Any, django_capture_on_commit_callbacks: Any) -> Any:
        """A step onto the mat counted as a jump of 48 cm, so that the next set looks far too low."""
        mat = paired(coach, "mat")
        floor = jumping_on
        for first, heights in ((0, [48, 36, 35]), (1000, [36, 35, 36])):
            sent(mat, self.mat(heights, first=first, at_s=float(first)))
            with django_capture_on_commit_callbacks(execute=True):
                body = {**floor["current"], "load_kg": None, "reps": 3}
                floor = coach.ok("POST", f"floor/sessions/{floor['id']}/sets", body)
        assert (floor["lines"][0]["advice"]["move"], floor["lines"][0]["ended"]) == ("done", True)
        return floor

    @pytest.fixture
    def jumping_on(self, coach: Any, athlete: Athlete, room: Any) -> Any:
        return to_work(coach, begun(coach, athlete, room, "countermovement_jump", "4x3"))

    def test_with_the_step_taken_out_the_jumps_are_not_over_after_all(self, coach, off) -> None:
        step = Reading.objects.order_by("pk").first()
        path = f"floor/sessions/{off['id']}/readings/{step.pk}"
        after = coach.ok("POST", f"{path}/out", {})
        assert (after["lines"][0]["ended"], after["lines"][0]["advice"]["move"]) == (False, "same")
        assert coach.ok("POST", f"{path}/back", {})["lines"][0]["ended"] is True
        assert AdviceRecord.objects.filter(taken_back_at__isnull=True, after_number=2).count() == 1

    def test_what_the_coach_has_answered_stands(self, coach, off) -> None:
        said = off["lines"][0]["advice"]["id"]
        coach.ok("POST", f"floor/sessions/{off['id']}/advice/{said}", {"accept": True, "load_kg": None})
        step = Reading.objects.order_by("pk").first()
        after = coach.ok("POST", f"floor/sessions/{off['id']}/readings/{step.pk}/out", {})
        assert (after["lines"][0]["ended"], after["lines"][0]["advice"]["id"]) == (True, said)

    def test_the_tablet_of_the_rack_may_and_that_of_another_may_not(self, coach, room, jumping) -> None:
        sent(paired(coach, "mat"), self.mat([36]))
        coach.ok("POST", f"room/{room['id']}/racks", {"racks": 2, "goal": "strength"})
        path = f"/api/floor/sessions/{jumping['id']}/readings/{Reading.objects.latest('pk').pk}/out"
        for rack, status in ((2, 401), (1, 200)):
            link = coach.ok("POST", f"room/{room['id']}/racks/{rack}/link", {})["path"].removeprefix("/rack/")
            tablet = Client(headers={"X-Rack-Link": link, "Idempotency-Key": f"a-jump-out-{rack}"})
            assert tablet.post(path, {}, content_type="application/json").status_code == status

    def test_of_runs_it_is_the_gate_that_was_not_passed_yet(self) -> None:
        assert is_of_the_set_before(0, 1, {1, 2}, 3)
        assert not is_of_the_set_before(0, 1, {1, 2}, 1)
        assert not is_of_the_set_before(0, 1, set(), 1), "nothing of the run before was seen"


class TestGates:
    """Splits of gates whose places are known are a run: its curve, and its bests at each distance."""

    RUNNER = (9.0, 1.2)  # top speed in m/s, time constant in s

    def run(self, sensor: Sensor, first_n: int = 0, gates_m: tuple[float, ...] = (5, 10, 20, 30), faster: float = 1.0) -> Any:
        rows = gate_messages(gates_m, self.RUNNER[0] * faster, self.RUNNER[1], np.random.default_rng(1))
        return sent(sensor, "".join(json.dumps({"n": first_n + n, "t": 40 * first_n + t, "gate": g}) + "\n" for n, t, g in rows))

    def gates(self, coach: Any, places: str) -> Sensor:
        sensor = paired(coach, "gates")
        coach.ok("PUT", f"sensors/{sensor.pk}/gates", {"gates": places})
        return Sensor.objects.get(pk=sensor.pk)

    def test_a_run_on_the_floor_is_a_curve_on_the_athletes_page(self, coach, athlete, room) -> None:
        begun(coach, athlete, room, "sprint", "4x30 m")
        sensor = self.gates(coach, "5 10 20 30")
        assert coach.get(f"athletes/{athlete.pk}/standing")["sprint"] is None
        assert self.run(sensor)["found"] == 4
        found = coach.get(f"athletes/{athlete.pk}/standing")["sprint"]
        assert found["day"] == "2026-11-24"
        assert found["vmax_mps"] == pytest.approx(9.0, abs=0.1)
        assert [s["distance_m"] for s in found["splits"]] == [5, 10, 20, 30]
        turn = coach.get(f"room/{room['id']}/racks")["lanes"][0]["turns"][0]
        splits = coach.get(f"floor/sessions/{turn['session_id']}")["lines"][0]["sets"][0]["splits"]
        assert [s["at"] for s in splits] == ["5 m", "10 m", "20 m", "30 m"]

    def test_of_the_days_runs_the_fastest_is_drawn_and_one_taken_out_is_not(self, coach, athlete, room) -> None:
        floor = begun(coach, athlete, room, "sprint", "4x30 m")
        sensor = self.gates(coach, "5 10 20 30")
        self.run(sensor, faster=0.95)
        coach.ok("POST", f"floor/sessions/{floor['id']}/sets", {**floor["current"], "load_kg": None, "reps": 1})
        paired_sensors.forget(sensor.token)  # inside a test's own transaction nothing is told
        self.run(sensor, first_n=10)
        fast = coach.get(f"athletes/{athlete.pk}/standing")["sprint"]["vmax_mps"]
        assert fast == pytest.approx(9.0, abs=0.1)
        for reading in Reading.objects.filter(set_number=2):
            coach.ok("POST", f"floor/sessions/{floor['id']}/readings/{reading.pk}/out", {})
        assert coach.get(f"athletes/{athlete.pk}/standing")["sprint"]["vmax_mps"] < fast - 0.2

    def test_gates_that_nobody_has_placed_give_times_and_no_curve(self, coach, athlete, room) -> None:
        floor = begun(coach, athlete, room, "sprint", "4x30 m")
        self.run(paired(coach, "gates"))
        assert coach.get(f"athletes/{athlete.pk}/standing")["sprint"] is None
        splits = coach.get(f"floor/sessions/{floor['id']}")["lines"][0]["sets"][0]["splits"]
        assert [s["at"] for s in splits] == ["gate 1", "gate 2", "gate 3", "gate 4"]

    def test_gates_that_are_carried_elsewhere_leave_earlier_runs_as_they_were(self, coach, athlete, room) -> None:
        begun(coach, athlete, room, "sprint", "4x30 m")
        sensor = self.gates(coach, "5 10 20 30")
        self.run(sensor)
        before = coach.get(f"athletes/{athlete.pk}/standing")["sprint"]
        coach.ok("PUT", f"sensors/{sensor.pk}/gates", {"gates": "10 20 40 60"})
        assert coach.get(f"athletes/{athlete.pk}/standing")["sprint"] == before

    def test_what_was_passed_on_the_way_is_a_best_at_its_distance(self, coach, athlete, room) -> None:
        for distance_m, seconds in ((10, 2.6), (30, 4.6)):
            measures = {"distance_m": distance_m, "seconds": seconds}
            MarkRecord.objects.create(athlete=athlete, exercise_id="sprint", kind="sprint", day="2026-10-01", measures=measures)
        begun(coach, athlete, room, "sprint", "4x30 m")
        self.run(self.gates(coach, "5 10 20 30"))
        floor = TrainingSession.objects.get(athlete=athlete)
        now = coach.get(f"floor/sessions/{floor.pk}")["current"]
        said = coach.ok("POST", f"floor/sessions/{floor.pk}/sets", {**now, "load_kg": None, "reps": 1})["just_done"]["best"]
        assert "fastest 10 m" in said
        assert "fastest 30 m" in said
        found = bests_since([athlete.pk], clock.today(), clock.today())
        assert {b.at for b in found[athlete.pk, "sprint"]} == {10, 30}, "nothing was known at five metres: a first result is none"

    def test_a_time_that_is_typed_is_of_the_distance_written(self, coach, athlete, room) -> None:
        """Gates up to thirty metres of a run of forty: the stopwatch is of the forty, the last gate of the thirty."""
        for distance_m, seconds in ((30, 4.6), (40, 6.2)):
            measures = {"distance_m": distance_m, "seconds": seconds}
            MarkRecord.objects.create(athlete=athlete, exercise_id="sprint", kind="sprint", day="2026-10-01", measures=measures)
        floor = begun(coach, athlete, room, "sprint", "4x40 m")
        self.run(self.gates(coach, "5 10 20 30"))
        body = {**floor["current"], "load_kg": None, "reps": 1, "measures": {"time_s": 5.8}}
        said = coach.ok("POST", f"floor/sessions/{floor['id']}/sets", body)["just_done"]["best"]
        assert "fastest 40 m: 5.80 s" in said
        found = {b.at: b.value for b in bests_since([athlete.pk], clock.today(), clock.today())[athlete.pk, "sprint"]}
        assert found == {30: pytest.approx(4.5, abs=0.1), 40: 5.8}

    @pytest.mark.parametrize("places", ["five", "10 5", "0 10"])
    def test_places_that_cannot_be_are_refused(self, coach, places: str) -> None:
        sensor = paired(coach, "gates")
        assert coach.send("PUT", f"sensors/{sensor.pk}/gates", {"gates": places}).json()["where"] == "gates"
        assert coach.send("PUT", f"sensors/{paired(coach, 'mat').pk}/gates", {"gates": "5"}).json()["where"] == "gates"
        assert coach.ok("PUT", f"sensors/{sensor.pk}/gates", {"gates": ""})["sensors"][0]["gates"] == ""


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
        assert any(loads("shoulder", exercise(x["exercise_id"])) for x in up["lines"])
        for line in up["lines"]:
            written, done = line["sets_as_written"], sum(1 for s in line["sets"] if s["kind"] == "work")
            if not loads("shoulder", exercise(line["exercise_id"])):
                assert (done, line["change"]) == (written, "")
                continue
            less = max(1, written - int(written / 3 + 0.5))  # a third of them, as on plan B
            assert done == less
            said = f"{less} of {written} sets: worked by practice today" if less < written else ""
            assert (line["left_out"], line["change"]) == (False, said)

    def test_a_place_that_is_not_known_is_refused(self, coach, athlete, room) -> None:
        refused = coach.send("POST", f"room/{room['id']}/answers/{athlete.pk}", {"loaded": ["ear"]})
        assert refused.json()["where"] == "loaded"

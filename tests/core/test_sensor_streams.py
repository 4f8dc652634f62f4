"""Jump mat, gates and heart rate; faults on request; 10,000 fuzzed messages; files from devices."""

from __future__ import annotations

import json
import random
import string
from datetime import date

import numpy as np
import pytest

from jarvok.core.errors import CoachError
from jarvok.core.exercises import Pattern
from jarvok.core.interchange.velocity_files import guess_columns, guess_unit, read_reps, read_trace
from jarvok.core.library.exercises import exercise
from jarvok.core.sensors.faults import Fault, fault_named, with_faults
from jarvok.core.sensors.readings import GATES, HEART, MAT, Gates, HeartRate, JumpMat, read_messages
from jarvok.core.sensors.simulated import gate_messages, heart_messages, mat_messages, sprint_time_s
from jarvok.core.sensors.stream import read_samples, write_samples
from jarvok.core.sensors.trace import simulate_set
from jarvok.core.velocity.detect import RepDetector, detect_reps

MOTION = exercise("back_squat").motion
assert MOTION is not None


def squat_rows(seed: int = 1) -> list[tuple[int, float, float]]:
    trace = simulate_set(Pattern.SQUAT, [0.7, 0.66, 0.62], 0.55, 100, 0.001, np.random.default_rng(seed))
    return [(n, t, x) for n, (t, x) in enumerate(trace.samples())]


class TestMat:
    def test_heights_come_back_from_flight(self) -> None:
        # h = g t² / 8, Bosco 1983, quoted from memory
        heights = [30.0, 34.5, 38.0]
        jumps = JumpMat().push(mat_messages(heights, 0.0, np.random.default_rng(1)))
        assert [j.height_cm for j in jumps] == pytest.approx(heights, abs=0.6)
        assert all(j.contact_s is None for j in jumps), "from a stand there is no contact"

    def test_continuous_jumps_have_contact_and_rsi(self) -> None:
        # RSI = height / contact time, Young 1995, quoted from memory
        jumps = JumpMat().push(mat_messages([30, 31, 30], 0.2, np.random.default_rng(1)))
        assert jumps[0].contact_s is None
        assert jumps[1].contact_s == pytest.approx(0.2, abs=0.005)
        assert jumps[1].rsi == pytest.approx(0.31 / 0.2, rel=0.05)

    def test_messages_in_pieces_or_twice_give_the_same(self) -> None:
        rows = mat_messages([30, 34, 33], 0.2, np.random.default_rng(2))
        whole, pieces = JumpMat(), JumpMat()
        whole.push(rows)
        for row in rows:
            pieces.push([row])
            pieces.push([row])
        assert pieces.jumps == whole.jumps

    def test_impossible_flights_and_flicker_are_counted_not_believed(self) -> None:
        mat = JumpMat()
        mat.push([(0, 0.0, True), (1, 1.0, False), (2, 1.03, True), (3, 2.0, False), (4, 5.0, True), (5, 5.005, False)])
        assert mat.jumps == []
        assert mat.refused == 3


class TestGates:
    def test_splits_follow_the_sprint_model(self) -> None:
        # v(t) = vmax (1 − e^(−t/τ)), Samozino et al. 2016, quoted from memory
        gates = Gates()
        splits = dict(gates.push(gate_messages([5, 10, 20, 30], 8.6, 1.15, np.random.default_rng(1))))
        for i, metres in enumerate((5, 10, 20, 30), start=1):
            assert splits[i] == pytest.approx(sprint_time_s(metres, 8.6, 1.15), abs=0.01)
        t = splits[4]
        assert 8.6 * (t - 1.15 * (1 - np.exp(-t / 1.15))) == pytest.approx(30, abs=0.1)

    def test_a_gate_out_of_order_or_twice_is_refused(self) -> None:
        gates = Gates()
        assert gates.push([(0, 1.0, 2)]) == []
        assert gates.push([(1, 2.0, 0), (2, 3.0, 1), (3, 3.2, 1), (4, 2.5, 2)]) == [(1, 1.0)]
        assert gates.refused == 3


class TestHeart:
    def test_it_rises_and_falls_and_says_when_it_is_back(self) -> None:
        heart = HeartRate()
        rows = heart_messages(90, 175, 60, 90, np.random.default_rng(1))
        heart.push(rows[:60])
        assert not heart.is_back(130)
        heart.push(rows[60:])
        assert heart.is_back(130)
        assert heart.push(rows) == []


class TestFuzz:
    def message(self, rng: random.Random) -> str:
        kind = rng.randrange(9)
        if kind == 0:
            return "".join(rng.choice(string.printable) for _ in range(rng.randrange(60)))
        if kind == 1:
            return json.dumps(rng.choice([None, 3, "x", [], [1, 2], {}, True]))
        if kind == 2:
            return "[" * rng.choice([10, 5000])
        if kind == 3:
            return '{"n": 1e999, "t": NaN, "x": Infinity, "gate": -1, "down": 2, "bpm": 1e9}'
        value = rng.choice([rng.uniform(-1e9, 1e9), -1, 0, 10**400, "1", None, True, [], {"a": 1}, float("1e308")])
        names = ["n", "t", "x", "down", "gate", "bpm"]
        return json.dumps({rng.choice(names): value for _ in range(rng.randrange(5))})

    def test_ten_thousand_messages_crash_nothing_and_make_no_repetition(self) -> None:
        rng = random.Random(5)
        detector = RepDetector(MOTION, 100)
        mat, gates, heart = JumpMat(), Gates(), HeartRate()
        refused = taken = reps = 0
        for _ in range(10_000):
            line = self.message(rng)
            one = line.replace("\n", " ").replace("\r", " ")
            for read in (
                lambda b: read_samples(b),
                lambda b: read_messages(MAT, b),
                lambda b: read_messages(GATES, b),
                lambda b: read_messages(HEART, b),
            ):
                try:
                    found = read(one)
                except CoachError:
                    refused += 1
                    continue
                if hasattr(found, "samples"):
                    reps += len(detector.push((t, x) for _, t, x in found.samples))
                taken += 1
        assert refused + taken == 40_000
        assert refused > 39_000
        assert reps == 0
        assert not mat.jumps
        assert not gates.runs
        assert not heart.rates

    def test_good_lines_among_bad_ones_still_count_and_each_bad_one_is_named(self) -> None:
        rng = random.Random(6)
        rows = squat_rows()
        lines, bad = [], 0
        for row in rows:
            lines.append(write_samples([row]).strip())
            if rng.random() < 0.3:
                lines.append("{bad")
                bad += 1
        batch = read_samples("\n".join(lines))
        assert len(batch.problems) == bad
        detector = RepDetector(MOTION, 100)
        found = [*detector.push((t, x) for _, t, x in batch.samples), *detector.flush()]
        assert len(found) == 3

    @pytest.mark.parametrize("body", ["", "\n\n", '{"n":0,"t":0}', '{"n":true,"t":0,"x":0}', '{"n":0,"t":"x","x":0}'])
    def test_a_body_without_a_sample_is_refused_with_an_example(self, body: str) -> None:
        with pytest.raises(CoachError) as refused:
            read_samples(body)
        assert '{"n": 0' in refused.value.accepted


class TestFaults:
    @pytest.mark.parametrize("fault", [Fault.JITTER, Fault.DUPLICATES])
    def test_small_faults_change_no_repetition_by_much(self, fault: Fault) -> None:
        rows = squat_rows()
        clean = detect_reps([(t, x) for _, t, x in rows], MOTION, 100)
        rng = np.random.default_rng(2)
        faulty = with_faults(rows, [fault], rng)
        found = detect_reps([(t, x) for _, t, x in faulty], MOTION, 100)
        assert len(found) == len(clean)
        for a, b in zip(found, clean, strict=True):
            assert a.metrics.mean_mps == pytest.approx(b.metrics.mean_mps, abs=0.03)

    def test_a_drop_out_loses_a_repetition_at_most_and_says_so(self) -> None:
        for seed in range(20):
            rows = with_faults(squat_rows(seed), [Fault.DROP_OUT], np.random.default_rng(seed))
            detector = RepDetector(MOTION, 100)
            found = [*detector.push((t, x) for _, t, x in rows), *detector.flush()]
            assert 2 <= len(found) <= 3
            assert detector.faults

    def test_a_clock_set_back_is_told_and_invents_nothing(self) -> None:
        for seed in range(20):
            rows = with_faults(squat_rows(seed), [Fault.WRONG_CLOCK], np.random.default_rng(seed))
            detector = RepDetector(MOTION, 100)
            found = [*detector.push((t, x) for _, t, x in rows), *detector.flush()]
            assert len(found) <= 3
            assert any("clock" in f.message for f in detector.faults)

    def test_a_fault_nobody_knows_is_refused(self) -> None:
        with pytest.raises(CoachError, match="no fault"):
            fault_named("gremlins")
        assert with_faults([], list(Fault), np.random.default_rng(1)) == []


class TestFiles:
    def test_a_trace_with_commas_and_names_is_read(self) -> None:
        text = "t;x\n" + "\n".join(f"{t:.3f};{x:.4f}".replace(".", ",") for _, t, x in squat_rows())
        trace = read_trace(text)
        assert trace.rate_hz == 100
        assert len(detect_reps(trace.samples, exercise("back_squat").motion, 100)) == 3  # type: ignore[arg-type]

    @pytest.mark.parametrize("text", ["", "a,b\n1,2", "\n".join(f"{i},0.5" for i in range(50)), "t,x\n" + "0,0\n" * 30])
    def test_a_file_that_is_no_trace_is_refused(self, text: str) -> None:
        with pytest.raises(CoachError):
            read_trace(text)

    def test_columns_are_guessed_with_their_units(self) -> None:
        columns = ["Set", "Rep #", "Weight (lb)", "Avg Velocity (m/s)", "Peak Velocity [m/s]", "ROM_cm", "Date"]
        guess = guess_columns(columns)
        assert guess == {
            "set": "Set", "rep": "Rep #", "load_kg": "Weight (lb)", "mean_mps": "Avg Velocity (m/s)",
            "peak_mps": "Peak Velocity [m/s]", "range_m": "ROM_cm", "day": "Date",
        }  # fmt: skip
        asked = [("load_kg", "Weight (lb)"), ("range_m", "ROM_cm"), ("mean_mps", "v")]
        assert [guess_unit(f, c) for f, c in asked] == ["lb", "cm", "m/s"]

    def test_rows_that_cannot_be_are_named_and_left_out(self) -> None:
        text = "load,mean velocity,date\n100,0.5,2026-11-20\n100,55,2026-11-20\n,0.4,2026-11-20\n90,0.6,soon\n80,0.7,24.11.2026"
        table = read_reps(text)
        assert [(r.load_kg, r.day) for r in table.reps] == [(100, date(2026, 11, 20)), (80, date(2026, 11, 24))]
        assert [p.split(":")[0] for p in table.problems] == ["row 3", "row 4", "row 5"]

    def test_a_mapping_to_no_column_is_refused(self) -> None:
        with pytest.raises(CoachError, match="no column"):
            read_reps("a,b\n1,2", {"load_kg": "c"})
        assert read_reps("a,b\n1,2").missing == ("mean velocity", "load")

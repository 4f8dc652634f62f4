import numpy as np
import pytest

from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise
from jarvok.core.sensors.lifter import TrueStrength, first_rep_mps, lift_set, reps_to_failure, trace_of, true_strength
from jarvok.core.sensors.stream import read_samples, write_samples
from jarvok.core.session.review import SetComparison, review_line

LIFT = exercise("trap_bar_deadlift")
TRUTH = TrueStrength(120, 0.20, 0.96)


class TestStreamFormat:
    def test_what_is_written_reads_back(self) -> None:
        samples = [(0, 0.0, 0.6), (1, 0.01, 0.6123), (2, 0.02, 0.65)]
        assert list(read_samples(write_samples(samples)).samples) == samples

    @pytest.mark.parametrize(("line", "said"), [
        ('{"n": 3, "t": 0.', "not JSON"),
        ('{"n": 3, "t": 0.1}', "“x” is missing"),
        ('{"n": -1, "t": 0.1, "x": 0.5}', "n must be"),
        ('{"n": 1, "t": "soon", "x": 0.5}', "could not convert"),
        ('{"n": 1, "t": 0.1, "x": 80}', "metres within"),
        ("[1, 2, 3]", "line 2"),
    ])  # fmt: skip
    def test_a_bad_line_is_named_and_the_good_ones_count(self, line: str, said: str) -> None:
        batch = read_samples('{"n": 0, "t": 0, "x": 0.6}\n' + line + "\n")
        assert len(batch.samples) == 1
        assert said in batch.problems[0]

    @pytest.mark.parametrize("body", ["", "\n\n", "hello", "{"])
    def test_nothing_readable_is_refused_with_an_example(self, body: str) -> None:
        with pytest.raises(CoachError) as caught:
            read_samples(body)
        assert '"n": 0' in caught.value.accepted


class TestSimulatedLifter:
    def test_heavier_is_slower_and_the_max_is_done_once(self) -> None:
        speeds = [first_rep_mps(TRUTH, kg) for kg in (48, 72, 96, 120)]
        assert speeds == sorted(speeds, reverse=True)
        assert speeds[-1] == pytest.approx(0.20)
        assert speeds[0] == pytest.approx(0.96)
        assert reps_to_failure(TRUTH, 120) == 1
        assert reps_to_failure(TRUTH, 121) == 0

    def test_the_same_seed_lifts_the_same_set(self) -> None:
        sets = [lift_set(TRUTH, 96, 5, 1.0, np.random.default_rng(7)) for _ in range(2)]
        assert sets[0] == sets[1]
        assert sets[0].reps == 5
        assert sets[0].velocities_mps[0] > sets[0].velocities_mps[-1]  # fatigue within the set

    def test_more_than_there_is_cannot_be_done(self) -> None:
        work = lift_set(TRUTH, 110, 10, 1.0, np.random.default_rng(1))
        assert 1 <= work.reps < 5
        assert work.reserve < 1

    def test_a_trace_holds_the_repetitions_of_the_set(self) -> None:
        work = lift_set(TRUTH, 90, 4, 1.0, np.random.default_rng(3))
        trace = trace_of(work, LIFT, 100, 0.001, np.random.default_rng(3))
        assert [r.mean_mps for r in trace.reps] == pytest.approx(work.velocities_mps, abs=0.003)
        assert np.all(np.diff(trace.time_s) > 0)

    def test_hidden_numbers_scatter_around_the_lifts_general_relation(self) -> None:
        truths = [true_strength(100, LIFT, np.random.default_rng(i)) for i in range(200)]
        assert np.mean([t.max_mps for t in truths]) == pytest.approx(0.20, abs=0.01)


@pytest.mark.parametrize(("sets", "words"), [
    ([(3, 100, 3, 100), (3, 100, 3, 100)], "as planned"),
    ([(3, 100, 3, 100), (3, 100, None, None)], "1 of 2 sets"),
    ([(3, 100, 2, 100), (3, 100, 3, 100)], "1 rep short"),
    ([(3, 100, 3, 105), (3, 100, 3, 105)], "5 % heavier"),
    ([(3, 100, None, None)], "not done"),
])  # fmt: skip
def test_planned_against_done_in_words(sets, words: str) -> None:
    assert review_line([SetComparison(*s) for s in sets]).words == words

"""A session is one sequence of steps: every grouping step by step, against the order a coach would call. Common practice."""

from __future__ import annotations

from dataclasses import replace

import pytest
from support.stations import block, minutes

from jarvok.core.floor.clocks import ClockKind
from jarvok.core.floor.next_step import StepSet, next_set
from jarvok.core.floor.step_clocks import clock_of
from jarvok.core.floor.told_steps import WalkedLine, block_words, told_from, told_to, walked
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.shorthand import parse, write
from jarvok.core.session.blocks import BlockStyle, Grouping
from jarvok.core.session.duration import raises, rest_s, warm_up_minutes
from jarvok.core.session.roles import BlockRole
from jarvok.core.session.sequence import StepKind, line_minutes, steps_of

SQUAT, JUMP, SWING = ("3 × 3 @ 85 %", "back_squat"), ("3 × 3", "countermovement_jump"), ("3 × 5", "kettlebell_swing")


def called(style: BlockStyle, rows: list[tuple[str, str]], **more: object) -> list[str]:
    """What is called on the floor: slots and set numbers of each step, `w` for warm-ups, and the rest after it."""
    stations = block(style, rows, **more)  # type: ignore[arg-type]
    found = []
    for step in steps_of(stations):
        names = " ".join(f"{stations[p.line].slot}{'w' if step.kind is StepKind.RAMP else ''}{p.number}" for p in step.pieces)
        found.append(f"{names} | {step.rest_s}")
    return found


class TestOrder:
    def test_straight_sets_line_after_line(self) -> None:
        assert called(BlockStyle(), [("2 × 5 @ 70 %", "back_squat"), ("2 × 8", "push_up")], ramps=(2,)) == [
            "A1w1 | 0", "A1w2 | 0", "A11 | 150", "A12 | 0", "A21 | 60", "A22 | 0",
        ]  # fmt: skip

    def test_a_pair_alternates_and_the_partner_takes_part_of_the_rest(self) -> None:
        assert called(BlockStyle(Grouping.PAIR), [("2 × 5 @ 70 %", "back_squat"), ("2 × 8", "push_up")]) == [
            "A11 | 75", "A21 | 30", "A12 | 75", "A22 | 0",
        ]  # fmt: skip

    def test_a_rest_that_is_written_in_a_pair_is_taken_whole(self) -> None:
        rows = [("2 × 5 @ 70 %, rest 1:30", "back_squat"), ("2 × 8, rest 0:45", "push_up")]
        assert called(BlockStyle(Grouping.PAIR), rows) == ["A11 | 90", "A21 | 45", "A12 | 90", "A22 | 0"]
        assert called(BlockStyle(Grouping.PAIR, rest_inside_s=10, rest_between_s=200), rows) == [
            "A11 | 10", "A21 | 200", "A12 | 10", "A22 | 0",
        ]  # fmt: skip

    def test_contrast_goes_round_by_round_after_its_warm_up(self) -> None:
        assert called(BlockStyle(Grouping.CONTRAST, rest_between_s=180), [SQUAT, JUMP, SWING], ramps=(1,)) == [
            "A1w1 | 0",
            "A11 | 20", "A21 | 20", "A31 | 180",
            "A12 | 20", "A22 | 20", "A32 | 180",
            "A13 | 20", "A23 | 20", "A33 | 0",
        ]  # fmt: skip

    def test_without_a_word_contrast_rests_as_long_as_its_hardest_line_wants(self) -> None:
        assert called(BlockStyle(Grouping.CONTRAST), [SQUAT, JUMP, SWING])[2] == "A31 | 150"

    def test_a_line_with_fewer_rounds_falls_out_of_the_last(self) -> None:
        rows = [("3 × 5", "push_up"), ("2 × 5", "inverted_row"), ("3 × 8", "kettlebell_swing")]
        assert [x.split(" |")[0] for x in called(BlockStyle(Grouping.CIRCUIT), rows)] == [
            "A11", "A21", "A31", "A12", "A22", "A32", "A13", "A33",
        ]  # fmt: skip

    def test_a_primer_pair_rests_the_athletes_own_rest_before_the_jump(self) -> None:
        style = BlockStyle(Grouping.PAPE, rest_between_s=120)
        assert called(style, [SQUAT, JUMP], own_rest_s=240)[:2] == ["A11 | 240", "A21 | 120"]
        # what the coach writes over the block counts before what a test found
        written = BlockStyle(Grouping.PAPE, rest_inside_s=60, rest_between_s=120)
        assert called(written, [SQUAT, JUMP], own_rest_s=240)[0] == "A11 | 60"

    def test_a_complex_is_one_step_a_round_and_warms_up_once(self) -> None:
        rows = [("3 × 1 @ 70 %", "power_clean"), ("3 × 2 @ 70 %", "front_squat"), ("3 × 1 @ 70 %", "push_press")]
        assert called(BlockStyle(Grouping.COMPLEX, rest_between_s=120), rows, ramps=(2, 2)) == [
            "A1w1 | 0", "A1w2 | 0", "A11 A21 A31 | 120", "A12 A22 A32 | 120", "A13 A23 A33 | 0",
        ]  # fmt: skip

    def test_a_clock_on_the_lines_of_a_pair_is_kept(self) -> None:
        rows = [("2 × 3 @ 70 %, every 1:00", "back_squat"), ("2 × 5, every 1:00", "push_up")]
        assert minutes(BlockStyle(Grouping.PAIR), rows) == pytest.approx(4.0)

    def test_to_a_clock_the_rest_is_what_the_interval_leaves(self) -> None:
        style = BlockStyle(Grouping.EVERY, every_s=90)
        (station,) = block(style, [("4 × 2 @ 60 %, every 1:30", "back_squat")])
        work_s = 2 * station.exercise.seconds_per_rep + 20
        first, *_ = steps_of([station])
        assert (first.work_s, first.rest_s, first.seconds) == (work_s, 90 - work_s, 90)

    def test_a_clock_over_several_stations_calls_all_of_a_round(self) -> None:
        rows = [("3 × 5, every 2:00", "kettlebell_swing"), ("3 × 5, every 2:00", "push_up")]
        found = called(BlockStyle(Grouping.EVERY, every_s=120), rows)
        assert [x.split(" |")[0] for x in found] == ["A11 A21", "A12 A22", "A13 A23"]

    def test_a_cluster_is_its_small_sets(self) -> None:
        style = BlockStyle(Grouping.CLUSTER, rest_inside_s=20)
        (step, *_) = steps_of(block(style, [("2 × 3 @ 85 %", "back_squat")]))
        assert step.pieces[0].minis == (1, 1, 1)  # without a word: single repetitions
        (step, *_) = steps_of(block(BlockStyle(), [("3 × (2+2) @ 85 %, 30 s inside", "back_squat")]))
        assert step.pieces[0].minis == (2, 2)

    def test_a_cluster_takes_the_rests_inside_it_too(self) -> None:
        straight = minutes(BlockStyle(), [("3 × 6 @ 80 %", "back_squat")])
        inside = minutes(BlockStyle(), [("3 × (2+2+2) @ 80 %, 30 s inside", "back_squat")])
        assert inside == pytest.approx(straight + 3 * 2 * 30 / 60)
        default = minutes(BlockStyle(), [("3 × (2+2+2) @ 80 %", "back_squat")])
        assert default == pytest.approx(straight + 3 * 2 * 20 / 60)

    def test_a_ladder_is_its_rungs(self) -> None:
        (station,) = block(BlockStyle(Grouping.LADDER), [("4-3-2-1 @ 70/75/80/85 %", "back_squat")])
        steps = steps_of([station])
        assert [station.groups[s.pieces[0].number - 1].reps for s in steps] == [4, 3, 2, 1]

    def test_drop_sets_are_one_step(self) -> None:
        assert called(BlockStyle(Grouping.DROP), [("3 × 8", "dumbbell_curl")]) == ["A11 A12 A13 | 0"]

    def test_a_line_that_drops_takes_the_time_of_its_drops(self) -> None:
        plain, dropped = (minutes(BlockStyle(), [(t, "dumbbell_curl")]) for t in ("2 × 8", "2 × 8, drop 2 × 20 %"))
        each = 8 * exercise("dumbbell_curl").seconds_per_rep
        assert dropped == pytest.approx(plain + 2 * (each + 10) / 60)

    def test_a_mechanical_change_is_one_step_of_its_grips(self) -> None:
        rows = [("2 × 8", "push_up"), ("2 × 8", "metronome_push_up")]
        assert called(BlockStyle(Grouping.MECHANICAL, rest_between_s=90), rows) == ["A11 A21 | 90", "A12 A22 | 0"]

    @pytest.mark.parametrize("grouping", [Grouping.AMRAP, Grouping.WARM_UP])
    def test_a_block_by_time_is_one_step(self, grouping: Grouping) -> None:
        (step,) = steps_of(block(BlockStyle(grouping, minutes=8), [("1 × 5", "push_up"), ("1 × 10", "bodyweight_squat")]))
        assert (step.seconds, [p.line for p in step.pieces], step.rounds) == (480, [0, 1], 1)

    def test_rest_between_repetitions_is_part_of_the_set(self) -> None:
        plain, slow = (minutes(BlockStyle(), [(t, "box_jump")]) for t in ("3 × 5", "3 × 5, 4 s between reps"))
        assert slow == pytest.approx(plain + 3 * 4 * 4 / 60)

    def test_a_hold_gathered_in_parts_takes_half_as_long_again(self) -> None:
        assert minutes(BlockStyle(), [("60 s in all", "front_hold")]) == pytest.approx((90 + 20) / 60)

    @pytest.mark.parametrize("grouping", list(Grouping))
    def test_every_set_stands_in_exactly_one_step_and_minutes_are_those_of_the_steps(self, grouping: Grouping) -> None:
        rows = [("3 × 5 @ 60 %", "back_squat"), ("3 × 5", "push_up"), ("2 × 4", "box_jump")]
        style = BlockStyle(grouping, minutes=10, bpm=50, every_s=120, rest_inside_s=15, rest_between_s=90)
        stations = block(style, rows, ramps=(2,))
        steps = steps_of(stations)
        work = [(p.line, p.number) for s in steps if s.kind is StepKind.WORK for p in s.pieces]
        assert sorted(work) == [(0, 1), (0, 2), (0, 3), (1, 1), (1, 2), (1, 3), (2, 1), (2, 2)]
        assert len({s.id for s in steps}) == len(steps)
        whole_s = sum(s.seconds for s in steps if s.kind is StepKind.WORK)
        assert sum(line_minutes(stations)) == pytest.approx(whole_s / 60)

    def test_the_day_can_make_the_sets_fewer(self) -> None:
        (station,) = block(BlockStyle(), [("4 × 5 @ 70 %", "back_squat")])
        assert len(steps_of([replace(station, sets=2)])) == 2
        assert steps_of([replace(station, sets=0)]) == ()


class TestRests:
    @pytest.mark.parametrize(("text", "lift", "seconds"), [
        ("4 × 60 m", "flying_sprint", 360), ("4 × 20 m", "short_acceleration", 120), ("2 × 120 m", "speed_endurance_run", 720),
        ("1 × 300 m", "special_endurance_one", 1200),  # twenty minutes at most
        ("6 × 100 m", "extensive_tempo", 60), ("4 × 60 m, submaximal", "flying_sprint", 60),
        ("4 × 60 m, rest 3:00", "flying_sprint", 180),
        ("3 × 4", "countermovement_jump", 150), ("3 × 4, submaximal", "countermovement_jump", 60),
        ("3 × 5", "box_jump", 60), ("3 × 5, for height", "box_jump", 150), ("3 × 5 @ 80 %", "back_squat", 150),
    ])  # fmt: skip
    def test_rest_by_goal_and_kind(self, text: str, lift: str, seconds: int) -> None:
        """About a minute for ten metres of maximal sprinting; two to three minutes between sets of maximal jumps."""
        assert rest_s(parse(text), exercise(lift)) == seconds

    def test_a_sixty_metre_sprint_takes_seconds_not_a_minute_of_walking(self) -> None:
        assert minutes(BlockStyle(), [("1 × 60 m", "flying_sprint")]) == pytest.approx((60 / 7 + 20) / 60)


class TestOwnWarmUp:
    @pytest.mark.parametrize(("style", "row", "own"), [
        (BlockStyle(Grouping.WARM_UP, minutes=5), ("1 × 5", "inchworm"), True),
        (BlockStyle(), ("1 × 4 min", "round_intervals"), True),
        (BlockStyle(), ("1 × 2 min", "round_intervals"), False),
        (BlockStyle(), ("2 × 4", "low_box_landing"), False),
    ])  # fmt: skip
    def test_only_what_raises_stands_for_the_general_one(self, style: BlockStyle, row: tuple[str, str], own: bool) -> None:
        (station,) = block(style, [row])
        assert raises([(station, BlockRole.PREPARE)]) is own
        assert not raises([(station, BlockRole.SMALL)])

    def test_then_only_the_ramps_are_counted_beside_it(self) -> None:
        assert warm_up_minutes(5, has_own=True) == pytest.approx(6)
        assert warm_up_minutes(5) == pytest.approx(16)


class TestClocks:
    @pytest.mark.parametrize(("style", "row", "kind", "figures"), [
        (BlockStyle(Grouping.EVERY, every_s=90), ("8 × 2 @ 60 %", "back_squat"), ClockKind.EVERY, {"every_s": 90, "rounds": 8}),
        (BlockStyle(Grouping.UNTIL_MISS, every_s=90), ("6 × 1 @ 80 %, every 1:30 until you miss", "snatch"), ClockKind.UNTIL_MISS,
         {"every_s": 90, "rounds": 12}),
        (BlockStyle(Grouping.AMRAP, minutes=8), ("1 × 5", "push_up"), ClockKind.AMRAP, {"seconds": 480}),
        (BlockStyle(Grouping.WARM_UP, minutes=5), ("1 × 5", "inchworm"), ClockKind.INTERVALS,
         {"work_s": 300, "rest_s": 0, "rounds": 1}),
        (BlockStyle(Grouping.METRONOME, bpm=50, beats=2), ("2 × 25", "metronome_push_up"), ClockKind.METRONOME,
         {"bpm": 50, "beats": 2, "seconds": 60}),
        (BlockStyle(), ("3 × 45 s, rest 0:30", "front_hold"), ClockKind.HOLD, {"hold_s": 45, "rest_s": 30, "rounds": 3}),
        (BlockStyle(), ("3 × 2 min, rest 1:00", "round_intervals"), ClockKind.INTERVALS,
         {"work_s": 120, "rest_s": 60, "rounds": 3}),
        (BlockStyle(), ("3 × 5 @ 80 %", "back_squat"), None, {}),
        (BlockStyle(), ("60 s in all", "front_hold"), None, {}),
        (BlockStyle(Grouping.WARM_UP, minutes=20), ("1 × 5", "inchworm"), None, {}),  # longer than a clock of intervals takes
    ])  # fmt: skip
    def test_a_step_brings_its_clock(
        self, style: BlockStyle, row: tuple[str, str], kind: ClockKind | None, figures: dict[str, float]
    ) -> None:
        stations = block(style, [row])
        found = clock_of(steps_of(stations)[0], stations)
        assert (found.kind if found else None, dict(found.figures) if found else {}) == (kind, figures)

    def test_only_the_first_round_starts_it_but_each_set_has_its_own_metronome(self) -> None:
        clocked = block(BlockStyle(Grouping.EVERY, every_s=90), [("3 × 2 @ 60 %", "back_squat")])
        assert [clock_of(s, clocked) is not None for s in steps_of(clocked)] == [True, False, False]
        beaten = block(BlockStyle(Grouping.METRONOME, bpm=50), [("2 × 25", "metronome_push_up")])
        assert [clock_of(s, beaten) is not None for s in steps_of(beaten)] == [True, True]


class TestToldSteps:
    def test_what_is_kept_reads_back_the_same(self) -> None:
        stations = block(BlockStyle(Grouping.CONTRAST, rest_between_s=180), [SQUAT, JUMP, SWING], ramps=(2,))
        raw = told_to(steps_of(stations), stations)
        steps = told_from(raw)
        assert [s.to_raw() for s in steps] == raw["steps"]
        assert block_words(raw) == {"A · work": "contrast, 3:00 between rounds"}
        assert [s.is_one_tap for s in steps] == [False] * 11

    def test_a_session_from_before_there_were_steps_is_walked_line_by_line(self) -> None:
        steps = walked([WalkedLine("A · main", "A1", 120, 1, 2), WalkedLine("B · small", "B1", 60, 0, 1)])
        assert [(s.id, s.rest_s) for s in steps] == [("A1.w1", 0), ("A1.1", 120), ("A1.2", 0), ("B1.1", 0)]
        assert told_from({}) == ()

    def test_next_follows_the_steps_not_the_lines(self) -> None:
        stations = block(BlockStyle(Grouping.PAIR), [("2 × 5 @ 70 %", "back_squat"), ("2 × 8", "push_up")])
        steps = [s.sets for s in told_from(told_to(steps_of(stations), stations))]
        done: set[StepSet] = set()
        order = []
        while (item := next_set(steps, done)) is not None:
            order.append((item.line, item.number))
            done.add(item)
        assert order == [(0, 1), (1, 1), (0, 2), (1, 2)]
        assert next_set(steps, {StepSet(0, False, 1)}, ended={0}) == StepSet(1, False, 1)


def test_rest_inside_a_cluster_is_typed_and_written_back() -> None:
    line = parse("3x(2+2) @ 85%, 20 s inside")
    assert (line.inside_s, write(line)) == (20, "3 × (2+2) @ 85 %, 20 s inside")
    assert parse(write(line)) == line
    assert parse("3x(2+2) @ 85%, 3 min inside").inside_s == 180
    with pytest.raises(ValueError, match="3 minutes inside"):
        parse("3x(2+2) @ 85%, 181 s inside")

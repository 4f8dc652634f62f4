"""The rules of a floor as it goes: what is left, what may be typed, light tasks, runs, the board, a line carried over."""

from __future__ import annotations

from datetime import date

import pytest

from jarvok.core.errors import CoachError
from jarvok.core.floor.compete import Metric, Tried, best_of, board, metrics_of
from jarvok.core.floor.left import LineLeft, asks_to_stop, at_rack_minutes, left_of, may_still_add, seconds_of
from jarvok.core.floor.light_tasks import LONG_REST_S, light_task
from jarvok.core.floor.measurable import TypedJump, check_jumps, measured_of
from jarvok.core.floor.next_step import StepSet, next_set
from jarvok.core.floor.pain import loads
from jarvok.core.floor.runs import line_word, run_off, run_takes_s
from jarvok.core.floor.swapped import same_again
from jarvok.core.floor.told_steps import ToldStep, with_added
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.library.kit import implement_for
from jarvok.core.loading.resolve import resolve
from jarvok.core.loading.shorthand import parse, write
from jarvok.core.loading.state import LiftState
from jarvok.core.loading.until_miss import until_miss
from jarvok.core.marks.mark import Mark, MarkKind
from jarvok.core.marks.working_max import current_max
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.sensors.readings import JumpMat
from jarvok.core.session.blocks import STRAIGHT
from jarvok.core.session.roles import BlockRole, optional_block
from jarvok.core.session.sequence import steps_of
from jarvok.core.session.station import Station


def told(*texts: str) -> tuple[ToldStep, ...]:
    lift = exercise("back_squat")
    stations = [
        Station(slot=f"A{i}", block="A", style=STRAIGHT, prescription=parse(t), exercise=lift, rest_s=120)
        for i, t in enumerate(texts, start=1)
    ]
    return tuple(ToldStep.of(s, stations) for s in steps_of(stations))


class TestOneMore:
    def test_it_follows_the_step_it_repeats_with_its_rest(self) -> None:
        steps = told("2 × 5", "2 × 8")
        last = steps[1]
        found = with_added(steps, [(last.id, (StepSet(0, False, 3),)), (last.id, (StepSet(0, False, 4),))])
        assert [s.sets[0] for s in found] == [
            (0, False, 1),
            (0, False, 2),
            (0, False, 3),
            (0, False, 4),
            (1, False, 1),
            (1, False, 2),
        ]
        assert [(s.round, s.rounds) for s in found[2:4]] == [(3, 4), (4, 4)]
        assert found[2].rest_s == last.rest_s
        assert next_set([s.sets for s in found], {StepSet(0, False, n) for n in (1, 2)}) == StepSet(0, False, 3)

    def test_what_repeats_nothing_is_left_out(self) -> None:
        assert with_added(told("2 × 5"), [("B7.1", (StepSet(3, False, 1),))]) == told("2 × 5")


class TestLeft:
    def test_seconds_are_sets_and_rests(self) -> None:
        work = DEFAULT_RULES["floor.set_s"]
        assert seconds_of(told("3 × 5")) == 3 * work + 2 * 120
        every = told("3 × 1, every 1:30")
        assert seconds_of(every) == 3 * 90

    def test_small_work_that_was_not_begun_goes_first_from_the_end(self) -> None:
        rows = [
            LineLeft("A1 Squat", BlockRole.MAIN, True, 600),
            LineLeft("B1 Row", BlockRole.SMALL, True, 300),
            LineLeft("C1 Curl", BlockRole.SMALL, False, 240),
            LineLeft("C2 Plank", BlockRole.SMALL, False, 120),
        ]
        assert left_of(rows, 9, 60).may_cut == ()
        assert left_of(rows, 9, 21).may_cut == (), "21 minutes are enough for 21"
        assert left_of(rows, 9, 20).may_cut == ("C2 Plank",)
        assert left_of(rows, 9, 16).may_cut == ("C1 Curl", "C2 Plank")
        assert left_of(rows, 9, 1).may_cut == ("C1 Curl", "C2 Plank"), "what was begun and the main work stay"
        assert (left_of(rows, 9, None).minutes, left_of(rows, 9, None).may_cut) == (21, ())

    @pytest.mark.parametrize(
        ("text", "done", "most"),
        [
            ("3–5 × 5 @ 75 %", 2, None), ("3–5 × 5 @ 75 %", 3, 5), ("3–5 × 5 @ 75 %", 4, 5), ("3–5 × 5 @ 75 %", 5, None),
            ("3 × 5", 3, None), ("no line", 3, None),
        ],
    )  # fmt: skip
    def test_a_range_of_sets_may_go_on_once_its_least_are_done(self, text: str, done: int, most: int | None) -> None:
        assert may_still_add(text, done) == most

    def test_a_rack_takes_its_turns_and_never_less_than_its_longest_session(self) -> None:
        a_turn = DEFAULT_RULES["floor.set_s"] + DEFAULT_RULES["floor.plates_s"]
        assert at_rack_minutes([60, 60], 20) == -(-20 * a_turn // 60)
        assert at_rack_minutes([1800], 2) == 30
        assert at_rack_minutes([], 0) == 0

    def test_it_asks_once_between_the_main_work_and_the_rest(self) -> None:
        roles = [BlockRole.PREPARE, BlockRole.MAIN, BlockRole.SMALL, BlockRole.SMALL]
        assert asks_to_stop(roles, {0, 1}, set(), {0, 1})
        assert not asks_to_stop(roles, {0}, set(), {0, 1}), "main work is left"
        assert not asks_to_stop(roles, {0, 1}, set(), {0, 1, 2}), "the rest was begun"
        assert not asks_to_stop(roles, {0, 1, 2, 3}, set(), {0, 1, 2, 3}), "nothing is left"
        assert not asks_to_stop(roles, {0}, {1}, {0}), "main work that nobody began asks nothing"

    @pytest.mark.parametrize(
        ("lines", "block"),
        [
            ("P:P M:A S:B S:C", "B"),
            ("F:A S:B", "B"),
            ("M:A S:A S:B", "B"),  # small work in the block of the main work goes with it
            ("M:A S:A", None),
            ("M:A S:B M:C", None),
            ("M:A S:B M:C S:D", "D"),
            ("P:P S:B", None),  # nothing before it that must be done
            ("", None),
        ],
    )
    def test_the_optional_half_is_the_last_small_work(self, lines: str, block: str | None) -> None:
        role = {"P": BlockRole.PREPARE, "M": BlockRole.MAIN, "F": BlockRole.FAST, "S": BlockRole.SMALL}
        assert optional_block([(role[x[0]], x[2]) for x in lines.split()]) == block


class TestWhatIsTyped:
    @pytest.mark.parametrize(
        ("lift", "keys"),
        [
            ("countermovement_jump", ("heights",)),
            ("drop_jump", ("heights", "contacts")),
            ("pogo", ("heights", "contacts")),
            ("broad_jump", ("distance_m",)),
            ("low_box_landing", ()),
            ("sprint", ("time_s",)),
            ("grass_strides", ()),
            ("back_squat", ("velocity_mps",)),
            ("deep_squat_hold", ()),
        ],
    )
    def test_it_is_what_the_exercise_is_for(self, lift: str, keys: tuple[str, ...]) -> None:
        assert measured_of(exercise(lift)) == keys

    def test_reactive_strength_is_height_over_contact(self) -> None:
        assert TypedJump(40.0, 0.2).rsi == pytest.approx(2.0)  # by definition (Young 1995, quoted from memory)
        assert TypedJump(40.0).rsi is None

    @pytest.mark.parametrize(
        ("height", "contact", "where"),
        [(0.9, None, "heights"), (151, None, "heights"), (30, 0.04, "contacts"), (30, 2.1, "contacts")],
    )
    def test_what_cannot_be_is_refused_in_words(self, height: float, contact: float | None, where: str) -> None:
        with pytest.raises(CoachError) as refused:
            check_jumps([TypedJump(height, contact)])
        assert refused.value.where == where
        assert "accepted" in refused.value.accepted

    def test_the_edges_can_be(self) -> None:
        check_jumps([TypedJump(1, 0.05), TypedJump(150, 2.0)])


class TestMat:
    def test_who_comes_from_a_box_has_a_contact_at_once(self) -> None:
        jumps = JumpMat().push([(0, 1.0, True), (1, 1.2, False), (2, 1.7, True)])
        assert [j.contact_s for j in jumps] == [pytest.approx(0.2)]

    def test_who_stood_there_first_has_none(self) -> None:
        jumps = JumpMat().push([(0, 1.0, True), (1, 1.55, False), (2, 2.05, True)])
        assert [j.contact_s for j in jumps] == [None]
        assert JumpMat().push([(0, 1.0, True), (1, 1.49, False), (2, 1.99, True)])[0].contact_s == pytest.approx(0.49)


class TestRuns:
    def test_five_per_cent_over_the_best_ends_them(self) -> None:
        assert not run_off([4.00, 4.19]).act
        assert run_off([4.00, 4.20]).act
        assert "end the runs" in run_off([4.00, 4.20]).sentence
        assert not run_off([4.00, 4.20], Rules(changed={"floor.run_drop_pct": 6.0})).act
        with pytest.raises(ValueError, match="at least one run"):
            run_off([])

    def test_a_line_is_as_deep_as_the_wanted_rest_asks(self) -> None:
        each = run_takes_s(30, None)  # 13 s: the rest of one is the runs of the others
        assert each == 13
        assert line_word(4, 30, None, 120) == ("4 in this line rest 0:39, wanted 2:00: wait, or 11 in a line", False)
        assert line_word(11, 30, None, 120) == ("11 in this line rest 2:10, wanted 2:00: right", True)
        assert line_word(12, 30, None, 120)[1] is False
        assert line_word(0, 30, None, 120) == ("nobody here", True)
        assert run_takes_s(None, 20) == 28


class TestLightTasks:
    def test_a_long_rest_after_a_squat_gets_something_for_the_shoulders(self) -> None:
        found = light_task(exercise("back_squat"), LONG_REST_S, (), (), 2)
        assert found
        lift = next(e for e in exercises().values() if e.name == found)
        assert {"mobility_upper", "mobility_rack"} & set(lift.roles)
        assert lift.region != "lower"

    def test_a_short_rest_gets_nothing(self) -> None:
        assert light_task(exercise("back_squat"), LONG_REST_S - 1, (), (), 2) == ""

    def test_nothing_that_loads_what_hurts(self) -> None:
        for turn in range(8):
            found = light_task(exercise("back_squat"), 200, ("shoulder",), (), turn)
            lift = next((e for e in exercises().values() if e.name == found), None)
            assert lift is None or not loads("shoulder", lift)


class TestBoard:
    def test_equals_share_a_place_and_the_best_is_first(self) -> None:
        tried = [Tried(1, "Ada", (40.0, 41.04)), Tried(2, "Bo", (41.0,)), Tried(3, "Cy", (39.0,)), Tried(4, "Di", ())]
        assert [(r.place, r.name, r.best) for r in board(Metric.HEIGHT, tried)] == [
            (1, "Ada", 41.0),
            (1, "Bo", 41.0),
            (3, "Cy", 39.0),
        ]

    def test_a_contact_is_better_shorter(self) -> None:
        tried = [Tried(1, "Ada", (0.21, 0.25)), Tried(2, "Bo", (0.19,))]
        assert [r.name for r in board(Metric.CONTACT, tried)] == ["Bo", "Ada"]
        assert best_of(Metric.CONTACT, [0.3, 0.2]) == 0.2

    def test_who_asks_not_to_be_shown_is_not_there(self) -> None:
        tried = [Tried(1, "Ada", (50.0,), is_shown=False), Tried(2, "Bo", (41.0,))]
        assert [(r.place, r.name) for r in board(Metric.HEIGHT, tried)] == [(1, "Bo")]

    def test_what_is_not_measured_is_not_competed_in(self) -> None:
        assert metrics_of(exercise("deep_squat_hold")) == ()
        assert metrics_of(exercise("drop_jump")) == (Metric.HEIGHT, Metric.RSI, Metric.CONTACT)
        assert metrics_of(exercise("countermovement_jump")) == (Metric.HEIGHT,)


class TestCarriedOver:
    def test_a_share_of_the_max_stays_a_share(self) -> None:
        old, new = exercise("back_squat"), exercise("front_squat")
        assert write(same_again(parse("4x3 @ 82%"), old, new, 2, 90.0)) == "2 × 3 @ 82 %"

    def test_one_for_each_set_keeps_all_of_them(self) -> None:
        old, new = exercise("back_squat"), exercise("front_squat")
        found = same_again(parse("3x3 @ 75/80/85 %"), old, new, 2, 90.0)
        assert found.total_sets == 3

    def test_a_clock_and_drops_do_not_go_along(self) -> None:
        found = same_again(parse("6x1 @ 80 %, every 1:30"), exercise("power_clean"), exercise("back_squat"), 6, 100.0)
        assert found.every_s is None

    def test_a_hold_in_place_of_repetitions_is_begun_anew(self) -> None:
        found = same_again(parse("3x10"), exercise("back_squat"), exercise("deep_squat_hold"), 3, None)
        assert found.groups[0].seconds is not None


class TestUntilMissed:
    def state(self, max_kg: float | None) -> LiftState:
        day = date(2026, 11, 20)
        found = current_max([Mark("m", day, MarkKind.ONE_RM, max_kg, 1)], day) if max_kg else None
        return LiftState(lift := exercise("back_squat"), implement_for(lift), found)

    @pytest.mark.parametrize(("max_kg", "rounds"), [(60, 5), (100, 8), (142.5, 10), (200, 12)])
    def test_the_miss_comes_in_the_wanted_round(self, max_kg: float, rounds: int) -> None:
        found = until_miss(self.state(max_kg), 1, rounds, 90)
        loads = [found.start_kg + found.step_kg * n for n in range(rounds)]
        assert loads[rounds - 2] <= max_kg < loads[rounds - 1]
        assert 0.45 <= loads[0] / max_kg <= 0.85
        sets = resolve(parse(found.text), self.state(max_kg))
        assert [s.load_kg for s in sets] == [pytest.approx(x) for x in loads], "each can be loaded"
        assert parse(found.text).until_miss
        assert parse(found.text).every_s == 90

    def test_without_a_max_it_is_said(self) -> None:
        with pytest.raises(CoachError, match="max in this lift"):
            until_miss(self.state(None), 1, 8, 90)

    @pytest.mark.parametrize("rounds", [2, 21])
    def test_rounds_that_cannot_be(self, rounds: int) -> None:
        with pytest.raises(CoachError, match="cannot be planned"):
            until_miss(self.state(100), 1, rounds, 90)
        assert until_miss(self.state(100), 1, 3, 90).round == 3

    def test_no_step_fits_so_many_rounds_of_a_small_lift(self) -> None:
        with pytest.raises(CoachError, match="No step"):
            until_miss(self.state(30), 1, 20, 90)

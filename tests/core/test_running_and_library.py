"""Running classes and lines; the library's files; substitutes; blocks and documents of sessions."""

from __future__ import annotations

import json
from dataclasses import replace
from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st
from support.stations import minutes

from jarvok.core.chooser.known import lifts_with_faults
from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import chains, exercise, exercises, shipped, with_own
from jarvok.core.library.kit import FURNISHED, GEAR, HOME, HOTEL, IMPLEMENTS
from jarvok.core.library.substitutes import LEAST, Limits, substitute, substitutes
from jarvok.core.loading.shorthand import parse
from jarvok.core.marks.limiter import fault_kinds
from jarvok.core.running.classes import CLASSES, class_of, sprint_rest_s, words_for
from jarvok.core.running.lines import depth_for, lines_for, rest_in_line_s
from jarvok.core.session.block_changes import regroup
from jarvok.core.session.blocks import GROUPINGS, BlockStyle, Grouping, check_style
from jarvok.core.session.document import Document, WrittenLine, document_of, from_raw, identified, session_of, to_raw
from jarvok.core.session.line_changes import add_line, drop_line, move_line, note_line


class TestRunning:
    @pytest.mark.parametrize(("key", "intensity", "seconds", "metres", "mark"), [
        ("speed", (95, 100), (0, 7), (0, 60), "C"), ("speed_endurance", (95, 100), (7, 15), (80, 150), "C"),
        ("special_endurance_1", (95, 100), (15, 45), (150, 300), "M"),
        ("special_endurance_2", (95, 100), (45, 120), (300, 600), "M"),
        ("intensive_tempo", (80, 90), None, None, "M"), ("extensive_tempo", (0, 75), None, None, "M"),
    ])  # fmt: skip
    def test_every_row_of_the_classes(
        self, key: str, intensity: tuple, seconds: tuple | None, metres: tuple | None, mark: str
    ) -> None:
        # common practice; the rows marked M from memory
        found = class_of(key)
        assert (found.intensity_pct, found.seconds, found.metres, found.source.mark) == (intensity, seconds, metres, mark)

    def test_an_unknown_class_is_refused_and_all_are_named(self) -> None:
        with pytest.raises(CoachError) as refused:
            class_of("jogging")
        assert all(c.name in refused.value.accepted for c in CLASSES)

    @pytest.mark.parametrize(("metres", "rest_s"), [(10, 60), (20, 120), (30, 180), (60, 360)])
    def test_a_minute_of_rest_for_ten_metres(self, metres: int, rest_s: int) -> None:
        # common practice
        assert sprint_rest_s(metres) == rest_s
        assert f"{rest_s // 60}:00 of rest" in words_for(class_of("speed"), metres)

    @pytest.mark.parametrize(("n", "work_s", "gap_s", "rest_s"), [(1, 5, 2, 0), (4, 5, 2, 21), (6, 3, 1, 20), (10, 6, 0, 54)])
    def test_depth_times_work_makes_the_rest(self, n: int, work_s: float, gap_s: float, rest_s: float) -> None:
        # common practice: rest = (n − 1)(w + g)
        assert rest_in_line_s(n, work_s, gap_s) == rest_s

    @given(st.integers(1, 80), st.floats(1, 30), st.floats(0, 10), st.floats(0, 20))
    def test_the_depth_is_the_least_that_gives_the_rest(self, athletes: int, work_s: float, gap_s: float, ratio: float) -> None:
        depth = depth_for(work_s, gap_s, ratio)
        assert rest_in_line_s(depth, work_s, gap_s) >= ratio * work_s - 1e-6
        assert depth == 1 or rest_in_line_s(depth - 1, work_s, gap_s) < ratio * work_s + 1e-6
        found = lines_for(athletes, work_s, gap_s, ratio)
        assert found.lines * found.depth >= athletes
        assert found.least_rest_s >= ratio * work_s - 1e-6 or found.lines == 1

    @pytest.mark.parametrize(
        ("body", "where"),
        [((0, 4, 2, 10), "athletes"), ((5, 0, 2, 10), "work_s"), ((5, 4, -1, 10), "gap_s"), ((5, 4, 2, 99), "ratio")],
    )
    def test_what_cannot_line_up_is_refused(self, body: tuple, where: str) -> None:
        with pytest.raises(CoachError) as refused:
            lines_for(*body)
        assert refused.value.where == where


class TestTheLibrary:
    def test_at_least_220_exercises_with_names_and_cues_of_their_own(self) -> None:
        rows = list(shipped().values())
        assert len(rows) >= 220
        assert len({e.name.lower() for e in rows}) == len(rows)
        assert len({e.cue for e in rows}) > 0.95 * len(rows)
        assert all(3 <= len(e.cue) <= 120 for e in rows)

    @pytest.mark.parametrize("e", list(shipped().values()), ids=lambda e: e.id)
    def test_each_exercise_refers_to_what_there_is(self, e) -> None:
        known = shipped()
        assert e.same_lift in known
        assert not e.variation_of or e.variation_of in known
        assert e.max_from is None or e.max_from[0] in known
        assert e.cost in ("high", "middle", "low")
        assert e.implement == "none" or e.implement in IMPLEMENTS
        assert e.needs <= GEAR
        assert set(e.faults) <= set(fault_kinds())
        assert e.roles
        assert 1 <= e.teaching <= 3
        assert (e.plyometric is not None) == (e.kind == "jump") or e.kind == "jump"
        assert FURNISHED.allows(e)
        assert not e.tempo or parse(f"3 × 5, {e.tempo}").tempo == e.tempo

    def test_every_fault_has_an_exercise_that_works_on_it_or_is_mobility(self) -> None:
        addressed = {f for e in shipped().values() for f in e.faults}
        assert set(fault_kinds()) <= addressed

    def test_every_step_of_a_chain_is_in_the_library(self) -> None:
        assert all(x in shipped() for steps in chains().values() for x in steps.values())

    def test_own_exercises_count_only_while_they_are_in_use(self) -> None:
        own = replace(exercise("back_squat"), id="own_squat", name="My squat", is_own=True)
        with with_own([own]):
            assert exercise("own_squat").name == "My squat"
            assert len(exercises()) == len(shipped()) + 1
        with pytest.raises(CoachError):
            exercise("own_squat")

    def test_a_fault_can_be_recorded_for_an_own_exercise_while_it_is_in_use(self) -> None:
        own = replace(exercise("back_squat"), id="own_squat", name="My squat", is_own=True, same_lift="own_squat")
        shipped_alone = lifts_with_faults()
        with with_own([own]):
            assert [faults for lift, faults in lifts_with_faults() if lift is own]
        with with_own([replace(own, name="Our squat")]):
            assert "Our squat" in {lift.name for lift, _ in lifts_with_faults()}
        assert lifts_with_faults() == shipped_alone
        assert "own_squat" not in {lift.id for lift, _ in shipped_alone}


class TestSubstitutes:
    def test_painful_overhead_range_goes_to_the_angled_press(self) -> None:
        # common practice: an angled landmine press until cleared
        assert substitute("overhead_press", frozenset({"overhead"})) == "landmine_press"

    @pytest.mark.parametrize("kit", [FURNISHED, HOME, HOTEL], ids=lambda k: k.name)
    @pytest.mark.parametrize(
        "exercise_id", ["back_squat", "trap_bar_deadlift", "bench_press", "prone_row", "countermovement_jump"]
    )
    def test_the_main_movements_have_one_in_every_room(self, kit, exercise_id: str) -> None:
        limits = Limits(kit=kit)
        found = substitute(exercise_id, frozenset(), limits)
        assert found is not None
        assert kit.allows(exercise(found))

    @given(
        st.sampled_from(sorted(shipped())),
        st.sampled_from([frozenset(), frozenset({"overhead"}), frozenset({"squat"}), frozenset({"lower"})]),
    )
    def test_nothing_that_is_ruled_out_stands_in_and_the_closest_is_first(self, exercise_id: str, restricted: frozenset) -> None:
        limits = Limits(restricted, HOME, 2)
        found = substitutes(exercise_id, limits)
        assert all(limits.allows(exercise(s.exercise_id)) for s in found)
        assert [s.closeness for s in found] == sorted((s.closeness for s in found), reverse=True)
        assert all(LEAST <= s.closeness <= 100 for s in found)
        assert exercise_id not in [s.exercise_id for s in found]

    def test_a_recorded_fault_brings_its_exercises_forward(self) -> None:
        plain = [s.exercise_id for s in substitutes("snatch", Limits())]
        with_fault = [s.exercise_id for s in substitutes("snatch", Limits(), (), frozenset({"feet_jump_about"}))]
        assert with_fault.index("no_foot_snatch") < plain.index("no_foot_snatch")


LINE = WrittenLine("back_squat", "3 × 5 @ 80 %")
DOCUMENT = Document("Strong", ())
for _exercise, _text, _block in (
    ("low_box_landing", "2 × 4", "Prepare"),
    ("back_squat", "4 × 3 @ 82 %", "main"),
    ("countermovement_jump", "3 × 3", "main"),
    ("dead_bug", "2 × 8", "trunk"),
):
    DOCUMENT = add_line(DOCUMENT, WrittenLine(_exercise, _text), _block)


class TestDocuments:
    def test_slots_follow_blocks(self) -> None:
        assert [x.slot for x in session_of(DOCUMENT, "A", date(2026, 11, 30)).lines] == ["P1", "A1", "A2", "B1"]

    def test_a_document_survives_json_and_a_session(self) -> None:
        noted = note_line(DOCUMENT, "A1", "belt on")
        assert from_raw(json.loads(json.dumps(to_raw(noted)))) == identified(noted) != identified(DOCUMENT)
        again = document_of(session_of(DOCUMENT, "A", date(2026, 11, 30)))
        assert [(b.name, [x.exercise_id for x in b.lines]) for b in again.blocks] == [
            (b.name, [x.exercise_id for x in b.lines]) for b in DOCUMENT.blocks
        ]

    @given(st.lists(st.tuples(st.sampled_from(["up", "down", "first", "last"]), st.integers(0, 9)), max_size=12))
    def test_moving_never_loses_or_doubles_a_line(self, moves: list[tuple[str, int]]) -> None:
        document = DOCUMENT
        for to, n in moves:
            slots = [x.slot for x in session_of(document, "A", date(2026, 11, 30)).lines]
            document = move_line(document, slots[n % len(slots)], to)
        lines = [x.exercise_id for b in document.blocks for x in b.lines]
        assert sorted(lines) == sorted(x.exercise_id for b in DOCUMENT.blocks for x in b.lines)

    def test_a_grouping_that_no_longer_holds_becomes_straight(self) -> None:
        paired = regroup(DOCUMENT, "main", BlockStyle(Grouping.PAIR))
        assert drop_line(paired, "A2").blocks[1].style.grouping is Grouping.STRAIGHT

    @pytest.mark.parametrize("grouping", list(Grouping))
    def test_each_grouping_says_what_it_is_and_refuses_too_few_lines(self, grouping: Grouping) -> None:
        rule = GROUPINGS[grouping]
        assert rule.words
        if rule.least > 1:
            with pytest.raises(CoachError):
                check_style(BlockStyle(grouping, minutes=5, bpm=50, every_s=60, rest_inside_s=20), rule.least - 1)
        if rule.needs:
            with pytest.raises(CoachError) as refused:
                check_style(BlockStyle(grouping), rule.least)
            assert refused.value.where == rule.needs

    def test_a_drop_of_the_last_line_leaves_an_empty_session(self) -> None:
        one = add_line(Document("x", ()), LINE, "main")
        assert drop_line(one, "A1").blocks == ()


class TestMinutesOfBlocks:
    LINES = (("4 × 3 @ 85 %", "back_squat"), ("4 × 3", "countermovement_jump"))

    @pytest.mark.parametrize(("style", "lines", "expected"), [
        (BlockStyle(Grouping.EVERY, every_s=90), (("8 × 2 @ 60 %, every 1:30", "back_squat"),), 12.0),
        (BlockStyle(Grouping.AMRAP, minutes=10), (("1 × 5", "push_up"), ("1 × 5", "bodyweight_squat")), 10.0),
        (BlockStyle(Grouping.WARM_UP, minutes=5), (("1 × 5", "inchworm"), ("1 × 5", "a_skip")), 5.0),
        # 25 repetitions at 50 beats a minute and two beats each take one minute, and 20 s of transition
        (BlockStyle(Grouping.METRONOME, bpm=50, beats=2), (("1 × 25", "metronome_push_up"),), 1 + 20 / 60),
        # a complex of four lifts, six rounds every two minutes: twelve minutes, not four times that
        (BlockStyle(Grouping.COMPLEX, every_s=120), (
            ("6 × 1 @ 60 %", "power_clean"), ("6 × 1 @ 60 %", "front_squat"), ("6 × 1 @ 60 %", "push_press"),
            ("6 × 1", "back_squat"),
        ), 12.0),
    ])  # fmt: skip
    def test_timed_blocks_count_exactly(self, style: BlockStyle, lines: tuple, expected: float) -> None:
        assert minutes(style, lines) == pytest.approx(expected)

    def test_fifty_beats_at_two_a_rep_is_25_reps_a_minute(self) -> None:
        assert "25 reps a minute" in BlockStyle(Grouping.METRONOME, bpm=50, beats=2).words

    def test_a_pair_takes_less_than_straight_sets_and_rounds_rest_once(self) -> None:
        straight = minutes(BlockStyle(), self.LINES)
        pair = minutes(BlockStyle(Grouping.PAIR), self.LINES)
        contrast = minutes(BlockStyle(Grouping.CONTRAST, rest_inside_s=0, rest_between_s=180), self.LINES)
        assert pair < straight
        work = sum(4 * (3 * exercise(lift).seconds_per_rep + 20) for _, lift in self.LINES)
        assert contrast == pytest.approx(work / 60 + 3 * 3)

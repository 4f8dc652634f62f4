"""Blocks typed as they stand on the board, set by set and by their forms."""

from __future__ import annotations

from datetime import date
from typing import Any

import pytest

from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise, exercises, shipped
from jarvok.core.library.search import aliases, found_by, meant, named, trade_words
from jarvok.core.loading.set_by_set import set_text, with_set, with_sets
from jarvok.core.loading.shorthand import parse, write
from jarvok.core.session.block_changes import copy_block, drop_block, move_block, put_block, regroup, rename_block
from jarvok.core.session.blocks import BlockStyle, Grouping
from jarvok.core.session.document import (
    Document,
    WrittenBlock,
    WrittenLine,
    document_of,
    from_raw,
    identified,
    session_of,
    to_raw,
)
from jarvok.core.session.forms import AS_IT_IS, Forms
from jarvok.core.session.line_changes import level_line, write_round
from jarvok.core.session.planned import PlannedLine
from jarvok.core.session.typed_block import typed_blocks


def typed(text: str) -> tuple[WrittenBlock, ...]:
    return typed_blocks(text, exercises().values())


def lines(block: WrittenBlock) -> list[tuple[str, str]]:
    return [(x.exercise_id, x.text) for x in block.lines]


class TestTyped:
    def test_a_contrast_block_with_a_ladder(self) -> None:
        (block,) = typed(
            "contrast, 4 rounds, 3:00 between\n"
            "trap-bar jump 1 @ 40/50/60/60 %\nsingle-leg low hurdle hop 1/side\nkettlebell swing 5 @ 20 kg\nassisted jump 4"
        )
        assert block.style == BlockStyle(Grouping.CONTRAST, rest_between_s=180)
        assert lines(block) == [
            ("trap_bar_jump", "4 × 1 @ 40/50/60/60 %"), ("single_leg_hurdle_hop", "4 × 1/side"),
            ("kettlebell_swing", "4 × 5 @ 20 kg"), ("band_assisted_jump", "4 × 4"),
        ]  # fmt: skip

    @pytest.mark.parametrize(("heading", "style"), [
        ("pair", BlockStyle(Grouping.PAIR)),
        ("superset, 1:30 between, 20 s inside", BlockStyle(Grouping.PAIR, 20, 90)),
        ("2 rounds", BlockStyle(Grouping.PAIR)),
        ("complex, every 2:00, 6 rounds", BlockStyle(Grouping.COMPLEX, every_s=120)),
        ("every 90 s × 8", BlockStyle(Grouping.EVERY, every_s=90)),
        ("amrap, 10 min", BlockStyle(Grouping.AMRAP, minutes=10)),
        ("50 bpm, 2 beats a rep", BlockStyle(Grouping.METRONOME, bpm=50, beats=2)),
        ("Strength:", BlockStyle()),
        ("light complex, every 2:00", BlockStyle(Grouping.COMPLEX, every_s=120)),
        ("heavy pair:", BlockStyle(Grouping.PAIR)),
        ("complex 1+1, 5 rounds", BlockStyle(Grouping.COMPLEX)),
        ("superset x 3", BlockStyle(Grouping.PAIR)),
        ("3 rounds of:", BlockStyle(Grouping.PAIR)),
        ("A. Pair: 3 rounds, rest 60 s", BlockStyle(Grouping.PAIR, rest_between_s=60)),
        ("pair, 20 s between stations, 2 min between rounds", BlockStyle(Grouping.PAIR, 20, 120)),
        ("8 min amrap", BlockStyle(Grouping.AMRAP, minutes=8)),
        ("emom 10 min", BlockStyle(Grouping.EVERY, every_s=60)),
        ("every minute for 10 min", BlockStyle(Grouping.EVERY, every_s=60)),
        ("E2MOM for 12 min", BlockStyle(Grouping.EVERY, every_s=120)),
    ])  # fmt: skip
    def test_how_its_lines_run(self, heading: str, style: BlockStyle) -> None:
        (block,) = typed(f"{heading}\npush-up 10\nbodyweight squat 10")
        assert block.style == style

    @pytest.mark.parametrize(("heading", "sets"), [
        ("3 rounds of:", 3), ("superset x 4", 4), ("emom 10 min", 10),
        ("E2MOM for 12 min", 6), ("every 90 s × 8", 8), ("pair", 1),
    ])  # fmt: skip
    def test_how_often(self, heading: str, sets: int) -> None:
        (block,) = typed(f"{heading}\npush-up 10\nair squat 10")
        assert {parse(t).total_sets for _, t in lines(block)} == {sets}

    @pytest.mark.parametrize(("text", "found"), [
        ("3 x 10 push-ups", ("push_up", "3 × 10")), ("10 m squat walk", ("squat_walk", "1 × 10 m")),
        ("SQUAT 5X5", ("back_squat", "5 × 5")), ("back squat\t3x5\r", ("back_squat", "3 × 5")),
        ("clean and jerk every 90 s until you miss: 8x1 @ 80 %", ("clean_and_jerk", "8 × 1 @ 80 %, every 1:30, until you miss")),
        ("split squat 3x8 each", ("flat_split_squat", "3 × 8/side")), ("back squat 225 lb x 5", ("back_squat", "1 × 5 @ 225 lb")),
        ("squat 5; easier:", ("back_squat", "1 × 5")),
    ])  # fmt: skip
    def test_as_coaches_write_a_line(self, text: str, found: tuple[str, str]) -> None:
        (block,) = typed(text)
        assert lines(block) == [found]

    def test_a_block_to_the_clock_until_one_is_missed(self) -> None:
        (block,) = typed("until you miss, every 1:30\nclean and jerk 8 × 1 @ 80 % + 2.5 kg")
        assert block.style == BlockStyle(Grouping.UNTIL_MISS, every_s=90)
        assert lines(block) == [("clean_and_jerk", "8 × 1 @ 80 % + 2.5 kg, every 1:30, until you miss")]

    def test_blocks_are_parted_by_an_empty_line_and_named(self) -> None:
        prepare, main = typed("Warm-up, 2 rounds\nsquat walk 10 m\nbird dog 8\ninchworm 4\n\n\nHeavy:\nsquat 5 × 3 @ 85 %")
        (bar,) = typed("Prepare, bar, 2 rounds\nbird dog 8\ninchworm 5")
        assert (bar.name, bar.style.grouping) == ("Prepare, bar", Grouping.PAIR)
        assert (prepare.name, prepare.style.grouping, main.name) == ("Prepare", Grouping.CIRCUIT, "Heavy")
        assert [x.is_main for x in (*prepare.lines, *main.lines)] == [False, False, False, True]
        assert [t for _, t in lines(prepare)] == ["2 × 10 m", "2 × 8", "2 × 4"]

    def test_without_a_heading_it_is_straight_sets(self) -> None:
        (block,) = typed("A1 Back squat: 5 × 3 @ 85 %, rest 3:00\nA2. Bench press")
        assert (block.name, block.style.grouping) == ("main", Grouping.STRAIGHT)
        assert lines(block) == [("back_squat", "5 × 3 @ 85 %, rest 3:00"), ("bench_press", "3 × 8, 2 in reserve")]

    def test_words_beside_a_line_and_its_rounds(self) -> None:
        (block,) = typed(
            "2 rounds\npull drill with a stick 5 (stick / bar 20 kg)\nbird dog 8; easier: one arm; harder: knees off"
        )
        assert block.lines[0].forms.rounds == ((1, "stick"), (2, "bar 20 kg"))
        assert (block.lines[1].forms.easier, block.lines[1].forms.harder) == ("one arm", "knees off")
        (run,) = typed("sprint 3 × 40 m (track, spikes)")
        assert run.lines[0].note == "track, spikes"

    @pytest.mark.parametrize(("text", "said", "offered"), [
        ("contrast, 4 rounds\nsquat 5\nfront sqat 3\nbox jump 3", "Line 3: No exercise is called “front sqat”.", "Front squat"),
        ("lunge 3 × 5", "Line 1: “lunge” could be several exercises.", "Side lunge"),
        ("contrast, purple, green\nsquat 5", "Line 1: “purple” is not understood in the heading.", "contrast, 4 rounds"),
        ("Main:", "Line 1: no exercise follows “Main:”.", "A line for each exercise"),
        ("squat 3 × 5 (" + "long " * 13 + ")", "Line 1: The word in brackets is too long.", "60"),
        ("circuit\nsquat 5", "Line 1: Circuit cannot hold 1 lines.", "3 to 12"),
        ("back squat 5 x", "Line 1: How many repetitions", ""),
        ("", "Nothing is written.", ""),
        ("\n\n".join(["squat 5"] * 13), "That is more than a session.", "12 blocks"),
        ("x" * 6001, "The text is too long.", "6000"),
    ])  # fmt: skip
    def test_what_cannot_be_read_is_told_with_its_line(self, text: str, said: str, offered: str) -> None:
        with pytest.raises(CoachError) as told:
            typed(text)
        assert told.value.message.startswith(said)
        assert offered in told.value.accepted


class TestSearch:
    @pytest.mark.parametrize(("typed", "found"), [
        ("landing", "jump_and_stick"), ("core", "front_hold"), ("hamstring", "partner_nordic"), ("groin", "side_to_side_lunge"),
        ("kb swing", "kettlebell_swing"), ("rdl", "romanian_deadlift"), ("overspeed", "band_assisted_jump"),
        ("plank", "front_hold"),
        ("med ball", "chest_throw"), ("change of direction", "cut_ninety"), ("shoulder blade", "wall_slide"),
        ("grip", "plate_pinch"),
    ])  # fmt: skip
    def test_trade_words_find_what_they_mean(self, typed: str, found: str) -> None:
        assert all(w in found_by(exercise(found)) for w in typed.split())

    def test_every_word_belongs_to_something(self) -> None:
        held: set[str] = set()
        for x in shipped().values():
            held |= {x.kind, x.pattern, x.implement, *x.roles, *x.needs}
        assert set(trade_words().words) <= held
        assert set(trade_words().aliases) <= set(shipped())

    def test_no_two_exercises_are_called_the_same(self) -> None:
        called = [(n.lower(), x.id) for x in shipped().values() for n in (x.name, *aliases(x))]
        assert len({n for n, _ in called}) == len(called)

    def test_a_name_is_read_however_it_is_spelt(self) -> None:
        rows = list(exercises().values())
        for typed in ("pull-up", "Pull ups", "PULL-UP, LOADED", "weighted pull-up"):
            assert meant(typed, rows).id == "pull_up"
        assert named("pull", rows) is None
        for x in rows:
            assert meant(x.name, rows) == x


class TestSetBySet:
    @pytest.mark.parametrize(("line", "number", "text", "wanted"), [
        ("3 × 5 @ 80 %", 3, "3 @ 85 %", "2 × 5 @ 80 % then 1 × 3 @ 85 %"),
        ("3 × 5 @ 80 %", 2, "5 @ 80 %", "3 × 5 @ 80 %"),
        ("2 × 5, 3-0-X-0, rest 1:00", 1, "8", "1 × 8 then 1 × 5, 3-0-X-0, rest 1:00"),
        ("3 × 5 @ 70/75/80 %", 1, "5 @ 60 kg", "1 × 5 @ 60 kg then 1 × 5 @ 75 % then 1 × 5 @ 80 %"),
        ("2 × 30 s", 2, "45 s", "1 × 30 s then 1 × 45 s"),
    ])  # fmt: skip
    def test_one_set_is_written_anew(self, line: str, number: int, text: str, wanted: str) -> None:
        assert write(with_set(parse(line), number, text)) == wanted

    @pytest.mark.parametrize(("line", "number", "text"), [
        ("3 × 5 @ 80 %", 4, "5"), ("3 × 5 @ 80 %", 0, "5"), ("3 × 5 @ 80 %", 1, "5, rest 1:00"), 
        ("3 × 5 @ 80 %", 1, "5 then 2 × 5"), ("4 × 3 @ 60 % rising", 2, "3 @ 70 %"),
    ])  # fmt: skip
    def test_what_is_no_single_set_is_refused(self, line: str, number: int, text: str) -> None:
        with pytest.raises(CoachError):
            with_set(parse(line), number, text)

    @pytest.mark.parametrize(("line", "sets", "wanted"), [
        ("3 × 5 @ 80 %", 5, "5 × 5 @ 80 %"), ("1 × 8/side", 3, "3 × 8/side"), ("4 × 3 @ 60 % rising", 6, "6 × 3 @ 60 % rising"),
        ("3 × 5 @ 70/75/80 %", 2, "1 × 5 @ 70 % then 1 × 5 @ 75 %"),
        ("3 × 5 @ 70/75/80 %", 4, "1 × 5 @ 70 % then 1 × 5 @ 75 % then 2 × 5 @ 80 %"),
        ("2 × 5 @ 70 % then 1 × 3 @ 80 %", 3, "2 × 5 @ 70 % then 1 × 3 @ 80 %"),
    ])  # fmt: skip
    def test_another_number_of_sets(self, line: str, sets: int, wanted: str) -> None:
        assert write(with_sets(parse(line), sets)) == wanted

    @pytest.mark.parametrize("sets", [0, 31])
    def test_sets_nobody_does(self, sets: int) -> None:
        with pytest.raises(CoachError):
            with_sets(parse("3 × 5"), sets)

    def test_a_set_is_said_by_itself(self) -> None:
        line = parse("2 × 5 @ 80 % then 1 × 3 @ 85 %, rest 2:00")
        assert [set_text(line, n) for n in (1, 2, 3, 4)] == ["5 @ 80 %", "5 @ 80 %", "3 @ 85 %", ""]


SQUAT, JUMP = WrittenLine("back_squat", "3 × 5 @ 80 %", is_main=True), WrittenLine("box_jump", "3 × 3")
PREPARE = WrittenBlock("Prepare", (WrittenLine("bird_dog", "2 × 8"),))
DAY = identified(Document("Day", (PREPARE, WrittenBlock("main", (SQUAT,)), WrittenBlock("jumps", (JUMP,)))))


class TestBlocks:
    def names(self, document: Document) -> list[str]:
        return [b.name for b in document.blocks]

    def test_renamed_moved_copied_out(self) -> None:
        assert self.names(rename_block(DAY, "A · main", "heavy")) == ["Prepare", "heavy", "jumps"]
        assert self.names(move_block(DAY, "jumps", "up")) == ["Prepare", "jumps", "main"]
        assert self.names(move_block(DAY, "jumps", "down")) == ["Prepare", "main", "jumps"]
        assert self.names(copy_block(DAY, "main")) == ["Prepare", "main", "main 2", "jumps"]
        assert self.names(copy_block(copy_block(DAY, "main"), "main")) == ["Prepare", "main", "main 3", "main 2", "jumps"]
        assert self.names(drop_block(DAY, "main")) == ["Prepare", "jumps"]

    def test_a_copy_has_lines_of_its_own(self) -> None:
        ids = [x.line_id for b in identified(copy_block(DAY, "main")).blocks for x in b.lines]
        assert len(set(ids)) == len(ids) == 4

    @pytest.mark.parametrize("change", [
        lambda: rename_block(DAY, "main", "Jumps"), lambda: rename_block(DAY, "main", " "), 
        lambda: rename_block(DAY, "none", "x"), lambda: move_block(DAY, "main", "sideways"), lambda: drop_block(DAY, "none"),
    ])  # fmt: skip
    def test_refused(self, change: Any) -> None:
        with pytest.raises(CoachError):
            change()

    def test_a_full_session_takes_no_more(self) -> None:
        full = DAY
        for _ in range(9):
            full = copy_block(full, "main")
        assert len(full.blocks) == 12
        with pytest.raises(CoachError):
            put_block(full, DAY.blocks[1])

    def test_rounds_of_a_block_are_sets_of_each_line(self) -> None:
        pair = Document("x", (WrittenBlock("main", (SQUAT, JUMP)),))
        changed = regroup(pair, "main", BlockStyle(Grouping.PAIR), rounds=5)
        assert [x.text for x in changed.blocks[0].lines] == ["5 × 5 @ 80 %", "5 × 3"]


class TestForms:
    def test_a_round_is_done_with_something_else(self) -> None:
        changed = write_round(write_round(DAY, "P1", 1, "", "stick"), "P1", 2, "6", "bar 20 kg")
        line = changed.blocks[0].lines[0]
        assert (line.text, line.forms.words) == ("1 × 8 then 1 × 6", "stick in round 1, bar 20 kg in round 2")
        assert write_round(changed, "P1", 1, "", "").blocks[0].lines[0].forms.rounds == ((2, "bar 20 kg"),)

    def test_forms_stay_with_the_line(self) -> None:
        changed = level_line(write_round(DAY, "A1", 2, "", "safety bar"), "A1", "to a box", "paused")
        assert from_raw(to_raw(changed)) == changed
        session = session_of(changed, "A", date(2026, 11, 30))
        assert session.lines[1].forms == Forms(((2, "safety bar"),), "to a box", "paused")
        assert PlannedLine.from_raw(session.lines[1].to_raw()) == session.lines[1]
        assert document_of(session).blocks[1].lines[0].forms == session.lines[1].forms

    @pytest.mark.parametrize(("number", "words"), [(0, "x"), (31, "x"), (1, "x" * 41)])
    def test_words_that_do_not_fit(self, number: int, words: str) -> None:
        with pytest.raises(CoachError):
            AS_IT_IS.with_round(number, words)

    @pytest.mark.parametrize("raw", [{"rounds": ["stick"]}, {"rounds": {"first": "stick"}}, {"rounds": {"1": 5}}])
    def test_a_document_that_says_it_wrongly(self, raw: dict[str, Any]) -> None:
        with pytest.raises(CoachError):
            Forms.from_raw(raw)

"""Sessions and templates as open documents: what is written reads back, what cannot be read says where, and what edits do."""

from __future__ import annotations

import copy
from typing import Any

import pytest

from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.resolve import resolve
from jarvok.core.loading.shorthand import parse
from jarvok.core.loading.state import LiftState
from jarvok.core.session import document as doc
from jarvok.core.session import line_changes as lines
from jarvok.core.session import template
from jarvok.core.session.block_changes import regroup
from jarvok.core.session.blocks import BlockStyle, Grouping
from jarvok.core.session.document import Document, WrittenBlock, WrittenLine
from jarvok.core.session.roles import role_of
from jarvok.core.session.template import TemplateDocument
from jarvok.core.week.sums import LineSum, sum_up

SQUAT, BENCH = WrittenLine("back_squat", "3 × 5 @ 80 %", "why", True), WrittenLine("bench_press", "3 × 8, 2 in reserve")
JUMP, HOLD = WrittenLine("countermovement_jump", "3 × 4", note="on grass"), WrittenLine("front_hold", "2 × 30 s")
PAIR = BlockStyle(Grouping.PAIR, rest_between_s=90)
WHOLE = doc.identified(
    Document(
        "Legs",
        (WrittenBlock("Prepare", (JUMP,)), WrittenBlock("main", (SQUAT, BENCH), PAIR), WrittenBlock("trunk", (HOLD,))),
        "high",
    )
)


def slots(document: Document) -> list[tuple[str, str]]:
    from datetime import date

    return [(x.slot, x.exercise_id) for x in doc.session_of(document, "A", date(2026, 11, 30)).lines]


class TestReading:
    def test_what_is_written_reads_back(self) -> None:
        assert doc.from_raw(doc.to_raw(WHOLE)) == WHOLE
        held = TemplateDocument("phase", ((0, 0, WHOLE), (2, 4, WHOLE)))
        assert template.from_raw(template.to_raw(held)) == held
        assert held.weeks == 3
        assert TemplateDocument("week", ()).weeks == 1

    @pytest.mark.parametrize(
        ("path", "value", "where"),
        [
            (("format",), "other", "format"), (("version",), 2, "version"), (("theme",), "", "theme"),
            (("theme",), "x" * 61, "theme"), (("theme",), 5, "theme"), (("load",), "hard", "load"),
            (("blocks",), "none", "blocks"), (("blocks",), [{}] * 13, "blocks"),
            (("blocks", 0), "x", "blocks[0]"), (("blocks", 0, "grouping"), "ring", "blocks[0].grouping"),
            (("blocks", 1, "rest_between_s"), 1.5, "blocks[1].rest_between_s"), (("blocks", 1, "bpm"), True, "blocks[1].bpm"),
            (("blocks", 1, "lines"), None, "blocks[1].lines"), (("blocks", 1, "lines"), [{}] * 41, "blocks[1].lines"),
            (("blocks", 1, "name"), " ", "blocks[1].name"), (("blocks", 2, "lines", 0), 7, "blocks[2].lines[0]"),
            (("blocks", 2, "lines", 0, "exercise"), "flying", "blocks[2].lines[0].exercise"),
            (("blocks", 2, "lines", 0, "exercise"), None, "blocks[2].lines[0].exercise"),
            (("blocks", 2, "lines", 0, "text"), 5, "blocks[2].lines[0].text"),
        ],
    )  # fmt: skip
    def test_what_cannot_be_read_says_where(self, path: tuple[str | int, ...], value: Any, where: str) -> None:
        raw: Any = copy.deepcopy(doc.to_raw(WHOLE))
        at = raw
        for step in path[:-1]:
            at = at[step]
        at[path[-1]] = value
        with pytest.raises(CoachError) as refused:
            doc.from_raw(raw)
        assert refused.value.where == where

    def test_forty_lines_are_a_session_and_forty_one_are_not(self) -> None:
        for count, fits in ((40, True), (41, False)):
            blocks = (*(WrittenBlock(name, (BENCH,) * 10) for name in "abc"), WrittenBlock("d", (BENCH,) * (count - 30)))
            raw = doc.to_raw(Document("Long", blocks))
            if fits:
                assert doc.from_raw(raw).line_count == 40
            else:
                with pytest.raises(CoachError, match="no session"):
                    doc.from_raw(raw)

    @pytest.mark.parametrize(
        ("change", "where"),
        [
            ({"format": "x"}, "format"), ({"version": 9}, "version"), ({"kind": "year"}, "kind"), ({"sessions": []}, "sessions"),
            ({"sessions": "x"}, "sessions"), ({"sessions": [1]}, "sessions[0]"),
            ({"sessions": [{"week": 1, "session": {}}]}, "sessions[0].week"),
            ({"sessions": [{"weekday": 7, "session": {}}]}, "sessions[0].weekday"),
            ({"sessions": [{"weekday": True, "session": {}}]}, "sessions[0].weekday"),
            ({"sessions": [{"session": {}}]}, "sessions[0].session.format"),
        ],
    )  # fmt: skip
    def test_a_template_that_cannot_be_read_says_where(self, change: dict[str, Any], where: str) -> None:
        raw = template.to_raw(TemplateDocument("week", ((0, 0, WHOLE),))) | change
        with pytest.raises(CoachError) as refused:
            template.from_raw(raw)
        assert refused.value.where == where

    @pytest.mark.parametrize(("kind", "count", "fits"), [("session", 1, True), ("session", 2, False), ("week", 2, True)])
    def test_how_many_sessions_a_template_holds(self, kind: str, count: int, fits: bool) -> None:
        raw = template.to_raw(TemplateDocument(kind, ((0, 0, WHOLE),) * count))
        if fits:
            assert len(template.from_raw(raw).sessions) == count
        else:
            with pytest.raises(CoachError, match="holds sessions"):
                template.from_raw(raw)

    def test_only_what_is_a_table_is_read(self) -> None:
        for read in (doc.from_raw, template.from_raw):
            with pytest.raises(CoachError, match="This is not a"):
                read("text")


class TestEdits:
    def test_a_line_is_added_to_its_block_or_to_a_new_one(self) -> None:
        assert ("B2", "front_hold") in slots(lines.add_line(WHOLE, HOLD, "B · trunk"))
        assert slots(lines.add_line(WHOLE, BENCH, "finish"))[-1] == ("C1", "bench_press")
        bare = Document("Own", (WrittenBlock("main", (SQUAT,)),))
        assert slots(lines.add_line(bare, JUMP, "prepare"))[0] == ("P1", "countermovement_jump")
        with pytest.raises(CoachError, match="too long"):
            lines.add_line(WHOLE, HOLD, "x" * 61)
        full = Document("Full", (WrittenBlock("main", (BENCH,) * 40),))
        with pytest.raises(CoachError, match="full"):
            lines.add_line(full, BENCH, "main")

    def test_a_line_dropped_ends_a_pair_and_an_empty_block(self) -> None:
        one = lines.drop_line(WHOLE, "A1")
        assert one.blocks[1].style.grouping is Grouping.STRAIGHT
        assert [b.name for b in lines.drop_line(WHOLE, "B1").blocks] == ["Prepare", "main"]
        with pytest.raises(CoachError, match="no line Z9"):
            lines.drop_line(WHOLE, "Z9")

    @pytest.mark.parametrize(
        ("slot", "to", "first"),
        [
            ("A2", "up", ["countermovement_jump", "bench_press", "back_squat", "front_hold"]),
            ("A1", "down", ["countermovement_jump", "bench_press", "back_squat", "front_hold"]),
            ("A1", "up", ["countermovement_jump", "back_squat", "bench_press", "front_hold"]),
            ("P1", "up", ["countermovement_jump", "back_squat", "bench_press", "front_hold"]),
            ("B1", "down", ["countermovement_jump", "back_squat", "bench_press", "front_hold"]),
            ("B1", "first", ["countermovement_jump", "front_hold", "back_squat", "bench_press"]),
            ("A1", "last", ["countermovement_jump", "bench_press", "front_hold", "back_squat"]),
        ],
    )
    def test_a_line_moves(self, slot: str, to: str, first: list[str]) -> None:
        assert [x for _, x in slots(lines.move_line(WHOLE, slot, to))] == first

    def test_it_moves_nowhere_else(self) -> None:
        with pytest.raises(CoachError, match="up, down, first or last"):
            lines.move_line(WHOLE, "A1", "sideways")

    def test_another_exercise_takes_its_prescription_as_it_can(self) -> None:
        found = lines.take_line(lines.replace_line(WHOLE, "A1", "front_hold"), "A1")
        assert (found.exercise_id, found.text) == ("front_hold", "3 × 20 s")
        assert found.reason == "in place of back squat"

    def test_words_beside_a_line_and_its_text(self) -> None:
        assert lines.take_line(lines.note_line(WHOLE, "A1", " in flats "), "A1").note == "in flats"
        assert lines.take_line(lines.write_text(WHOLE, "A1", "5x2 @ 82"[:-3] + " 82%"), "A1").text == "5 × 2 @ 82 %"
        with pytest.raises(CoachError, match="too long"):
            lines.note_line(WHOLE, "A1", "x" * 61)

    def test_a_block_is_grouped_another_way_where_it_can_be(self) -> None:
        every = regroup(WHOLE, "A · main", BlockStyle(Grouping.PAIR, rest_between_s=60))
        assert every.blocks[1].style.rest_between_s == 60
        with pytest.raises(CoachError, match="no block"):
            regroup(WHOLE, "Z · nothing", PAIR)


class TestSums:
    def line(self, exercise_id: str, text: str, *, main: bool = True) -> LineSum:
        lift, written = exercise(exercise_id), parse(text)
        return LineSum(lift, role_of("A", lift, is_main=main), written, resolve(written, LiftState(lift)))

    def test_what_counts_as_what(self) -> None:
        found = sum_up(
            [
                self.line("back_squat", "4 × 5 @ 100 kg"),
                self.line("bench_press", "3 × 8 @ 60 kg", main=False),
                self.line("snatch", "5 × 2 @ 80 kg"),
                self.line("countermovement_jump", "3 × 4"),
                self.line("low_box_landing", "3 × 4"),
                self.line("sprint", "4 × 20 m"),
            ]
        )
        assert (found.hard_sets, found.by_pattern) == (19, {"squat": 4, "classic": 5, "jump": 6, "run": 4})
        assert (found.lifts, found.average_intensity_pct) == (10, None)
        assert found.volume_kg == 4 * 5 * 100 + 3 * 8 * 60 + 5 * 2 * 80
        low = exercise("low_box_landing").cost == "low"
        assert found.contacts == (12 if low else 24)
        assert found.sprint_metres == 80

    def test_both_sides_count(self) -> None:
        one, both = sum_up([self.line("step_up", "3 × 5 @ 20 kg")]), sum_up([self.line("step_up", "3 × 5/side @ 20 kg")])
        assert both.volume_kg == 2 * one.volume_kg

    def test_nothing_sums_to_nothing(self) -> None:
        found = sum_up([])
        assert (found.hard_sets, found.lifts, found.average_intensity_pct, found.volume_kg) == (0, 0, None, 0)

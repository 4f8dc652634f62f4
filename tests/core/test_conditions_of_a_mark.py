"""Grip, rack and equipment: what a lift is asked, what is usual, and which marks are compared."""

from __future__ import annotations

from datetime import date, timedelta

import pytest

from jarvok.core.errors import CoachError
from jarvok.core.library.exercises import exercise
from jarvok.core.marks.conditions import (
    checked,
    conditions,
    conditions_of,
    from_raw,
    is_comparable,
    usual_of,
    words_of,
)
from jarvok.core.marks.mark import Conditions, Mark, MarkKind
from jarvok.core.session import document as doc
from jarvok.core.session.line_changes import condition_line, replace_line
from jarvok.core.session.planned import PlannedSession

DAY = date(2026, 11, 2)
STRAPS: Conditions = (("equipment", "straps"),)
BELT: Conditions = (("equipment", "belt"),)
HOOK: Conditions = (("grip", "hook"),)


def mark(number: int, under: Conditions = (), load_kg: float = 100.0) -> Mark:
    return Mark(f"mark:{number}", DAY + timedelta(days=number), MarkKind.ONE_RM, load_kg, conditions=under)


@pytest.mark.parametrize(
    ("lift", "kinds"),
    [
        ("front_squat", ["rack", "equipment"]),
        ("deadlift", ["grip", "equipment"]),
        ("bench_press", ["width", "equipment"]),
        ("snatch", ["width", "equipment"]),
        ("clean", ["rack", "equipment"]),
        ("back_squat", ["equipment"]),
        ("countermovement_jump", []),
        ("goblet_squat", []),
    ],
)
def test_a_lift_is_asked_what_can_differ_in_it(lift: str, kinds: list[str]) -> None:
    assert [c.id for c in conditions_of(exercise(lift))] == kinds


def test_what_is_given_is_checked_against_the_lift() -> None:
    given = checked(exercise("deadlift"), {"equipment": "belt", "grip": "mixed", "rack": ""})
    assert given == (("grip", "mixed"), ("equipment", "belt")), "in the order of the table"
    assert words_of(given) == "mixed grip, belt"
    for bad in ({"rack": "full"}, {"grip": "three fingers"}, {"colour": "red"}):
        with pytest.raises(CoachError):
            checked(exercise("deadlift"), bad)


def test_kept_ones_that_are_known_no_more_are_passed_over() -> None:
    assert from_raw({"equipment": "belt", "grip": "no more", "shoes": "flat"}) == BELT
    assert from_raw(None) == from_raw({}) == ()


def test_every_choice_has_words_of_its_own() -> None:
    for c in conditions():
        assert len({words for _, words in c.choices}) == len(c.choices) >= 2


class TestWhatIsUsual:
    def test_nothing_where_no_mark_names_any(self) -> None:
        assert usual_of([mark(1), mark(2)]) == ()

    def test_one_strapped_mark_among_bare_ones_is_not_usual(self) -> None:
        assert usual_of([mark(1), mark(2), mark(3, STRAPS)]) == ()

    def test_what_most_marks_name_is(self) -> None:
        assert usual_of([mark(1), mark(2, BELT), mark(3, BELT)]) == BELT

    def test_of_as_many_the_named_one_and_of_two_named_the_newest(self) -> None:
        assert usual_of([mark(1), mark(2, BELT)]) == BELT
        assert usual_of([mark(1, STRAPS), mark(2, BELT)]) == BELT
        assert usual_of([mark(2, STRAPS), mark(1, BELT)]) == STRAPS

    def test_what_the_coach_said_goes_first(self) -> None:
        assert usual_of([mark(1, BELT), mark(2, BELT)], told=STRAPS) == STRAPS


@pytest.mark.parametrize(
    ("under", "wanted", "usual", "counts"),
    [
        ((), (), (), True),
        (STRAPS, (), (), False),  # the usual is not said: straps are something else
        ((), STRAPS, (), False),
        (STRAPS, STRAPS, (), True),
        ((), (), BELT, True),  # what names nothing is as usual
        (BELT, (), BELT, True),
        (STRAPS, (), BELT, False),
        ((), STRAPS, BELT, False),
        (HOOK, STRAPS, BELT, False),
        ((*HOOK, *STRAPS), STRAPS, (*HOOK, *BELT), True),  # the hook grip is usual
    ],
)
def test_marks_are_compared_under_the_same_conditions(
    under: Conditions, wanted: Conditions, usual: Conditions, counts: bool
) -> None:
    assert is_comparable(mark(1, under), wanted, usual) is counts


class TestALine:
    def document(self) -> doc.Document:
        line = doc.WrittenLine("deadlift", "3 × 3 @ 80 %", is_main=True)
        return doc.identified(doc.Document("Pull", (doc.WrittenBlock("Main", (line,)),)))

    def test_its_conditions_go_with_it_and_back(self) -> None:
        changed = condition_line(self.document(), "A1", {"equipment": "straps"})
        assert changed.blocks[0].lines[0].conditions == STRAPS
        assert doc.from_raw(doc.to_raw(changed)) == changed
        session = doc.session_of(changed, "A", DAY)
        assert session.lines[0].conditions == STRAPS
        assert PlannedSession.from_raw(session.to_raw()) == session
        assert doc.document_of(session).blocks[0].lines[0].conditions == STRAPS

    def test_another_exercise_asks_anew(self) -> None:
        changed = condition_line(self.document(), "A1", {"equipment": "straps"})
        assert replace_line(changed, "A1", "front_squat").blocks[0].lines[0].conditions == ()

    def test_what_the_lift_does_not_have_is_refused(self) -> None:
        with pytest.raises(CoachError):
            condition_line(self.document(), "A1", {"rack": "full"})

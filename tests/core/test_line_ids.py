"""What a line is known by holds when lines are moved, added, replaced, or planned in another order."""

from __future__ import annotations

from dataclasses import replace
from datetime import date

import pytest

from jarvok.core.season.planner import plan_season
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
from jarvok.core.session.line_changes import add_line, drop_line, move_line, replace_line, write_text
from jarvok.core.session.line_ids import LONGEST_LINE_ID, line_id
from jarvok.core.session.roles import BlockRole
from jarvok.core.week.arrangements import WEEK_ARRANGEMENTS
from jarvok.core.week.generate import arranged_week
from jarvok.core.week.plan import Draft, WeekFacts, settled

SEASON = plan_season(date(2026, 11, 24), date(2027, 4, 17))
DAY = date(2026, 11, 30)
ROWS = (
    WrittenLine("back_squat", "3 × 3 @ 80 %", is_main=True),
    WrittenLine("front_squat", "3 × 3 @ 70 %", is_main=True),
    WrittenLine("dumbbell_row", "3 × 8, 2 in reserve"),
)
DOCUMENT = Document("Own", (WrittenBlock("main", ROWS),))


def ids(document: Document) -> list[str]:
    return [x.line_id for x in session_of(document, "A", DAY).lines]


def test_a_line_is_called_by_what_it_is_for_and_what_it_is_of() -> None:
    assert line_id(BlockRole.MAIN, "squat", ()) == "main-squat"
    assert line_id(BlockRole.SMALL, "upper_pull", ("small-upper-pull",)) == "small-upper-pull-2"
    assert line_id(BlockRole.SMALL, "upper_pull", ("small-upper-pull", "small-upper-pull-2")) == "small-upper-pull-3"
    assert len(line_id(BlockRole.SMALL, "x" * 200, ())) < LONGEST_LINE_ID


@pytest.mark.parametrize("arrangement", WEEK_ARRANGEMENTS, ids=lambda a: a.key)
def test_every_planned_line_has_an_id_of_its_own_in_its_session(arrangement) -> None:
    for days in arrangement.days:
        for week in SEASON.weeks[:: len(SEASON.weeks) // 4]:
            for session in arranged_week(arrangement.key, WeekFacts(SEASON, week, days=days)):
                found = [line.line_id for line in session.lines]
                assert all(found)
                assert len(set(found)) == len(found), found


def test_a_line_planned_in_front_of_the_others_leaves_them_their_ids() -> None:
    facts = WeekFacts(SEASON, SEASON.weeks[1])
    day = WEEK_ARRANGEMENTS[0].drafts(facts)[0]
    before, _ = settled(day, facts, SEASON.weeks[1].start)
    new = Draft("A0", "A · new", "overhead_press", "3 × 5 @ 70 %", "a change of the arrangement", is_main=True)
    after, _ = settled(replace(day, drafts=(*day.drafts[:1], new, *reversed(day.drafts[1:]))), facts, SEASON.weeks[1].start)
    named = {x.exercise_id: x.line_id for x in after}
    squat = next(x for x in before if x.is_main)
    assert named[squat.exercise_id] == squat.line_id


def test_a_written_line_keeps_its_id_whatever_is_done_around_it() -> None:
    document = identified(DOCUMENT)
    squat, second, row = ids(document)
    assert (squat, second, row) == ("main-squat", "main-squat-2", "small-pull")
    assert ids(drop_line(document, squat)) == [second, row]
    assert ids(move_line(document, row, "up")) == [squat, row, second]
    assert ids(replace_line(document, squat, "trap_bar_deadlift"))[0] == squat
    assert ids(write_text(document, second, "5 × 1 @ 90 %")) == [squat, second, row]
    third = add_line(drop_line(document, squat), WrittenLine("back_squat", "3 × 3 @ 80 %", is_main=True), "main")
    assert ids(third)[:2] == [second, row]
    assert len(set(ids(third))) == 3


def test_ids_go_through_a_file_and_through_a_session_and_a_line_is_found_by_either_name() -> None:
    document = from_raw(to_raw(DOCUMENT))
    assert document == identified(DOCUMENT)
    assert ids(document_of(session_of(document, "A", DAY))) == ids(document)
    assert drop_line(document, "A2") == drop_line(document, "main-squat-2")
    twice = Document("Own", (WrittenBlock("main", (ROWS[0], ROWS[0])), WrittenBlock("more", (ROWS[0],))))
    assert ids(twice) == ["main-squat", "main-squat-2", "main-squat-3"]

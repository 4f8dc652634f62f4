"""What a line is in its session for."""

from __future__ import annotations

from datetime import date

import pytest

from jarvok.core.library.exercises import exercise
from jarvok.core.session.document import Document, WrittenBlock, WrittenLine, session_of
from jarvok.core.session.roles import BlockRole, role_of


@pytest.mark.parametrize(
    ("block", "exercise_id", "is_main", "role"),
    [
        ("Prepare", "back_squat", True, BlockRole.PREPARE),
        ("prepare ", "low_box_landing", False, BlockRole.PREPARE),
        ("A · preparation", "back_squat", True, BlockRole.MAIN),
        ("A · fast", "countermovement_jump", True, BlockRole.FAST),
        ("A · snatch", "snatch", True, BlockRole.FAST),
        ("B · squat", "back_squat", True, BlockRole.MAIN),
        ("C · small work", "back_squat", False, BlockRole.SMALL),
        ("C · small work", "countermovement_jump", False, BlockRole.SMALL),
    ],
)
def test_the_role_of_a_line(block: str, exercise_id: str, is_main: bool, role: BlockRole) -> None:
    assert role_of(block, exercise(exercise_id), is_main=is_main) is role


def test_a_written_session_knows_the_roles_of_its_lines() -> None:
    squat, landing = WrittenLine("back_squat", "3 × 5 @ 80 %", "", True), WrittenLine("low_box_landing", "2 × 4")
    document = Document("Own", (WrittenBlock("Prepare", (landing,)), WrittenBlock("squat", (squat, landing))))
    lines = session_of(document, "X1", date(2026, 11, 30)).lines
    assert [x.role for x in lines] == [BlockRole.PREPARE, BlockRole.MAIN, BlockRole.SMALL]

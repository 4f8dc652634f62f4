"""A fix is offered only where, once done, no other check speaks that was silent before."""

from __future__ import annotations

from collections import Counter
from dataclasses import replace
from datetime import date
from typing import Any

import pytest
from test_checks_of_the_plan import SESSIONS, WEEKS

from jarvok.core.checks.fixes import drop
from jarvok.core.checks.flag import Fix, Flag, Severity
from jarvok.core.checks.mended import ALWAYS, mended, mended_week, offered
from jarvok.core.checks.plan_views import LineView, SessionView, WeekView
from jarvok.core.checks.session import session_flags, spoken
from jarvok.core.checks.week import WEEK_CHECKS, week_flags
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.shorthand import parse
from jarvok.core.working import COMMON_PRACTICE

DAY = date(2026, 11, 24)


def line(slot: str, lift: str, text: str, block: str = "A · main", *, main: bool = True) -> LineView:
    return LineView(slot, block, exercise(lift), parse(text), main, line_id=f"id-{slot}")


def session(*lines: LineView, **more: Any) -> SessionView:
    return SessionView("A", DAY, lines, **more)


def said_of(view: SessionView | WeekView) -> Counter[str]:
    if isinstance(view, SessionView):
        return Counter(f.check_id for f in spoken(view))
    found = [f for check in WEEK_CHECKS for f in check.look(view)]
    return Counter(f.check_id for f in [*found, *(f for s in view.sessions for f in spoken(s))])


@pytest.mark.parametrize("view", [bad for _, bad, _ in (*SESSIONS, *WEEKS)])
def test_no_offer_is_refused_by_another_check(view: SessionView | WeekView) -> None:
    flags = session_flags(view) if isinstance(view, SessionView) else week_flags(view)
    for flag in flags:
        if flag.fix is None:
            continue
        after = mended(view, flag.fix) if isinstance(view, SessionView) else mended_week(view, flag.fix)
        if after is not None:
            assert not set(said_of(after) - said_of(view)) - ALWAYS - {flag.check_id}


def test_an_offer_that_another_check_refuses_is_withdrawn_and_the_flag_stays() -> None:
    """Without its only line that prepares, a sprint has no warm-up; without another line it still has."""
    view = session(line("P1", "bird_dog", "2 × 8", "Prepare", main=False), line("A1", "sprint", "3 × 20 m, rest 3:00"),
                   line("A2", "bench_press", "3 × 5 @ 80 %"))  # fmt: skip
    flags = [Flag("other", Severity.NOTE, "t", "r", COMMON_PRACTICE, fix=drop(x)) for x in view.lines]
    said = offered(view, flags, mended, spoken)
    assert [f.fix is None for f in said] == [True, False, False]
    assert [f.check_id for f in said] == ["other"] * 3


class TestMended:
    VIEW = session(line("P1", "bird_dog", "2 × 8", "Prepare", main=False), line("A1", "back_squat", "3 × 5 @ 80 %"),
                   line("A2", "bench_press", "3 × 5 @ 80 %"))  # fmt: skip

    @pytest.mark.parametrize(("kind", "values", "after"), [
        ("drop", {"line": "id-A1"}, ["bird_dog", "bench_press"]),
        ("first", {"line": "id-A2"}, ["bird_dog", "bench_press", "back_squat"]),
        ("last", {"line": "id-A1"}, ["bird_dog", "bench_press", "back_squat"]),
        ("replace", {"line": "id-A1", "exercise_id": "front_squat"}, ["bird_dog", "front_squat", "bench_press"]),
        ("add", {"exercise_id": "low_box_landing", "text": "2 × 4", "block": "Prepare"},
         ["bird_dog", "low_box_landing", "back_squat", "bench_press"]),
        ("add", {"exercise_id": "front_hold", "text": "2 × 30 s", "block": "end"},
         ["bird_dog", "back_squat", "bench_press", "front_hold"]),
    ])  # fmt: skip
    def test_what_a_fix_makes_of_a_session(self, kind: str, values: dict[str, Any], after: list[str]) -> None:
        found = mended(self.VIEW, Fix("do it", kind, values))
        assert found is not None
        assert [x.exercise.id for x in found.lines] == after

    def test_a_line_written_otherwise(self) -> None:
        found = mended(self.VIEW, Fix("do it", "write", {"line": "id-A1", "text": "2 × 3 @ 70 %"}))
        assert found is not None
        assert found.lines[1].prescription == parse("2 × 3 @ 70 %")

    @pytest.mark.parametrize("fix", [Fix("", "drop", {"line": "none"}), Fix("", "move", {"line": "id-A1"}), Fix("", "taper", {})])
    def test_what_changes_something_else_is_left(self, fix: Fix) -> None:
        assert mended(self.VIEW, fix) is None

    def test_a_session_moved_in_its_week(self) -> None:
        week = WeekView(DAY, (self.VIEW, replace(self.VIEW, key="B", day=date(2026, 11, 25))))
        found = mended_week(week, Fix("", "move", {"day": "2026-11-24", "key": "A", "to": "2026-11-27"}))
        assert found is not None
        assert [(s.key, s.day.day) for s in found.sessions] == [("B", 25), ("A", 27)]
        assert mended_week(week, Fix("", "drop", {"day": "2026-11-24", "key": "Z", "line": "x"})) is None

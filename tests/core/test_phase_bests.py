"""The best of each phase beside the season before."""

from __future__ import annotations

from datetime import date, timedelta

from jarvok.core.learning.new_bests import BestKind, DoneSet
from jarvok.core.learning.phase_bests import Number, Span, numbers_of, spans_of, tops

MAIN, BEFORE_MAIN = date(2026, 6, 20), date(2025, 6, 21)
NOW, LAST = date(2026, 11, 3), date(2025, 11, 4)


def lift(day: date, load_kg: float, reps: int) -> DoneSet:
    return DoneSet(day=day, ref="", load_kg=load_kg, reps=reps)


class TestSpans:
    def test_a_season_ends_with_its_main_competition(self) -> None:
        phases = {MAIN: "taper", MAIN + timedelta(days=1): "base", LAST: "base", BEFORE_MAIN: "taper"}
        found = spans_of(phases, phases, [BEFORE_MAIN, MAIN])
        assert found == {
            MAIN: Span(1, "taper"), MAIN + timedelta(days=1): Span(0, "base"), LAST: Span(1, "base"),
        }  # fmt: skip

    def test_without_a_competition_all_is_one_season(self) -> None:
        assert spans_of({LAST: "base", NOW: "base"}, [LAST, NOW], []) == {LAST: Span(0, "base"), NOW: Span(0, "base")}

    def test_a_test_belongs_to_the_phase_of_a_session_ten_days_before_and_no_further(self) -> None:
        near, far = NOW + timedelta(days=10), NOW + timedelta(days=11)
        assert spans_of({NOW: "base"}, [near, far, NOW - timedelta(days=1)], []) == {near: Span(0, "base")}
        assert spans_of({NOW: ""}, [NOW], []) == {}


class TestTops:
    def test_the_set_that_stands_for_the_highest_max(self) -> None:
        sets = [lift(NOW, 100, 5), lift(NOW, 105, 3), lift(NOW, 80, 20), lift(LAST, 95, 5)]
        found = tops(sets, {NOW: Span(0, "base"), LAST: Span(1, "base")})[Number(BestKind.LOAD)]
        assert {span: top.words(BestKind.LOAD, "kg") for span, top in found.items()} == {
            Span(0, "base"): "100 kg × 5", Span(1, "base"): "95 kg × 5",
        }  # fmt: skip

    def test_of_a_run_the_shortest_time_at_its_distance(self) -> None:
        runs = [DoneSet(day=NOW, ref="", run_s=s, run_m=m) for s, m in ((4.3, 30), (4.21, 30), (1.9, 10))]
        found = tops(runs, {NOW: Span(0, "base")})
        assert {n.at: top[Span(0, "base")].words(n.kind, "kg") for n, top in found.items()} == {30: "4.21 s", 10: "1.90 s"}

    def test_every_number_of_a_set_is_read(self) -> None:
        item = DoneSet(day=NOW, ref="", load_kg=20, reps=3, jump_cm=30, reactive=1.8, hold_s=20, run_s=4, run_m=30)
        assert {n.kind for n in numbers_of(item)} == {
            BestKind.LOAD, BestKind.JUMP, BestKind.REACTIVE, BestKind.HOLD, BestKind.RUN,
        }  # fmt: skip
        assert numbers_of(lift(NOW, 80, 16)) == {}
        assert numbers_of(lift(NOW, 80, 15)) != {}

"""Bests as they happen: what is one, what is not, and how it is said."""

from __future__ import annotations

from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jarvok.core.learning.new_bests import Best, BestKind, DoneSet, bests_of, new_bests, scheme_best, swept
from jarvok.core.marks.past import PastSession, PastSet

ONE, TWO, THREE = date(2026, 11, 4), date(2026, 11, 11), date(2026, 11, 18)


def lift(day: date, load_kg: float, reps: int = 3, mps: float | None = None, by: str = "sensor") -> DoneSet:
    return DoneSet(day=day, ref=f"set:{day}:{load_kg}", load_kg=load_kg, reps=reps, velocity_mps=mps, measured_by=by)


def words(*sets: DoneSet, first: date = ONE, unit: str = "kg") -> list[str]:
    return [b.words(unit) for b in new_bests(sets, first)]


class TestLoads:
    def test_a_first_result_is_none_and_a_heavier_one_names_what_it_beat(self) -> None:
        assert words(lift(ONE, 100)) == []
        assert words(lift(ONE, 100), lift(TWO, 102.5)) == ["heaviest 3: 102.5 kg, before 100 kg on 4 Nov"]
        assert words(lift(ONE, 100), lift(TWO, 100)) == []

    def test_more_repetitions_count_for_fewer_but_not_the_other_way(self) -> None:
        assert words(lift(ONE, 100, 5), lift(TWO, 100, 3)) == []
        assert words(lift(ONE, 100, 5), lift(TWO, 101, 3)) == ["heaviest 3: 101 kg, before 100 kg on 4 Nov"]
        assert words(lift(ONE, 120, 1), lift(TWO, 100, 3)) == []
        assert words(lift(ONE, 90, 5), lift(ONE, 100, 1), lift(TWO, 95, 3)) == ["heaviest 3: 95 kg, before 90 kg on 4 Nov"]

    def test_a_single_is_called_so_and_said_in_the_unit_of_the_plates(self) -> None:
        assert words(lift(ONE, 100, 1), lift(TWO, 102.0583, 1), unit="lb") == [
            "heaviest single: 225 lb, before 220.5 lb on 4 Nov"
        ]

    def test_what_is_beaten_an_hour_later_is_no_best_any_more(self) -> None:
        found = new_bests([lift(ONE, 100), lift(TWO, 105), lift(TWO, 110), lift(TWO, 107)], ONE)
        assert [(b.value, b.before) for b in found] == [(110, 100)]

    def test_only_days_asked_for_are_told_and_all_are_compared_with(self) -> None:
        rows = (lift(ONE, 100), lift(TWO, 105), lift(THREE, 103))
        assert words(*rows, first=THREE) == []
        assert words(*rows, lift(date(2026, 11, 25), 106), first=THREE) == ["heaviest 3: 106 kg, before 105 kg on 11 Nov"]


class TestVelocities:
    def test_the_same_load_faster_by_more_than_one_repetition_varies(self) -> None:
        assert words(lift(ONE, 80, mps=0.70), lift(TWO, 80, mps=0.74)) == ["fastest at 80 kg: 0.74 m/s, before 0.70 on 4 Nov"]
        assert words(lift(ONE, 80, mps=0.70), lift(TWO, 80, mps=0.73)) == []

    def test_what_was_heavier_counts_and_what_was_lighter_does_not(self) -> None:
        assert words(lift(ONE, 90, 5, mps=0.72), lift(TWO, 80, mps=0.74)) == []
        assert words(lift(ONE, 70, 8, mps=0.9), lift(TWO, 70, mps=0.85)) == []

    def test_one_device_is_not_compared_with_another(self) -> None:
        assert words(lift(ONE, 80, mps=0.5, by="typed"), lift(TWO, 80, mps=0.74)) == []

    def test_a_second_set_of_the_day_must_beat_the_first(self) -> None:
        found = new_bests([lift(ONE, 80, mps=0.7), lift(TWO, 80, mps=0.76), lift(TWO, 80, mps=0.75)], ONE)
        assert [b.value for b in found] == [0.76]


class TestOthers:
    def test_a_run_is_better_when_shorter_at_its_distance_only(self) -> None:
        run = [DoneSet(day=d, ref="", run_s=s, run_m=m) for d, s, m in ((ONE, 4.3, 30), (TWO, 4.21, 30), (THREE, 1.9, 10))]
        assert words(*run) == ["fastest 30 m: 4.21 s, before 4.30 on 4 Nov"]

    def test_jumps_holds_throws_and_heights(self) -> None:
        rows = (
            ("jump_cm", 41.2, 40.8, "highest jump: 41.2 cm, before 40.8 on 4 Nov"),
            ("reactive", 2.31, 2.2, "highest reactive strength: 2.31, before 2.20 on 4 Nov"),
            ("hold_s", 62.0, 60.0, "longest hold: 62 s, before 60 on 4 Nov"),
            ("height_cm", 212.0, 210.0, "highest: 212.0 cm, before 210.0 on 4 Nov"),
            ("distance_m", 8.2, 8.0, "farthest: 8.20 m, before 8.00 on 4 Nov"),
        )
        for name, now, before, said in rows:
            sets = [DoneSet(day=d, ref="", **{name: v}) for d, v in ((ONE, before), (TWO, now))]  # type: ignore[arg-type]
            assert words(*sets) == [said]

    def test_a_jump_with_a_load_is_one_of_its_own(self) -> None:
        free = DoneSet(day=ONE, ref="", jump_cm=40)
        loaded = [DoneSet(day=d, ref="", jump_cm=h, load_kg=20) for d, h in ((ONE, 28), (TWO, 29))]
        assert words(free, *loaded) == ["highest jump with 20 kg: 29.0 cm, before 28.0 on 4 Nov"]


class TestSchemes:
    @staticmethod
    def session(day: date, load_kg: float, sets: int, reps: int) -> PastSession:
        return PastSession(day, "", tuple(PastSet(load_kg, reps) for _ in range(sets)), f"line:{day}")

    def test_all_sets_heavier_than_in_any_session_that_held_as_many(self) -> None:
        history = [self.session(ONE, 100, 5, 5), self.session(TWO, 105, 3, 5)]
        best = scheme_best(history, self.session(THREE, 102.5, 4, 5))
        assert best is not None
        assert best.words() == "heaviest 4 × 5: 102.5 kg, before 100 kg on 4 Nov"
        assert scheme_best(history, self.session(THREE, 100, 4, 5)) is None
        assert scheme_best(history, self.session(THREE, 104, 3, 5)) is None
        assert scheme_best([], self.session(THREE, 104, 3, 5)) is None

    def test_single_sets_mixed_ones_and_a_broken_one_are_no_scheme(self) -> None:
        history = [self.session(ONE, 100, 3, 5)]
        mixed = PastSession(THREE, "", (PastSet(110, 5), PastSet(110, 4)))
        broken = PastSession(THREE, "", (PastSet(110, 5), PastSet(110, 5, form_broke=True)))
        assert [scheme_best(history, s) for s in (self.session(THREE, 110, 1, 5), mixed, broken)] == [None] * 3


@given(
    st.lists(
        st.tuples(st.integers(1, 27), st.integers(1, 8), st.sampled_from([80.0, 90.0, 95.0, 100.0, 110.0])),
        min_size=1,
        max_size=30,
    )
)
def test_a_load_is_a_best_where_and_only_where_no_earlier_day_held_it(rows: list[tuple[int, int, float]]) -> None:
    sets = [lift(date(2026, 11, d), load, reps) for d, reps, load in sorted(rows, key=lambda r: r[0])]
    found = {(b.day, b.at, b.value) for b in new_bests(sets, ONE.replace(day=1)) if b.kind is BestKind.LOAD}
    for n, item in enumerate(sets):
        earlier = [s.load_kg or 0 for s in sets[:n] if s.day < item.day and s.reps >= item.reps]
        later = [s.load_kg or 0 for s in sets if s.day == item.day and s.reps >= item.reps and s is not item]
        is_best = bool(earlier) and (item.load_kg or 0) > max(earlier)
        if (item.day, item.reps, item.load_kg) in found:
            assert is_best
        elif is_best:
            assert any(x >= (item.load_kg or 0) for x in later)


SWEPT = st.tuples(st.integers(1, 9), st.integers(1, 4), st.sampled_from([80.0, 90.0, 95.0]), st.sampled_from([None, 0.6, 0.7]))


@given(st.lists(SWEPT, max_size=20), st.lists(SWEPT, min_size=1, max_size=6))
def test_beside_what_was_swept_the_last_set_is_the_best_of_the_same(
    before: list[tuple[int, int, float, float | None]], here: list[tuple[int, int, float, float | None]]
) -> None:
    rows = [(d, *row) for d, *row in sorted(before, key=lambda r: r[0])] + [(9, *row) for _, *row in here]
    sets = [
        DoneSet(
            day=date(2026, 11, d), ref=f"set:{n}", load_kg=load, reps=reps, velocity_mps=mps, measured_by="sensor", hold_s=mps
        )
        for n, (d, reps, load, mps) in enumerate(rows)
    ]
    ref, sweep = sets[-1].ref, swept(sets[: len(before)])
    whole = [b for b in new_bests(sets, date(2026, 11, 9)) if b.ref == ref]
    for _ in range(2):  # what was swept stays as it is
        assert sorted(bests_of(ref, sets[len(before) :], sweep), key=str) == sorted(whole, key=str)


@pytest.mark.parametrize("kind", list(BestKind))
def test_every_kind_can_be_said(kind: BestKind) -> None:
    assert "before" in Best(kind, 2.0, 1.0, ONE, TWO, "", 1.0).words()

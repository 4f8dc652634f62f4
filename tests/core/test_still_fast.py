"""The load that was still fast starts the next wave; loads with bands or chains are no loads of the free lift."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

import pytest
from test_week_arrangements import facts as facts_of

from jarvok.core.chooser.known import FastLoad
from jarvok.core.chooser.wishes import NO_WISHES
from jarvok.core.exercises import Exercise
from jarvok.core.learning.bests import scheme_records
from jarvok.core.learning.findings import FRESH_DAYS
from jarvok.core.learning.new_bests import scheme_best
from jarvok.core.learning.speed_noticed import STILL_FAST_MPS, FastSet, still_fast
from jarvok.core.library.exercises import exercise
from jarvok.core.loading.accommodating import Attachment, hung_on
from jarvok.core.loading.resolve import resolve
from jarvok.core.loading.shorthand import parse
from jarvok.core.loading.state import LiftState
from jarvok.core.marks.past import PastSession, PastSet
from jarvok.core.week.arrangements.concurrent import STRENGTH_WAVE, TEAM_WAVE, wave_pct
from jarvok.core.week.plan import WeekFacts

TODAY = date(2026, 11, 24)


@pytest.fixture
def week_facts() -> WeekFacts:
    return facts_of(4, 4)


def wave(*rows: tuple[int, float, float]) -> list[FastSet]:
    return [FastSet(TODAY - timedelta(days=back), kg, mps, f"s{back}") for back, kg, mps in rows]


class TestStillFast:
    def test_is_the_heaviest_load_up_to_which_all_were_fast(self) -> None:
        found = still_fast("Speed squat", "speed_squat", wave((17, 48, 0.95), (10, 54, 0.84), (3, 60, 0.7)), 150, TODAY)
        assert found is not None
        assert (found.value, found.exercise_id, found.day) == (36, "speed_squat", TODAY - timedelta(days=3))
        assert found.sentence == "Speed squat was still fast at 36 % of the max: 54 kg at 0.84 m/s."

    @pytest.mark.parametrize(("mps", "kg"), [(STILL_FAST_MPS, 60), (STILL_FAST_MPS - 0.01, 54)])
    def test_fast_is_from_the_edge_of_strength_speed(self, mps: float, kg: float) -> None:
        found = still_fast("Speed squat", "speed_squat", wave((10, 54, 0.84), (3, 60, mps)), 150, TODAY)
        assert found is not None
        assert found.value == round(100 * kg / 150)

    def test_nothing_is_said_of_one_load_one_day_old_waves_or_slow_ones(self) -> None:
        for rows in (
            wave((10, 54, 0.84), (3, 54, 0.84)),
            wave((3, 54, 0.84), (3, 60, 0.8)),
            wave((FRESH_DAYS + 1, 54, 0.84), (3, 60, 0.8)),
            wave((10, 54, 0.7), (3, 60, 0.8)),
        ):
            assert still_fast("Speed squat", "speed_squat", rows, 150, TODAY) is None
        assert still_fast("Speed squat", "speed_squat", wave((10, 54, 0.84), (3, 60, 0.8)), None, TODAY) is None
        assert still_fast("Speed squat", "speed_squat", wave((FRESH_DAYS, 54, 0.84), (3, 60, 0.8)), 150, TODAY) is not None


class TestWave:
    """Team and combat sports 30–40 % on the bar, strength sport 40–60 %, a few points up each week; common practice."""

    def weeks(self, facts: WeekFacts, pct: float | None, sport: str = "wrestling") -> list[int]:
        fast = () if pct is None else (FastLoad("speed_squat", pct, "the last wave"),)
        wishes = replace(NO_WISHES, fast=fast)
        first = facts.week.index - facts.week.index % 3
        weeks = [replace(facts, sport=sport, wishes=wishes, week=replace(facts.week, index=first + n)) for n in range(3)]
        return [wave_pct(w, "squat_de")[0] for w in weeks]

    @pytest.mark.parametrize(
        ("pct", "loads"), [(None, [32, 36, 40]), (30, [30, 34, 38]), (25, [30, 34, 38]), (35, [35, 37, 39]), (44, [36, 38, 40])]
    )
    def test_starts_where_the_last_was_still_fast(self, week_facts, pct: float | None, loads: list[int]) -> None:
        assert self.weeks(week_facts, pct) == loads

    @pytest.mark.parametrize(("pct", "loads"), [(None, [45, 50, 55]), (52, [52, 56, 60]), (70, [56, 58, 60]), (38, [40, 45, 50])])
    def test_strength_sport_is_heavier(self, week_facts, pct: float | None, loads: list[int]) -> None:
        assert self.weeks(week_facts, pct, "weightlifting") == loads

    @pytest.mark.parametrize("wave_of", [TEAM_WAVE, STRENGTH_WAVE])
    @pytest.mark.parametrize("pct", range(20, 80))
    def test_rises_each_week_and_stays_inside_the_range(self, week_facts, wave_of, pct: int) -> None:
        loads = self.weeks(week_facts, pct, "wrestling" if wave_of is TEAM_WAVE else "weightlifting")
        assert loads == sorted(set(loads))
        assert wave_of[0] <= loads[0]
        assert loads[-1] <= wave_of[2]

    def test_another_lift_s_load_starts_nothing(self, week_facts) -> None:
        facts = replace(week_facts, wishes=replace(NO_WISHES, fast=(FastLoad("speed_bench_press", 30, "x"),)))
        assert wave_pct(facts, "squat_de")[1] == ""
        assert "x" in wave_pct(facts, "press_de")[1]


class TestHung:
    @pytest.mark.parametrize(
        ("text", "note", "hangs"),
        [
            ("8 × 2 @ 50 % + 25 % bands", "", Attachment.BANDS),
            ("8 × 2 @ 50 % + 20 kg chains", "", Attachment.CHAINS),
            ("1 × 1 @ 105 % − 20 kg reverse bands", "", Attachment.REVERSE),
            ("4 × 3 @ top RPE 9", "feet a hand closer, light bands added", Attachment.BANDS),
            ("4 × 3 @ top RPE 9", "chains added", Attachment.CHAINS),
            ("4 × 3 @ 80 %", "bring the bands for the warm-up", None),
            ("4 × 3 @ 80 %", "", None),
        ],
    )
    def test_is_read_from_the_line_or_its_variation(self, text: str, note: str, hangs: Attachment | None) -> None:
        assert hung_on(text, note) is hangs

    def past(self, kg: float, back: int, hung: str = "") -> PastSession:
        sets = tuple(PastSet(kg, 5, 2, 5) for _ in range(3))
        return PastSession(TODAY - timedelta(days=back), "3 × 5", sets, f"line:{back}", hung)

    def test_a_line_goes_on_from_sessions_with_the_same_on_the_bar(self) -> None:
        squat: Exercise = exercise("back_squat")
        state = LiftState(squat, history=(self.past(80, 14), self.past(60, 7, "chains")))
        free = resolve(parse("3 × 5 +2.5 kg"), state)[0]
        assert free.working is not None
        assert free.load_kg == 82.5
        assert state.beside("chains").history == (self.past(60, 7, "chains"),)

    def test_scheme_bests_are_of_the_free_lift(self) -> None:
        free, helped, now = self.past(80, 14), self.past(120, 10, "reverse bands"), self.past(82.5, 0)
        assert [r.load_kg for r in scheme_records([free, helped])] == [80]
        best = scheme_best([free, helped], now)
        assert best is not None
        assert scheme_best([free], replace(now, hung="reverse bands")) is None

"""Blocks of weeks with no competition, weeks set by hand, and competitions that are only a maybe. Common practice."""

from __future__ import annotations

from dataclasses import replace
from datetime import date, timedelta

import pytest

from jarvok.core.errors import CoachError
from jarvok.core.library.substitutes import Limits
from jarvok.core.loading.shorthand.write import write
from jarvok.core.season.arrangements import ARRANGEMENTS, arrangement
from jarvok.core.season.blocks import BLOCK_WAYS, RISING_WEEKS, check_block, closes_round, rising_week, round_began
from jarvok.core.season.calendar import Span, SpanKind
from jarvok.core.season.facts import SeasonFacts
from jarvok.core.season.model import NO_COMPETITION_DAYS, BlockWay, HandWeek, Rank, SeasonPlan, Target, TrainingBlock
from jarvok.core.season.planner import plan_year
from jarvok.core.week.generate import arranged_week
from jarvok.core.week.plan import Level, WeekFacts
from jarvok.core.week.spending import spend_week

START = date(2027, 1, 4)


def block(weeks: int, way: BlockWay = BlockWay.RISING, *, tests: bool = False, first: date = START) -> Target:
    return Target("Block 1", first + timedelta(days=7 * weeks - 1), Rank.BLOCK, block=TrainingBlock(way, tests))


def plan_of(*targets: Target, model: str = "linear", **more) -> SeasonPlan:
    return plan_year(SeasonFacts(START, targets, arrangement(model), **more))


def facts(plan: SeasonPlan, index: int, days: int = 4) -> WeekFacts:
    return WeekFacts(plan, plan.weeks[index], (), Limits(skill=3), days, Level.ADVANCED)


def test_five_weeks_rise_and_end_with_half_the_sets() -> None:
    plan = plan_of(block(5))
    assert [w.intensity_pct for w in plan.weeks] == [80, 83.5, 87.5, 90, 80]
    sets = [spend_week("percent_lift", facts(plan, i)).sets for i in range(5)]
    assert sets[:4] == sorted(sets[:4])
    assert sets[4] == pytest.approx(sets[1] / 2, abs=1)
    assert [w.is_easy for w in plan.weeks] == [False] * 4 + [True]


@pytest.mark.parametrize(
    ("index", "weeks", "row"), [(0, 5, 0), (4, 5, 4), (0, 3, 2), (2, 3, 4), (0, 10, 0), (4, 10, 4), (9, 10, 4)]
)
def test_longer_ones_repeat_and_shorter_ones_end_alike(index: int, weeks: int, row: int) -> None:
    assert rising_week(index, weeks) == RISING_WEEKS[row]


@pytest.mark.parametrize("model", [a.key for a in ARRANGEMENTS])
@pytest.mark.parametrize("weeks", [2, 5, 8, 12, 26])
@pytest.mark.parametrize("tests", [False, True])
def test_a_block_by_the_season_model_is_whole_and_has_no_taper(model: str, weeks: int, tests: bool) -> None:
    plan = plan_of(block(weeks, BlockWay.MODEL, tests=tests), model=model)
    assert len(plan.weeks) == weeks
    assert all(w.taper is None and not w.has_competition for w in plan.weeks)
    assert (plan.weeks[-1].phase_id == "test") == tests
    if tests and weeks >= 5 and plan.weeks[-2].index > 0 and arrangement(model).loading_weeks:
        assert plan.weeks[-2].is_easy, "an easier week before the tests"
    assert all(w.volume > 0 for w in plan.weeks)


def test_nothing_is_held_back_toward_the_end_and_the_last_days_hold_sessions() -> None:
    plan = plan_of(block(5))
    last = arranged_week("percent_lift", facts(plan, 3))
    assert not any("held to" in x.reason for s in last for x in s.lines)
    assert plan.weeks[4].days_out(plan.weeks[4].end) == NO_COMPETITION_DAYS
    assert len(arranged_week("percent_lift", facts(plan, 4))) == 4


def test_the_test_week_holds_tests_whatever_the_week_model() -> None:
    plan = plan_of(block(6, tests=True))
    for key in ("percent_lift", "two_days", "weightlifting"):
        days = arranged_week(key, facts(plan, 5, 3))
        assert [s.theme for s in days] == ["Jump and squat", "Throw and press", "Broad jump and pull"]
        assert all(s.theme not in ("Jump and squat",) for s in arranged_week(key, facts(plan, 4, 3)))


def test_a_competition_after_a_block_is_built_to_from_its_end() -> None:
    cup = Target("Cup", START + timedelta(days=7 * 17 + 5))
    plan = plan_of(block(5), cup)
    assert {w.competition for w in plan.weeks[:5]} == {"Block 1"}
    assert {w.competition for w in plan.weeks[5:]} == {"Cup"}
    assert plan.weeks[-1].taper is not None
    assert plan.competition_day == cup.day


def test_a_block_that_begins_later_has_its_weeks_and_nothing_is_planned_before_it() -> None:
    later = TrainingBlock(BlockWay.RISING, False, START + timedelta(weeks=3))
    plan = plan_of(Target("Block 1", START + timedelta(days=7 * 8 - 1), Rank.BLOCK, block=later))
    assert [w.phase_name for w in plan.weeks] == ["Nothing planned"] * 3 + ["Rising block"] * 5
    assert [len(arranged_week("percent_lift", facts(plan, i))) for i in range(8)] == [0] * 3 + [4] * 5
    assert TrainingBlock.from_raw(later.to_raw()) == later


def test_a_block_inside_a_running_season_leaves_the_weeks_before_it_trained() -> None:
    inside = TrainingBlock(BlockWay.RISING, False, START + timedelta(weeks=4))
    cup = Target("Cup", START + timedelta(days=7 * 20 + 5))
    plan = plan_of(Target("Block 1", START + timedelta(days=7 * 9 - 1), Rank.BLOCK, block=inside), cup)
    assert sum(1 for w in plan.weeks if w.phase_id == "rising") == 5
    assert all(w.volume > 0 for w in plan.weeks[:9])


def test_a_block_after_a_competition_begins_the_week_after_it() -> None:
    cup = Target("Cup", START + timedelta(days=7 * 9 + 5))
    plan = plan_of(cup, block(5, first=START + timedelta(weeks=10)))
    assert [w.competition for w in plan.weeks[9:11]] == ["Cup", "Block 1"]
    assert len(plan.weeks) == 15


@pytest.mark.parametrize(
    ("weeks", "way", "said"), [(1, "rising", "1 week"), (27, "model", "27 weeks"), (5, "falling", "no such block")]
)
def test_what_cannot_be_a_block_is_refused(weeks: int, way: str, said: str) -> None:
    with pytest.raises(CoachError, match=said):
        check_block(weeks, way)
    assert [check_block(n, w) for n in (2, 26) for w in BLOCK_WAYS] == [*BLOCK_WAYS, *BLOCK_WAYS]


def test_a_block_comes_back_as_it_was_kept() -> None:
    for one in (TrainingBlock(), TrainingBlock(BlockWay.MODEL, True)):
        assert TrainingBlock.from_raw(one.to_raw()) == one


class TestAWeekByHand:
    @pytest.mark.parametrize(("hand", "volume", "top"), [
        (HandWeek(60, None), 0.6, None), (HandWeek(None, 82.5), None, 82.5), (HandWeek(120, 90), 1.2, 90),
        (HandWeek(0, None), 0.0, None),
    ])  # fmt: skip
    def test_is_as_set_and_its_sessions_follow(self, hand: HandWeek, volume: float | None, top: float | None) -> None:
        cup = Target("Cup", START + timedelta(days=7 * 15 + 5))
        plain, changed = plan_of(cup), plan_of(cup, by_hand={START + timedelta(weeks=4): hand})
        week = changed.weeks[4]
        assert week.volume == (plain.weeks[4].volume if volume is None else volume)
        assert week.intensity_pct == (top or plain.weeks[4].intensity_pct)
        full = spend_week("two_days", facts(changed, 4, 2))
        assert bool(full.sessions) == (week.volume > 0), "no volume, no session"
        assert full.sets == int(full.full_sets * week.volume + 0.5)
        others = [i for i in range(len(plain.weeks)) if i != 4]
        assert [changed.weeks[i].volume for i in others] == [plain.weeks[i].volume for i in others]

    def test_days_away_stay_empty(self) -> None:
        monday = START + timedelta(weeks=4)
        away = Span(SpanKind.AWAY, monday, monday + timedelta(days=6))
        cup = Target("Cup", START + timedelta(days=7 * 15 + 5))
        assert plan_of(cup, spans=(away,), by_hand={monday: HandWeek(100, None)}).weeks[4].volume == 0


def test_a_maybe_changes_nothing_and_is_marked() -> None:
    cup, maybe = (
        Target("Cup", START + timedelta(days=7 * 15 + 5)),
        Target("Perhaps", START + timedelta(days=7 * 7 + 5), Rank.MAYBE),
    )
    plain, plan = plan_of(cup), plan_of(cup, maybe)
    assert [w.volume for w in plain.weeks] == [w.volume for w in plan.weeks]
    assert all(not w.closed for w in plan.weeks if w.index == 7)
    assert "Perhaps is a maybe." in [n.title for n in plan.notes]


def test_a_day_of_a_smaller_competition_holds_no_session() -> None:
    cup = Target("Cup", START + timedelta(days=7 * 15 + 5))
    small = Target("Small", START + timedelta(days=7 * 7 + 1), Rank.THROUGH)
    plan = plan_of(cup, small)
    assert small.day in plan.weeks[7].closed
    assert small.day not in {s.day for s in arranged_week("percent_lift", facts(plan, 7, 5))}


class TestRoundCloses:
    """The next round starts from the maxes its own evidence gave, a rep-max where none did; common practice."""

    def mains(self, plan: SeasonPlan, index: int, **more) -> dict[str, str]:
        week = arranged_week("percent_lift", replace(facts(plan, index, 5), **more))
        return {x.exercise_id: write(x.prescription) for s in week for x in s.lines if x.is_main}

    def test_the_last_week_asks_what_no_set_of_the_round_has_shown(self) -> None:
        plan = plan_of(block(10))
        for index in (4, 9):
            open_sets = {lift for lift, text in self.mains(plan, index).items() if "+" in text}
            assert open_sets == {"back_squat", "bench_press", "overhead_press", "deadlift"}
        assert self.mains(plan, 4)["back_squat"] == "1 × 3 @ 75 % then 1 × 3+ @ 80 %"
        assert not any("+" in text for index in (0, 3, 5, 8) for text in self.mains(plan, index).values())

    def test_a_lift_that_showed_its_max_is_left_as_it_is(self) -> None:
        plan = plan_of(block(5))
        asked = {x for x, text in self.mains(plan, 4, shown=frozenset({"back_squat", "deadlift"})).items() if "+" in text}
        assert asked == {"bench_press", "overhead_press"}

    def test_novices_those_who_may_not_and_weeks_before_tests_are_not_asked(self) -> None:
        plan, tested = plan_of(block(5)), plan_of(block(6, tests=True))
        for found in (
            self.mains(plan, 4, level=Level.NOVICE),
            self.mains(plan, 4, may_max=False),
            self.mains(tested, 4),
        ):
            assert found
            assert not any("+" in text for text in found.values())

    def test_the_sets_are_half_all_the_same(self) -> None:
        plan = plan_of(block(5))
        shown = frozenset({"back_squat", "bench_press", "overhead_press", "deadlift"})
        asked, known = (spend_week("percent_lift", replace(facts(plan, 4), shown=s)).sets for s in (frozenset(), shown))
        assert asked == pytest.approx(known, abs=1)
        assert [closes_round(w) for w in plan.weeks] == [False] * 4 + [True]
        assert round_began(plan.weeks[4]) == START

"""Every arrangement over time, for every length of season: whole, tapered, eased, and honest about what is given up."""

from __future__ import annotations

from datetime import date, timedelta
from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jarvok.core.errors import CoachError
from jarvok.core.season.arrangement import Arrangement
from jarvok.core.season.arrangements import ARRANGEMENTS, BY_KEY, arrangement
from jarvok.core.season.calendar import Span, SpanKind, leagues_in
from jarvok.core.season.facts import SeasonFacts
from jarvok.core.season.model import PhaseKey, Rank, SeasonPlan, Target, monday_of
from jarvok.core.season.planner import plan_season, plan_year
from jarvok.core.season.taper import Shape, TaperStyle
from jarvok.core.season.weeks import HEAVY_PCT

TODAY = date(2026, 11, 24)
MONDAY = date(2026, 11, 23)
WEEKS = (8, 12, 16, 24, 40)


def saturday(week: int) -> date:
    """The Saturday of the `week`-th week of the season (1 is this week)."""
    return MONDAY + timedelta(days=7 * week - 2)


def league(first_week: int, last_week: int) -> tuple[date, ...]:
    return tuple(saturday(w) for w in range(first_week, last_week + 1))


def facts_for(kind: str, weeks: int, style: Arrangement, **more) -> SeasonFacts:
    match kind:
        case "one":
            return SeasonFacts(TODAY, (Target("Open", saturday(weeks)),), style, **more)
        case "two":
            first = Target("Qualifier", saturday(weeks // 2))
            return SeasonFacts(TODAY, (Target("Open", saturday(weeks)), first), style, **more)
        case _:
            final = (Target("Final", saturday(weeks)),) if kind == "league and final" else ()
            return SeasonFacts(TODAY, final, style, league(weeks // 2, weeks), **more)


def check_whole(plan: SeasonPlan, facts: SeasonFacts) -> None:
    """Phases neither overlap nor leave gaps, and the weeks are theirs."""
    assert plan.weeks[0].start == monday_of(facts.start)
    assert [w.index for w in plan.weeks] == list(range(len(plan.weeks)))
    assert all(b.start - a.start == timedelta(days=7) for a, b in pairwise(plan.weeks))
    assert sum(p.weeks for p in plan.phases) == len(plan.weeks)
    for before, after in pairwise(plan.phases):
        assert after.start == monday_of(before.end) + timedelta(days=7) if before.key is PhaseKey.TAPER else True
        assert after.start > before.end
        assert (after.start - before.start).days == 7 * before.weeks
    for phase in plan.phases:
        inside = [w for w in plan.weeks if phase.start <= w.start <= phase.end]
        assert len(inside) == phase.weeks
        assert {w.phase_id for w in inside} == {phase.id}
    for week in plan.weeks:
        assert 0 <= week.volume <= 1.3
        assert week.volume > 0 or week.start >= monday_of(week.competition_day), "only days after a competition hold nothing"
        assert 50 <= week.intensity_pct <= 100


def check_tapers(plan: SeasonPlan, facts: SeasonFacts) -> None:
    for target in facts.mains:
        week = plan.week_of(target.day)
        assert week is not None
        assert week.phase is PhaseKey.TAPER, f"{target.name} has no taper"


def check_easier_weeks(plan: SeasonPlan, style: Arrangement) -> None:
    if style.loading_weeks is None:
        return
    loading = 0
    for week in plan.weeks:
        loading = 0 if week.is_light else loading + 1
        assert loading <= 4, f"{loading} loading weeks in a row to {week.start}"


def check_exposures(plan: SeasonPlan, facts: SeasonFacts) -> None:
    for target in facts.mains:
        limit = target.day - timedelta(days=facts.arrangement.heavy_days_out)
        for week in plan.weeks:
            if week.end >= limit and week.start <= target.day:
                assert week.intensity_pct < HEAVY_PCT, f"{week.intensity_pct} % in the week of {week.start}"


def check_base(plan: SeasonPlan, facts: SeasonFacts) -> None:
    """Short of its minimum the base says so; a phase that is left out says so too."""
    ids = {n.id for n in plan.notes}
    first = plan.phases[0].toward
    rules = {r.id: r for r in facts.arrangement.phases_for(len(plan.weeks))}
    base = next((p for p in plan.phases if p.id == facts.arrangement.base and p.toward == first), None)
    if (base.weeks if base else 0) < rules[facts.arrangement.base].least_weeks:
        assert "short-base" in ids
    for phase in plan.phases:
        rule = rules.get(phase.id)
        if rule is not None and phase.id not in ("general", facts.arrangement.base) and phase.toward == first:
            assert rule.least_weeks <= phase.weeks <= rule.most_weeks


@pytest.mark.parametrize("style", ARRANGEMENTS, ids=lambda a: a.key)
@pytest.mark.parametrize("weeks", WEEKS)
@pytest.mark.parametrize("kind", ["one", "two", "league", "league and final"])
def test_a_valid_plan_or_a_reason(style: Arrangement, weeks: int, kind: str) -> None:
    facts = facts_for(kind, weeks, style)
    plan = plan_year(facts)
    assert len(plan.weeks) == weeks
    check_whole(plan, facts)
    check_tapers(plan, facts)
    check_easier_weeks(plan, style)
    check_exposures(plan, facts)
    check_base(plan, facts)


@given(
    st.sampled_from(ARRANGEMENTS),
    st.lists(st.integers(3, 350), min_size=1, max_size=4, unique=True),
    st.integers(0, 6),
    st.sampled_from([None, 0, 2, 3, 4]),
    st.sampled_from([None, TaperStyle(), TaperStyle(10, Shape.LINEAR, 60), TaperStyle(21, Shape.SLOW, 40)]),
)
@settings(max_examples=250, deadline=None)
def test_any_set_of_competitions_gives_a_whole_season(style, days, offset, rhythm, taper) -> None:
    today = TODAY + timedelta(days=offset)
    targets = tuple(Target(f"Meet {i}", today + timedelta(days=d)) for i, d in enumerate(sorted(days)))
    facts = SeasonFacts(today, targets, style, loading_weeks=rhythm, taper=taper)
    plan = plan_year(facts)
    check_whole(plan, facts)
    check_tapers(plan, facts)
    check_exposures(plan, facts)
    if rhythm != 0:
        check_easier_weeks(plan, style)


class TestSeveralCompetitions:
    def plan(self, *targets: Target, style: str = "force_velocity", **more) -> SeasonPlan:
        return plan_year(SeasonFacts(TODAY, targets, arrangement(style), **more))

    def test_after_a_competition_comes_a_week_of_return_when_there_is_time(self) -> None:
        # one to two weeks of general return: common practice
        plan = self.plan(Target("First", saturday(12)), Target("Second", saturday(24)))
        after = plan.weeks[12]
        assert (after.phase_id, after.competition) == ("return", "Second")

    @pytest.mark.parametrize(("gap", "phases"), [(1, ["taper"]), (2, ["hold", "taper"]), (3, ["hold", "hold", "taper"])])
    def test_close_together_the_peak_is_held(self, gap: int, phases: list[str]) -> None:
        plan = self.plan(Target("First", saturday(12)), Target("Second", saturday(12 + gap)))
        assert [w.phase_id for w in plan.weeks[12:]] == phases
        assert "held-Second" in {n.id for n in plan.notes}

    def test_two_in_one_week_share_a_taper(self) -> None:
        plan = self.plan(Target("First", saturday(12)), Target("Second", saturday(12) + timedelta(days=1)))
        assert len(plan.weeks) == 12
        assert next(n for n in plan.notes if n.id == "together-Second").week == 11

    def test_a_meet_of_several_days_ends_on_its_last(self) -> None:
        plan = self.plan(Target("Games", saturday(12), last_day=saturday(12) + timedelta(days=3)), Target("Next", saturday(24)))
        assert next(p for p in plan.phases if p.toward == "Games" and p.id == "taper").end == saturday(12) + timedelta(days=3)
        assert plan.weeks[13].competition == "Next"

    def test_a_secondary_one_lightens_its_week_and_a_train_through_does_not(self) -> None:
        day = saturday(6)
        plain = self.plan(Target("Open", saturday(20)))
        lighter = self.plan(Target("Open", saturday(20)), Target("Club meet", day, Rank.SECONDARY))
        through = self.plan(Target("Open", saturday(20)), Target("Club meet", day, Rank.THROUGH))
        assert lighter.weeks[5].volume == pytest.approx(0.7 * plain.weeks[5].volume, abs=0.001)
        assert lighter.weeks[5].intensity_pct == plain.weeks[5].intensity_pct
        assert [w.volume for w in through.weeks] == [w.volume for w in plain.weeks]
        assert [n.week for n in through.notes if n.id == "through-Club meet"] == [5]

    def test_lengths_set_for_one_competition_leave_the_other_alone(self) -> None:
        first = Target("First", saturday(12), pins=(("base", 5),))
        plan = self.plan(first, Target("Second", saturday(30)))
        assert next((p.weeks, p.pinned) for p in plan.phases if p.id == "base") == (5, True)
        assert not any(p.pinned for p in plan.phases if p.toward == "Second")

    def test_lengths_of_another_arrangement_rest(self) -> None:
        plan = self.plan(Target("Open", saturday(20), pins=(("base", 7),)), style="linear")
        assert not any(p.pinned for p in plan.phases)

    def test_nothing_to_plan_for_and_too_far_are_refused(self) -> None:
        with pytest.raises(CoachError, match="no competition"):
            plan_year(SeasonFacts(TODAY, (Target("Club meet", saturday(5), Rank.SECONDARY),)))
        with pytest.raises(CoachError, match="weeks away"):
            self.plan(Target("Far", saturday(53)))
        with pytest.raises(CoachError, match="weeks away"):
            self.plan(Target("Open", saturday(10)), Target("Far", saturday(64)))


def test_a_second_year_follows_the_first() -> None:
    plan = plan_year(SeasonFacts(TODAY, (Target("This year", saturday(40)), Target("Next year", saturday(85)))))
    assert len(plan.weeks) == 85
    assert {p.toward for p in plan.phases} == {"This year", "Next year"}


class TestTheLeague:
    def test_a_run_of_matches_and_what_is_none(self) -> None:
        days = [TODAY + timedelta(days=d) for d in (0, 7, 14, 35, 42, 70)]
        assert [x.matches for x in leagues_in([*days, days[0]])] == [tuple(days[:3])]

    def test_weeks_are_in_season_from_the_first_match_on(self) -> None:
        plan = plan_year(facts_for("league", 24, BY_KEY["high_low"]))
        assert plan.weeks[11].phase is PhaseKey.TAPER, "the first match is prepared for"
        assert {w.phase for w in plan.weeks[12:]} == {PhaseKey.IN_SEASON}
        assert "in-season" in {n.id for n in plan.notes}

    @pytest.mark.parametrize(("played", "volume", "easy"), [(0, 0.8, False), (1, 0.6, False), (2, 0.4, True)])
    def test_volume_follows_the_matches(self, played: int, volume: float, easy: bool) -> None:
        # 100, 75 and 50 % of the phase's volume are Jarvok's defaults
        extra = (saturday(18) - timedelta(days=3),) if played == 2 else ()
        matches = tuple(m for m in (*league(12, 24), *extra) if played or monday_of(m) != monday_of(saturday(18)))
        plan = plan_year(SeasonFacts(TODAY, (), matches=matches))
        week = plan.weeks[17]
        assert (week.matches, week.is_easy) == (played, easy)
        assert week.volume == pytest.approx(volume * (1.1 if not easy else 1), rel=0.2)

    def test_a_final_inside_it_gets_a_week_of_its_own(self) -> None:
        plan = plan_year(SeasonFacts(TODAY, (Target("Cup", saturday(18)),), matches=league(12, 24)))
        assert [w.phase for w in plan.weeks[16:19]] == [PhaseKey.IN_SEASON, PhaseKey.TAPER, PhaseKey.IN_SEASON]


class TestWhatTheCalendarTakes:
    def plan(self, *spans: Span) -> SeasonPlan:
        return plan_year(SeasonFacts(TODAY, (Target("Open", saturday(20)),), spans=spans))

    @pytest.mark.parametrize(("kind", "days", "share"), [
        (SpanKind.CAMP, 3, 0.7), (SpanKind.TRAVEL, 7, 0.7), (SpanKind.EXAMS, 4, 0.7), (SpanKind.CAMP, 2, 1.0),
        (SpanKind.HOLIDAY, 3, 0.7), (SpanKind.EXAMS, 2, 1.0),
    ])  # fmt: skip
    def test_a_busy_week_has_less_work(self, kind: SpanKind, days: int, share: float) -> None:
        start = MONDAY + timedelta(weeks=4)
        plain, busy = self.plan(), self.plan(Span(kind, start, start + timedelta(days=days - 1), "Quay"))
        assert busy.weeks[4].volume == pytest.approx(share * plain.weeks[4].volume, abs=0.001)
        assert busy.weeks[4].note == "Quay"
        assert busy.weeks[5] == plain.weeks[5]

    def test_a_week_away_counts_as_easy(self) -> None:
        start = MONDAY + timedelta(weeks=4)
        away = self.plan(Span(SpanKind.HOLIDAY, start, start + timedelta(days=6))).weeks[4]
        assert (away.is_easy, away.volume, len(away.closed)) == (True, 0.0, 7)
        assert away.note == "Holiday"

    def test_a_day_left_of_a_week_away_holds_a_little(self) -> None:
        start = MONDAY + timedelta(weeks=4)
        away = self.plan(Span(SpanKind.HOLIDAY, start, start + timedelta(days=5))).weeks[4]
        assert away.volume == pytest.approx(0.25, abs=0.05)
        assert away.closed == tuple(start + timedelta(days=d) for d in range(6))


class TestWhatTheCoachChanges:
    def plan(self, **more) -> SeasonPlan:
        return plan_year(SeasonFacts(TODAY, (Target("Open", saturday(20)),), **more))

    @pytest.mark.parametrize("rhythm", [2, 3, 4])
    def test_the_rhythm_of_easier_weeks(self, rhythm: int) -> None:
        easy = [w.index for w in self.plan(loading_weeks=rhythm).weeks if w.is_easy]
        assert {b - a for a, b in pairwise(easy)} == {rhythm + 1}
        assert easy[-1] == 17 - rhythm, "full weeks stand before the taper"

    def test_no_easier_weeks_where_fatigue_is_met_as_it_comes(self) -> None:
        assert not any(w.is_easy for w in self.plan(loading_weeks=0).weeks)

    def test_one_week_made_easy_and_one_made_full(self) -> None:
        plain = self.plan()
        was_easy = next(w for w in plain.weeks if w.is_easy)
        was_full = next(w for w in plain.weeks if not w.is_light)
        changed = self.plan(easy={was_easy.start: False, was_full.start: True})
        assert not changed.weeks[was_easy.index].is_easy
        assert changed.weeks[was_full.index].is_easy

    @pytest.mark.parametrize(
        ("taper", "weeks"), [(TaperStyle(7), 1), (TaperStyle(8), 1), (TaperStyle(9), 2), (TaperStyle(14), 2), (TaperStyle(21), 3)]
    )
    def test_the_days_of_the_taper_decide_its_weeks(self, taper: TaperStyle, weeks: int) -> None:
        assert next(p.weeks for p in self.plan(taper=taper).phases if p.key is PhaseKey.TAPER) == weeks

    def test_a_deeper_taper_has_less_volume(self) -> None:
        shallow, deep = (self.plan(taper=TaperStyle(14, Shape.LINEAR, d)).weeks[-1].volume for d in (40, 70))
        assert deep < shallow


@pytest.mark.parametrize("style", ARRANGEMENTS, ids=lambda a: a.key)
class TestEachArrangementIsExplained:
    def test_in_words(self, style: Arrangement) -> None:
        for words in (style.good_for, style.for_whom, style.weakness, style.fatigue, style.how):
            assert len(words) > 15
        for rule in style.phases_for(30):
            assert rule.exercises
            assert rule.accessories
            assert rule.builds or rule.keeps

    def test_its_working_names_every_phase(self, style: Arrangement) -> None:
        plan = plan_season(TODAY, saturday(24), arrangement=style)
        assert [i.name for i in plan.working.inputs] == [p.name for p in plan.phases]
        assert style.good_for in plan.working.caution


def test_what_sets_the_arrangements_apart() -> None:
    """The trade's own description of each: common practice."""
    plans = {a.key: plan_season(TODAY, saturday(24), arrangement=a) for a in ARRANGEMENTS}
    linear = [w for w in plans["linear"].weeks if not w.is_light and w.phase is not PhaseKey.GENERAL]
    first, last = linear[: len(linear) // 2], linear[len(linear) // 2 :]
    assert sum(w.volume for w in first) / len(first) > sum(w.volume for w in last) / len(last)
    assert sum(w.intensity_pct for w in first) / len(first) < sum(w.intensity_pct for w in last) / len(last)
    assert not any(w.is_easy for w in plans["concurrent"].weeks), "reactive: no compulsory easier week"
    event = [w.index for w in plans["strength_event"].weeks if w.is_easy]
    assert {b - a for a, b in pairwise(event)} == {3}, "waves of three weeks"
    blocks = [p for p in plans["block"].phases if p.key is not PhaseKey.TAPER]
    assert [p.name.split()[0] for p in blocks] == ["Accumulation", "Transmutation", "Realisation"] * 2 + [
        "Accumulation",
        "Transmutation",
    ]
    assert all(1 <= p.weeks <= 5 for p in blocks)  # Issurin 2010, quoted from memory: 2 to 5 weeks


def test_an_unknown_arrangement_is_refused_with_the_known_ones() -> None:
    with pytest.raises(CoachError) as refused:
        arrangement("spiral")
    assert "Linear" in refused.value.accepted

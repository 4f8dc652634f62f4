"""Last exposures row by row, in-season weeks, missed work and breaks, and the checks of a season."""

from __future__ import annotations

from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from jarvok.core.checks.flag import Severity
from jarvok.core.checks.season import CHECKS, SeasonView, season_flags
from jarvok.core.errors import CoachError
from jarvok.core.rules import Rules
from jarvok.core.season.arrangements import ARRANGEMENTS, arrangement
from jarvok.core.season.calendar import Span, SpanKind
from jarvok.core.season.exposures import (
    Event,
    class_gap,
    drop_uncontested_days_out,
    event_kinds,
    last_session_days_out,
    stagger,
)
from jarvok.core.season.facts import SeasonFacts
from jarvok.core.season.match_days import in_season_week, label_of, played_share
from jarvok.core.season.missed import Choice, after_break, options_for, return_pct
from jarvok.core.season.model import Rank, Target
from jarvok.core.season.planner import plan_season, plan_year
from jarvok.core.season.taper import Shape, TaperStyle

TODAY = date(2026, 11, 24)
MONDAY = date(2026, 11, 23)
CONTEST = date(2027, 4, 3)


def saturday(week: int) -> date:
    return MONDAY + timedelta(days=7 * week - 2)


class TestLastExposures:
    # every row of the table of last heavy exposures: common practice; weightlifting from memory
    @pytest.mark.parametrize(("kind", "what", "near", "far"), [
        ("max_deadlift", "straight limit pull", 16, 19),
        ("max_deadlift", "lower-risk overload", 10, 12),
        ("deadlift_reps", "reps at the contest load", 12, 12),
        ("limit_front_squat", "95 % and over, or 90 % when ground out", 11, 14),
        ("max_strength", "limit single", 10, 14),
        ("heavy_power", "full run, not near failure", 14, 14),
        ("heavy_power", "reduced run", 7, 7),
        ("timed_endurance", "the whole event at its pace", 7, 7),
        ("competition_lifts", "heavy triples or doubles", 7, 10),
        ("competition_lifts", "below the openers", 3, 5),
        ("match", "last heavy lower-body session", 4, 5),
        ("match", "sprints and plyometrics, few and fast", 2, 4),
        ("bout", "limit lower-body lift", 10, 14),
        ("bout", "hard rounds", 5, 7),
        ("bout", "jumps and throws, few and fast", 2, 4),
    ])  # fmt: skip
    def test_each_row(self, kind: str, what: str, near: int, far: int) -> None:
        row = next(r for r in event_kinds()[kind].rows if r.what == what)
        assert (row.near_days, row.far_days) == (near, far)
        placed = next(e for e in stagger([Event(kind)], CONTEST) if e.what == what)
        assert near <= placed.days_out <= far

    def test_the_table_holds_no_other_row(self) -> None:
        assert sum(len(k.rows) for k in event_kinds().values()) == 15

    def test_a_novice_runs_a_power_event_once_a_week_before(self) -> None:
        # full run 14 days out, novice 7: common practice
        found = stagger([Event("heavy_power")], CONTEST, is_novice=True)
        assert [(e.what, e.days_out) for e in found] == [("full run, not near failure", 7)]

    @pytest.mark.parametrize(("kinds", "days"), [
        (["max_deadlift"], (6, 7)), (["competition_lifts"], (2, 4)), (["match"], (2, 4)), (["bout"], (2, 4)),
        (["competition_lifts", "heavy_power"], (6, 7)), ([], (2, 4)),
    ])  # fmt: skip
    def test_the_last_session_of_any_size(self, kinds: list[str], days: tuple[int, int]) -> None:
        assert last_session_days_out(kinds) == days

    def test_what_is_not_contested_makes_room_three_to_four_weeks_out(self) -> None:
        assert drop_uncontested_days_out() == (21, 28)

    def test_a_contest_of_several_events_is_staggered(self) -> None:
        events = [
            Event("max_deadlift", "Deadlift", load_kg=260),
            Event("heavy_power", "Yoke"),
            Event("timed_endurance", "Sandbag", 1),
        ]
        found = stagger(events, CONTEST)
        assert [e.day for e in found] == sorted(e.day for e in found)
        assert len({e.day for e in found}) == len(found), "no two hard exposures on one day"
        pull = next(e for e in found if e.what == "straight limit pull")
        assert pull.load_kg == pytest.approx((247, 260))
        bag = next(e for e in found if e.event == "Sandbag")
        assert bag.day == CONTEST + timedelta(days=1) - timedelta(days=7), "counted from its own day"
        assert next(e for e in found if e.what == "lower-risk overload").instead.startswith("reverse bands")

    def test_training_days_travel_and_the_weigh_in_move_it_inside_its_window(self) -> None:
        window = [CONTEST - timedelta(days=d) for d in range(14, 9, -1)]
        tuesday = next(d for d in window if d.weekday() == 1)
        assert stagger([Event("max_strength")], CONTEST, [1])[0].day == tuesday
        away = [Span(SpanKind.TRAVEL, d, d) for d in window if d != window[1]]
        assert stagger([Event("max_strength")], CONTEST, spans=away)[0].day == window[1]
        assert stagger([Event("max_strength")], CONTEST, weigh_in=window[-1])[0].day != window[-1]

    def test_a_window_without_a_good_day_says_so(self) -> None:
        assert "no training day" in stagger([Event("timed_endurance")], CONTEST, [0])[0].note
        away = [Span(SpanKind.AWAY, CONTEST - timedelta(days=9), CONTEST)]
        left = stagger([Event("timed_endurance")], CONTEST, spans=away)[0]
        assert left.is_left_out
        assert "left out" in left.note

    @pytest.mark.parametrize(("days_off", "done"), [(1, 8), (2, 9), (3, None)])
    def test_away_on_its_day_it_is_done_up_to_two_days_earlier(self, days_off: int, done: int | None) -> None:
        day = CONTEST - timedelta(days=7)
        away = [Span(SpanKind.TRAVEL, day - timedelta(days=days_off - 1), day)]
        found = stagger([Event("timed_endurance")], CONTEST, spans=away)[0]
        assert (None if found.is_left_out else found.days_out) == done

    @given(
        st.lists(st.sampled_from(sorted(event_kinds())), min_size=1, max_size=5),
        st.sets(st.integers(0, 6), min_size=1),
        st.booleans(),
    )
    def test_nothing_hard_lies_outside_its_window(self, kinds: list[str], days: set[int], novice: bool) -> None:
        for e in stagger([Event(k) for k in kinds], CONTEST, sorted(days), is_novice=novice):
            assert e.first <= e.day <= e.last < CONTEST

    def test_an_unknown_kind_is_refused_with_the_known_ones(self) -> None:
        with pytest.raises(CoachError) as refused:
            stagger([Event("juggling")], CONTEST)
        assert "Bouts" in refused.value.accepted


@pytest.mark.parametrize(("mass_kg", "large", "words"), [
    (61.2, False, "0.8 kg under the limit."), (62.5, False, "0.5 kg over the limit, 30 days before the competition."),
    (64.0, True, "2.0 kg over the limit, 30 days before the competition: a matter for licensed professionals. "
                 "No weight cut is planned here."),
])  # fmt: skip
def test_a_class_gap_warns_and_refers_and_plans_nothing(mass_kg: float, large: bool, words: str) -> None:
    found = class_gap(mass_kg, 62, 30)
    assert (found.is_large, found.words) == (large, words)


class TestWeeksOfMatches:
    saturdays = (MONDAY - timedelta(days=2), MONDAY + timedelta(days=5), MONDAY + timedelta(days=12))

    def held(self, *args, **kwargs) -> dict[str, str]:
        return {d.label: d.holds for d in in_season_week(*args, **kwargs)}

    def test_days_are_counted_from_the_match(self) -> None:
        week = in_season_week(MONDAY, self.saturdays)
        assert [d.label for d in week] == ["MD+2", "MD−4", "MD−3", "MD−2", "MD−1", "MD", "MD+1"]

    def test_strength_far_from_the_match_and_speed_two_days_before(self) -> None:
        # common practice
        held = self.held(MONDAY, self.saturdays)
        assert held["MD−4"] == "strength"
        assert held["MD−2"].startswith("short and fast")
        assert held["MD−1"] == "practice only, nothing heavy"
        assert held["MD+1"].startswith("recovery")

    def test_one_session_is_the_strength_one(self) -> None:
        week = in_season_week(MONDAY, self.saturdays, sessions=1)
        assert [d.label for d in week if d.session] == ["MD−4"]

    def test_who_hardly_played_trains_the_day_after(self) -> None:
        week = in_season_week(MONDAY - timedelta(days=7), self.saturdays, played_share=0.1)
        after = next(d for d in week if d.label == "MD+1")
        assert after.session == 0.8
        assert "hardly played" in after.holds

    @pytest.mark.parametrize(("minutes", "share"), [
        ([], 1.0), ([60], 1.0), ([6], 0.1), ([0, 30, 60, 60], 50 / 60), ([90], 1.0), ([0], 0.0),
    ])  # fmt: skip
    def test_a_players_share_is_the_mean_of_the_last_three_matches(self, minutes: list[int], share: float) -> None:
        played = [(MONDAY - timedelta(days=7 * (len(minutes) - i)), m) for i, m in enumerate(minutes)]
        assert played_share(played, MONDAY) == pytest.approx(share)

    def test_a_match_still_to_come_does_not_count(self) -> None:
        assert played_share([(MONDAY, 0)], MONDAY) == 1.0

    def test_a_week_of_two_matches_has_one_small_session_between(self) -> None:
        matches = (MONDAY + timedelta(days=2), MONDAY + timedelta(days=5))
        week = in_season_week(MONDAY, matches)
        sessions = [d for d in week if d.session]
        assert len(sessions) == 1
        assert sessions[0].session <= 1
        assert not any(d.session and d.label == "MD−1" for d in week)

    def test_a_week_without_a_match_has_two_full_sessions(self) -> None:
        week = in_season_week(MONDAY, (MONDAY - timedelta(days=9), MONDAY + timedelta(days=19)))
        assert [d.session for d in week if d.session] == [1.0, 1.0]

    @given(st.sets(st.integers(-10, 16), max_size=6), st.sampled_from([1, 2]), st.floats(0, 1))
    def test_nothing_heavy_the_day_before_or_on_a_match(self, days: set[int], sessions: int, played: float) -> None:
        matches = tuple(MONDAY + timedelta(days=d) for d in sorted(days))
        week = in_season_week(MONDAY, matches, sessions, played)
        assert len(week) == 7
        for d in week:
            assert (d.label == "MD") == d.is_match == (d.day in matches)
            if d.label in ("MD", "MD−1"):
                assert d.session <= 0.4
        assert sum(1 for d in week if d.session) <= 2

    @pytest.mark.parametrize(
        ("offset", "label"), [(0, "MD"), (1, "MD+1"), (2, "MD+2"), (3, ""), (-1, "MD−1"), (-4, "MD−4"), (-5, "")]
    )
    def test_labels_around_one_match(self, offset: int, label: str) -> None:
        assert label_of(MONDAY + timedelta(days=offset), (MONDAY,)) == label

    def test_between_two_matches_the_nearer_one_speaks(self) -> None:
        matches = (MONDAY, MONDAY + timedelta(days=3))
        assert [label_of(MONDAY + timedelta(days=d), matches) for d in (1, 2)] == ["MD+1", "MD−1"]


class TestMissedWork:
    tuesday, thursday, sunday = MONDAY + timedelta(days=1), MONDAY + timedelta(days=3), MONDAY + timedelta(days=6)

    def test_a_sequence_goes_on_where_it_stopped(self) -> None:
        found = options_for(self.tuesday, self.thursday, [self.thursday], self.sunday, is_sequence=True)
        assert [(o.choice, o.day) for o in found] == [(Choice.CONTINUE, self.thursday)]

    def test_a_weekday_plan_offers_to_move_merge_or_skip(self) -> None:
        friday = MONDAY + timedelta(days=4)
        found = options_for(MONDAY, self.tuesday, [friday], self.sunday, is_sequence=False)
        assert [(o.choice, o.day, o.is_proposed) for o in found] == [
            (Choice.MOVE, self.tuesday, True), (Choice.MERGE, friday, False), (Choice.SKIP, None, False),
        ]  # fmt: skip

    def test_with_no_free_day_the_main_lift_is_merged(self) -> None:
        found = options_for(self.tuesday, self.thursday, [self.thursday, self.sunday], self.sunday, is_sequence=False)
        assert [(o.choice, o.is_proposed) for o in found] == [(Choice.MERGE, True), (Choice.SKIP, False)]

    @pytest.mark.parametrize(("more", "why"), [
        ({"is_light_week": True}, "deload week"), ({"competition_day": MONDAY + timedelta(days=9)}, "near"),
    ])  # fmt: skip
    def test_nothing_is_crammed(self, more: dict[str, object], why: str) -> None:
        found = options_for(self.tuesday, self.thursday, [self.sunday], self.sunday, is_sequence=False, **more)
        assert [o.choice for o in found] == [Choice.SKIP]
        assert why in found[0].words

    # over 7-10 days the week is repeated, over three weeks the ramp begins at 90 %: common practice
    @pytest.mark.parametrize(("days", "pct"), [(3, None), (7, None), (8, 100), (21, 100), (22, 90), (60, 90)])
    def test_a_break(self, days: int, pct: float | None) -> None:
        found = after_break(TODAY - timedelta(days=days), TODAY)
        assert (found.max_pct if found else None) == pct
        assert found is None or found.repeat_weeks == 1


class TestTheMaxAfterABreak:
    def days(self, *ago: int) -> list[date]:
        return [TODAY - timedelta(days=d) for d in ago]

    # over three weeks away the ramp begins at 90 %: common practice; three weeks back to the whole: Jarvok's default
    @pytest.mark.parametrize(("ago", "pct"), [
        ((), 100), ((3, 10, 17), 100), ((21, 28), 100), ((22, 29), 90), ((0, 30), 90), ((7, 40), 90 + 10 / 3),
        ((3, 14, 40), 90 + 20 / 3), ((21, 50), 100), ((2, 9, 30, 33), 100), ((1, 5, 60), 90 + 50 / 21), ((-3, 5), 100),
    ])  # fmt: skip
    def test_is_reduced_and_grows_back(self, ago: tuple[int, ...], pct: float) -> None:
        assert return_pct(self.days(*ago), TODAY) == pytest.approx(pct)

    def test_the_coach_sets_how_far(self) -> None:
        assert return_pct(self.days(30), TODAY, Rules({"max.return_pct": 80})) == 80
        assert return_pct(self.days(30), TODAY, Rules({"max.return_pct": 100})) == 100


def flags(check_id: str, view: SeasonView):
    return [f for f in season_flags(view) if f.check_id == check_id]


PLAN = plan_season(TODAY, CONTEST)
PLAIN = SeasonView(PLAN, TODAY)
LIGHT = next(w for w in PLAN.weeks if w.is_easy)
RISING = next(
    b for a, b in zip(PLAN.weeks, PLAN.weeks[1:], strict=False) if not a.is_light and not b.is_light and b.load > a.load
)


def year(*targets: Target, **more) -> SeasonView:
    return SeasonView(plan_year(SeasonFacts(TODAY, targets or (Target("Open", saturday(20)),), **more)), TODAY, more.get("taper"))


FIRES = {
    "class-gap": SeasonView(PLAN, TODAY, gap=class_gap(66, 62)),
    "added-work": SeasonView(PLAN, TODAY, added={LIGHT.start: "A1 has 6 sets instead of 2."}),
    "break": SeasonView(PLAN, TODAY, back=after_break(TODAY - timedelta(days=12), TODAY)),
    "long-loading": year(easy={w.start: False for w in PLAN.weeks}),
    "load-rises": SeasonView(PLAN, TODAY, spans=(Span(SpanKind.CAMP, RISING.start, RISING.start, "Camp at the bay"),)),
    "too-close": year(Target("One", saturday(12)), Target("Two", saturday(13))),
    "taper-cut": year(taper=TaperStyle(12, Shape.STEP, 5)),
    "gone": year(Target("Open", saturday(30)), arrangement=arrangement("linear")),
    "phase-length": year(Target("Open", saturday(20), pins=(("base", 2),))),
    "taper-range": year(taper=TaperStyle(20, Shape.STEP, 50)),
}
SILENT = {
    "class-gap": SeasonView(PLAN, TODAY, gap=class_gap(62.4, 62)),
    "added-work": SeasonView(PLAN, TODAY, added={RISING.start: "A1 has 6 sets instead of 4."}),
    "long-loading": year(easy={w.start: False for w in PLAN.weeks}, arrangement=arrangement("concurrent")),
    "load-rises": SeasonView(PLAN, TODAY, spans=(Span(SpanKind.CAMP, LIGHT.start, LIGHT.end),)),
    "too-close": year(Target("One", saturday(12), Rank.SECONDARY), Target("Two", saturday(13))),
    "taper-range": year(taper=TaperStyle(12, Shape.STEP, 50)),
}


@pytest.mark.parametrize("check", CHECKS, ids=lambda c: c.id)
class TestEveryCheck:
    def test_fires_with_a_reason_and_a_source(self, check) -> None:
        found = flags(check.id, FIRES[check.id])
        assert found, "it never fires"
        for flag in found:
            assert flag.check_id == check.id
            assert flag.title.endswith(".")
            assert len(flag.reason) > 15
            assert flag.source.text
            assert check.look.__doc__

    def test_stays_silent_otherwise(self, check) -> None:
        assert not flags(check.id, SILENT.get(check.id, PLAIN))

    def test_raises_no_false_alarm_on_the_shipped_arrangements(self, check) -> None:
        if check.id == "gone":
            return  # arrangements that let a quality go on purpose say so: see below
        for style in ARRANGEMENTS:
            for weeks in (12, 16, 24, 40):
                assert not flags(check.id, SeasonView(plan_season(TODAY, saturday(weeks), arrangement=style), TODAY)), style.key


def test_fixes_are_concrete() -> None:
    assert flags("long-loading", FIRES["long-loading"])[0].fix.values["easy"] is True
    assert flags("phase-length", FIRES["phase-length"])[0].fix.values == {"toward": "Open", "phase": "base"}
    assert flags("too-close", FIRES["too-close"])[0].fix.values["rank"] == "secondary"


class TestAfterABreak:
    def flag(self, days: int, *spans: Span):
        view = SeasonView(PLAN, TODAY, spans=spans, back=after_break(TODAY - timedelta(days=days), TODAY))
        return next(iter(flags("break", view)), None)

    def test_the_days_can_be_marked_as_away(self) -> None:
        flag = self.flag(12)
        assert flag.fix.values == {"start": "2026-11-13", "end": "2026-11-23"}

    def test_once_marked_it_is_silent_unless_the_max_is_reduced(self) -> None:
        away = Span(SpanKind.AWAY, TODAY - timedelta(days=11), TODAY - timedelta(days=1))
        assert self.flag(12, away) is None
        long = self.flag(30, Span(SpanKind.AWAY, TODAY - timedelta(days=29), TODAY - timedelta(days=1)))
        assert "90 % of the max" in long.reason
        assert long.fix is None

    def test_loading_goes_on_where_it_stopped(self) -> None:
        plain = year().plan
        away_week = next(w for w in plain.weeks[1:] if not w.is_easy)
        after = year(spans=(Span(SpanKind.AWAY, away_week.start, away_week.end),)).plan
        assert after.weeks[away_week.index].is_easy
        later = next(w for w in plain.weeks if w.index > away_week.index and not w.is_easy)
        assert after.weeks[later.index].intensity_pct < later.intensity_pct


def test_cautions_come_first() -> None:
    view = SeasonView(PLAN, TODAY, gap=class_gap(66, 62), back=after_break(TODAY - timedelta(days=12), TODAY))
    found = season_flags(view)
    assert [f.severity for f in found][:1] == [Severity.CAUTION]


def test_what_a_linear_season_lets_go_is_named() -> None:
    gone = {f.where for f in flags("gone", FIRES["gone"])}
    assert "strength endurance" in gone
    assert all(f.severity is Severity.NOTE for f in flags("gone", FIRES["gone"]) if f.where == "strength endurance")


@pytest.mark.parametrize("style", ARRANGEMENTS, ids=lambda a: a.key)
def test_what_an_arrangement_means_to_bring_is_there_on_the_day(style) -> None:
    plan = plan_season(TODAY, saturday(24), arrangement=style)
    assert plan.residuals
    strength = next(r for r in plan.residuals if r.quality == "max strength")
    assert strength.covers_competition
    for residual in plan.residuals:
        assert residual.last_exposure < plan.competition_day
        assert residual.spans[-1][1] == residual.last_exposure

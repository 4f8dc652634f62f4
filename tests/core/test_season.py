from datetime import date, timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from jarvok.core.checks.season import SeasonView, season_flags
from jarvok.core.errors import CoachError
from jarvok.core.season.model import PhaseKey, SeasonPlan
from jarvok.core.season.planner import FORCE_VELOCITY, plan_season
from jarvok.core.season.residuals import RESIDUAL_DAYS

TODAY = date(2026, 11, 24)
LIMITS = {PhaseKey(r.id): (r.least_weeks, r.most_weeks) for r in FORCE_VELOCITY.phases_for(20)}


def weeks_of(plan: SeasonPlan) -> dict[PhaseKey, int]:
    return {p.key: p.weeks for p in plan.phases}


def in_weeks(count: int) -> date:
    """The Saturday of the week `count` - 1 weeks after this one, so that the season has `count` weeks."""
    return date(2026, 11, 28) + timedelta(weeks=count - 1)


@given(st.integers(1, 363), st.integers(0, 6))
@settings(max_examples=300)
def test_every_date_gives_a_whole_plan_or_a_reason(days: int, offset: int) -> None:
    today = TODAY + timedelta(days=offset)
    day = today + timedelta(days=days)
    if (day - today).days > 350:
        return  # more than 52 weeks is refused; see below
    plan = plan_season(today, day)
    for before, after in zip(plan.phases, plan.phases[1:], strict=False):
        assert after.start == before.end + timedelta(days=1)
    assert plan.phases[0].start == plan.start <= today
    assert plan.phases[-1].key is PhaseKey.TAPER
    assert plan.phases[-1].end == day
    assert plan.weeks[-1].start <= day <= plan.weeks[-1].end
    assert sum(p.weeks for p in plan.phases) == len(plan.weeks)
    window = plan.weeks[-1].taper
    assert window is not None
    assert window.first == max(today, day - timedelta(days=window.style.days))
    assert (day - window.first).days == window.style.days
    loading = 0
    for week in plan.weeks:
        loading = 0 if week.is_easy or week.phase is PhaseKey.TAPER else loading + 1
        assert loading <= 4
        assert 0 < week.volume <= 1.2 or (week.start == day and week.volume == 0)
        assert 60 <= week.intensity_pct <= 90
    lengths = weeks_of(plan)
    ids = {n.id for n in plan.notes}
    if lengths.get(PhaseKey.BASE, 0) < 4:
        assert "short-base" in ids
    for key in (PhaseKey.STRENGTH_SPEED, PhaseKey.SPEED_STRENGTH):
        if lengths.get(PhaseKey.BASE, 0) >= 4 and key not in lengths:
            assert f"given-up-{key}" in ids
        if key in lengths:
            assert LIMITS[key][0] <= lengths[key] <= LIMITS[key][1]


@pytest.mark.parametrize(("count", "given_up"), [
    (20, []), (12, []), (10, [PhaseKey.STRENGTH_SPEED]), (7, [PhaseKey.STRENGTH_SPEED, PhaseKey.SPEED_STRENGTH]),
])  # fmt: skip
def test_what_is_given_up_when_time_is_short(count: int, given_up: list[PhaseKey]) -> None:
    plan = plan_season(TODAY, in_weeks(count))
    assert [n.id for n in plan.notes if n.id.startswith("given-up")] == [f"given-up-{k}" for k in given_up]


@pytest.mark.parametrize("offset", range(7))
def test_the_taper_is_8_to_14_days_and_volume_falls_by_41_to_60_per_cent(offset: int) -> None:
    """Bosquet et al. 2007, quoted from memory; on every weekday of the competition."""
    day = in_weeks(16) + timedelta(days=offset - 5)
    plan = plan_season(TODAY, day)
    window = plan.weeks[-1].taper
    assert window is not None
    assert 8 <= (day - window.first).days <= 14
    full = [w for w in plan.weeks if w.is_full and w.end < window.first][-2:]
    assert window.volume_before == pytest.approx(sum(w.volume for w in full) / 2)
    shares = [window.share_on(window.first + timedelta(days=i)) for i in range((day - window.first).days)]
    assert 0.41 <= 1 - sum(s or 0 for s in shares) / len(shares) <= 0.60
    taper = [w for w in plan.weeks if w.phase is PhaseKey.TAPER]
    assert min(w.intensity_pct for w in taper) >= 85  # strength tapers keep 85 % and more: Pritchard et al. 2015, from memory
    assert window.share_on(day) is None
    assert window.share_on(window.first - timedelta(days=1)) is None


def test_an_easy_week_halves_the_work_and_is_no_heavier_than_the_weeks_beside_it() -> None:  # common practice
    plan = plan_season(TODAY, in_weeks(20))
    easy = [w for w in plan.weeks if w.is_easy]
    assert len(easy) == 4
    for week in easy:
        beside = [plan.weeks[week.index - 1], plan.weeks[week.index + 1]]
        assert week.volume <= 0.5 * min(w.volume for w in beside) + 0.001
        assert week.volume >= 0.4 * max(w.volume for w in beside)
        assert week.intensity_pct == min(80, *(w.intensity_pct for w in beside))
    assert all(not w.is_easy for w in plan.weeks[-5:-2])  # three full weeks stand before the taper


def test_lengths_set_by_the_coach_are_kept_and_the_rest_adapts() -> None:
    plan = plan_season(TODAY, in_weeks(20), {PhaseKey.SPEED_STRENGTH: 7})
    assert weeks_of(plan)[PhaseKey.SPEED_STRENGTH] == 7
    assert sum(weeks_of(plan).values()) == 20
    assert next(p for p in plan.phases if p.key is PhaseKey.SPEED_STRENGTH).pinned


def test_a_length_outside_the_usual_is_taken_and_noted() -> None:
    plan = plan_season(TODAY, in_weeks(20), {PhaseKey.BASE: 3})
    assert weeks_of(plan)[PhaseKey.BASE] == 3
    flags = season_flags(SeasonView(plan, TODAY))
    assert [f.title for f in flags if f.check_id == "phase-length"] == ["Base strength is shorter than usual."]


@pytest.mark.parametrize(("pins", "said"), [
    ({PhaseKey.BASE: 30}, "cannot last 30 weeks"),
    ({PhaseKey.BASE: 10, PhaseKey.STRENGTH_SPEED: 9}, "only 18 are there"),
    ({PhaseKey.TAPER: 0}, "cannot last 0 weeks"),
])  # fmt: skip
def test_lengths_that_do_not_fit_are_refused(pins: dict[PhaseKey, int], said: str) -> None:
    with pytest.raises(CoachError, match=said):
        plan_season(TODAY, in_weeks(20), pins)


@pytest.mark.parametrize("day", [TODAY, TODAY - timedelta(days=1)])
def test_a_day_that_is_not_ahead_is_refused(day: date) -> None:
    with pytest.raises(CoachError, match="not ahead"):
        plan_season(TODAY, day)


def test_more_than_a_year_ahead_is_refused() -> None:
    with pytest.raises(CoachError, match="weeks away"):
        plan_season(TODAY, TODAY + timedelta(days=400))


def test_a_competition_tomorrow_is_a_taper_and_a_word() -> None:
    plan = plan_season(TODAY, TODAY + timedelta(days=1))
    assert weeks_of(plan) == {PhaseKey.TAPER: 1}
    assert any("no time for a base" in n.title for n in plan.notes)


# Issurin 2008, residual training effects in days, quoted from memory
@pytest.mark.parametrize(
    ("quality", "days", "spread"),
    [
        ("aerobic endurance", 30, 5),
        ("max strength", 30, 5),
        ("glycolytic endurance", 18, 4),
        ("strength endurance", 15, 5),
        ("maximal speed", 5, 3),
    ],
)
def test_residual_row(quality: str, days: int, spread: int) -> None:
    assert (RESIDUAL_DAYS[quality].days, RESIDUAL_DAYS[quality].spread_days) == (days, spread)


def test_nothing_is_past_its_residual_on_the_day_of_a_full_season() -> None:
    plan = plan_season(TODAY, in_weeks(20))
    assert {r.quality for r in plan.residuals} == {"max strength", "strength-speed", "maximal speed"}
    for residual in plan.residuals:
        assert residual.covers_competition
        assert residual.last_exposure < plan.competition_day

"""The weeks of a stretch: volume, intensity, waves and easier weeks, and what the calendar takes from them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from datetime import date, timedelta

from jarvok.core.quantities.sentence import counted
from jarvok.core.season.arrangement import PhaseRule
from jarvok.core.season.blocks import OPEN, RISING, RISING_WEEKS, TEST_ID, rising_week
from jarvok.core.season.calendar import Span
from jarvok.core.season.facts import SeasonFacts
from jarvok.core.season.lengths import Stretch
from jarvok.core.season.model import Phase, PhaseKey, Rank, SeasonWeek, monday_of
from jarvok.core.season.time_lost import OFF, days_off, lost_weeks

DAYS = 7  # [T]
LONGEST_LOADING = 4  # an easier week comes after at most four loading ones, common practice
HEAVY_PCT = 90.0  # common practice: 90 % and over counts as heavy
NEAR_THE_DAY_PCT = 87.5  # [J] the top inside the last heavy exposure limit
FEW_DAYS, MOST_DAYS = 3, 5  # [J] so many days of a camp or the like shape a week; so many away leave little of it

LAST_VOLUME = 0.72  # [C] of the weeks before a taper, where there were none
FULL_WEEKS = 2  # [C] a taper is measured against the last two full weeks
PLAYED = (Rank.MAIN, Rank.SECONDARY, Rank.THROUGH)
# the way back: shares of the volume and points off the top in the weeks after more than so many days off; common practice
REPEAT_FROM, RAMP_FROM = 8, 22
LAST_TO_BEGIN = 3  # [T] Thursday: later in the week the next one is the first back
BACK_SHORT = ((0.7, 0.0),)  # [J]
BACK_LONG = ((0.5, 15.0), (0.7, 10.0), (0.85, 5.0))  # [J]
AFTER_A_SEASON = 0.7  # [J] the first week after a competition or a league where no week of return is planned


def weeks_of(stretch: Stretch, facts: SeasonFacts, first_index: int) -> list[SeasonWeek]:
    """Return the weeks of a stretch, numbered from `first_index`."""
    found: list[SeasonWeek] = []
    at = 0
    for phase, rule in zip(stretch.phases, stretch.rules, strict=True):
        starts = [phase.start + timedelta(days=7 * i) for i in range(phase.weeks)]
        easy = _easy_weeks(phase, rule, starts, at, stretch, facts)
        loading = max(1, easy.count(False) - 1)
        done = 0
        lost = lost_weeks(phase.start, phase.end, facts.spans)
        for i, monday in enumerate(starts):
            progress = min(1.0, done / loading)
            place = i - sum(1 for m in lost if m < monday)
            volume, pct = _amount(phase, rule, place, at + i, easy[i], progress, stretch, facts, len(lost))
            done += 0 if easy[i] else 1
            matches = sum(1 for m in stretch.matches if monday_of(m) == monday)
            share, note = _shared(monday, facts, phase, matches, is_easy=easy[i])
            found.append(
                SeasonWeek(
                    index=first_index + len(found),
                    start=monday,
                    phase=phase.key,
                    week_of_phase=i + 1,
                    weeks_in_phase=phase.weeks,
                    is_easy=easy[i],
                    volume=round(volume * share, 3),
                    intensity_pct=round(_capped(pct, monday, stretch, facts) * 2) / 2,
                    progress=progress,
                    phase_id=phase.id,
                    phase_name=phase.name,
                    competition=stretch.target.name,
                    competition_day=stretch.target.day + timedelta(days=0 if stretch.target.block is None else 1),
                    has_competition=stretch.target.block is None,
                    matches=matches,
                    note=note,
                    match_days=tuple(m for m in stretch.matches if abs(monday_of(m) - monday) <= timedelta(days=7)),
                    closed=_closed(monday, facts),
                    calendar_share=1.0 if phase.key is PhaseKey.IN_SEASON else share,
                    last_session_days_out=_last_session(stretch, facts),
                    keeps_strength=facts.arrangement.taper.keeps_strength,
                )
            )
        at += phase.weeks
    ramped = [_back(w, stretch, facts) for w in _lightened(found, stretch.target.end, facts)]
    return _tapered([_by_hand(w, facts) for w in ramped], stretch)


def _back(week: SeasonWeek, stretch: Stretch, facts: SeasonFacts) -> SeasonWeek:
    """The week as it is after days off, or after a competition: it ramps, it does not jump."""
    days, weeks_back = _days_off_before(week.start, facts)
    ways = BACK_LONG if days >= RAMP_FROM else BACK_SHORT if days >= REPEAT_FROM else ()
    if weeks_back < len(ways) and week.volume:
        share, points = ways[weeks_back]
        said = "first week back" if weeks_back == 0 else f"week {weeks_back + 1} back"
        note = ", ".join(x for x in (week.note, f"{said} after {counted(days, 'day')}: {100 * share:.0f} %") if x)
        most = week.calendar_share * share
        return replace(
            week,
            volume=round(min(week.volume, week.volume * share), 3),
            intensity_pct=week.intensity_pct - points,
            calendar_share=most,
            note=note,
            is_back=True,
        )
    first_after = week.start == stretch.start and stretch.follows and week.phase_id not in ("return", "hold", OPEN.id)
    if first_after and not week.is_light and week.phase is not PhaseKey.IN_SEASON and week.volume:
        note = ", ".join(x for x in (week.note, f"first week after a competition: {100 * AFTER_A_SEASON:.0f} %") if x)
        return replace(
            week, volume=round(week.volume * AFTER_A_SEASON, 3), calendar_share=AFTER_A_SEASON, note=note, is_back=True
        )
    return week


def _days_off_before(monday: date, facts: SeasonFacts) -> tuple[int, int]:
    """How long the last long run of days off before a week was, and how many weeks ago training began again (0: in it).

    The week in which it ends is the first one back when most of it is left.
    """
    off = days_off(facts.spans)
    for last in sorted((d for d in off if d + timedelta(days=1) not in off), reverse=True):
        begins = last + timedelta(days=1)
        first_back = monday_of(begins) + timedelta(days=DAYS if begins.weekday() > LAST_TO_BEGIN else 0)
        if first_back > monday:
            continue
        days = 0
        while last - timedelta(days=days) in off:
            days += 1
        if days >= REPEAT_FROM:
            return days, (monday - first_back).days // DAYS
    return 0, 0


def _by_hand(week: SeasonWeek, facts: SeasonFacts) -> SeasonWeek:
    """The week as the coach has set it, where that was done; days away stay empty."""
    hand = facts.by_hand.get(week.start)
    if hand is None:
        return week
    volume = week.volume if hand.volume_pct is None or not week.volume else hand.volume_pct / 100
    return replace(week, volume=round(volume, 3), intensity_pct=hand.top_pct or week.intensity_pct)


def _lightened(weeks: Sequence[SeasonWeek], last_day: date, facts: SeasonFacts) -> list[SeasonWeek]:
    """An easier week is about half of the smaller week beside it and no heavier than either; a day off is no training day."""
    most_pct, share = facts.rules["season.easy_intensity_pct"], facts.rules["season.easy_volume_pct"] / 100
    found: list[SeasonWeek] = []
    for i, week in enumerate(weeks):
        beside = [
            next((w for w in run if not w.is_light and w.phase_id != TEST_ID), None) for run in (weeks[:i][::-1], weeks[i + 1 :])
        ]  # a taper comes of its own
        known = [w for w in beside if w is not None]
        if week.is_easy and known and week.phase_id != RISING.id:
            smallest = min(w.volume / w.calendar_share for w in known)
            half = week.volume if week.phase is PhaseKey.IN_SEASON else min(week.volume, round(share * smallest, 3))
            week = replace(week, volume=half, intensity_pct=min(most_pct, *(w.intensity_pct for w in known)))
        shut = sum(1 for d in week.closed if d < last_day)
        found.append(replace(week, volume=0.0) if shut >= DAYS else week)
    return found


def _tapered(weeks: Sequence[SeasonWeek], stretch: Stretch) -> list[SeasonWeek]:
    """The days of the taper, whichever weeks they lie in, take their share of the last full weeks; none is after the day."""
    window = stretch.window
    if window is None:
        return list(weeks)
    before = [w for w in weeks if w.is_full and w.end < window.first][-FULL_WEEKS:]
    rules = [r.volume for r in stretch.rules if r.key is not PhaseKey.TAPER]
    volume = sum(w.volume for w in before) / len(before) if before else (rules or [LAST_VOLUME])[-1]
    window = replace(window, volume_before=volume)
    found: list[SeasonWeek] = []
    for week in weeks:
        if week.end < window.first:
            found.append(week)
            continue
        days = [week.start + timedelta(days=d) for d in range(DAYS)]
        shares = [window.share_on(d) for d in days]
        mine = sum(
            volume * share if share is not None else week.volume if d < window.first else 0.0
            for d, share in zip(days, shares, strict=True)
        )
        found.append(replace(week, volume=round(mine / DAYS, 3), taper=window, volume_before_taper=week.volume))
    return found


def _closed(monday: date, facts: SeasonFacts) -> tuple[date, ...]:
    """Days of a week that hold no session: away, and those of a competition."""
    days = [monday + timedelta(days=d) for d in range(DAYS)]
    off = [s for s in facts.spans if s.kind in OFF]
    return tuple(
        d
        for d in days
        if any(s.start <= d <= s.end for s in off) or any(t.day <= d <= t.end for t in facts.targets if t.rank in PLAYED)
    )


def _last_session(stretch: Stretch, facts: SeasonFacts) -> int:
    """How many days before the competition nothing is trained any more: its events know, else the arrangement."""
    return stretch.target.last_session_days_out or facts.arrangement.taper.last_session_days_out


def _rhythm(facts: SeasonFacts) -> int | None:
    chosen = facts.loading_weeks if facts.loading_weeks is not None else facts.arrangement.loading_weeks
    return chosen or None


def _easy_weeks(
    phase: Phase, rule: PhaseRule, starts: Sequence[date], at: int, stretch: Stretch, facts: SeasonFacts
) -> list[bool]:
    """Which weeks of a phase are easier ones; `at` is the place of its first in the stretch."""
    if rule.key is PhaseKey.TAPER or rule.id == TEST_ID:
        return [False] * len(starts)
    if phase.key is PhaseKey.IN_SEASON:
        return _easy_in_season(starts, _rhythm(facts), facts, stretch)
    if rule.id == RISING.id:
        lost = lost_weeks(phase.start, phase.end, facts.spans)
        places = [i - sum(1 for x in lost if x < m) for i, m in enumerate(starts)]
        return [
            facts.easy.get(m, m not in lost and rising_week(i, phase.weeks - len(lost)) == RISING_WEEKS[-1])
            for i, m in zip(places, starts, strict=True)
        ]
    return [_easy(monday, at + i, stretch, facts) for i, monday in enumerate(starts)]


def _easy(monday: date, index: int, stretch: Stretch, facts: SeasonFacts) -> bool:
    """Counted back from the taper, full weeks before it, or from the tests, an easier one before them.

    The coach's word, and days away, come first.
    """
    rhythm = _rhythm(facts)
    if monday in facts.easy:
        return facts.easy[monday]
    if _away(monday, facts.spans) >= MOST_DAYS:
        return True
    if rhythm is None:
        return False
    before_tests = any(r.id == TEST_ID for r in stretch.rules)
    due = (stretch.building_weeks - 1 - index) % (rhythm + 1) == (0 if before_tests else rhythm)
    return due and (index > 0 or rhythm >= LONGEST_LOADING)


def _easy_in_season(starts: Sequence[date], rhythm: int | None, facts: SeasonFacts, stretch: Stretch) -> list[bool]:
    """Weeks of two matches are easy by themselves; between them an easier week comes after as many full ones as ever."""
    found: list[bool] = []
    loading = 0
    for monday in starts:
        crowded = sum(1 for m in stretch.matches if monday_of(m) == monday) > 1
        easy = crowded or _away(monday, facts.spans) >= MOST_DAYS or (rhythm is not None and loading >= rhythm)
        easy = facts.easy.get(monday, easy)
        loading = 0 if easy else loading + 1
        found.append(easy)
    return found


def _amount(
    phase: Phase, rule: PhaseRule, i: int, index: int, is_easy: bool, progress: float, stretch: Stretch, facts: SeasonFacts,
    lost: int,
) -> tuple[float, float]:  # fmt: skip
    """Volume relative to a full base week, and top intensity in %. `lost` weeks of the phase do not count."""
    low, high = rule.intensity_pct
    if phase.key is PhaseKey.TAPER:
        return 0.0, high  # its days take their share of the weeks before
    if rule.id == RISING.id:
        pct, volume = rising_week(i, phase.weeks - lost)
        return volume, pct
    if is_easy:
        return rule.volume * facts.rules["season.easy_volume_pct"] / 100, facts.rules["season.easy_intensity_pct"]
    waves = facts.arrangement.waves
    wave = len(waves) - 1 - ((stretch.building_weeks - 1 - index) % ((_rhythm(facts) or len(waves) - 1) + 1))
    return rule.volume * waves[max(0, min(wave, len(waves) - 1))], low + (high - low) * progress


def _capped(pct: float, monday: date, stretch: Stretch, facts: SeasonFacts) -> float:
    """Nothing of 90 % and over inside the last heavy exposure limit of the competition."""
    limit = stretch.target.day - timedelta(days=facts.arrangement.heavy_days_out)
    is_main = stretch.target.rank is Rank.MAIN
    return min(pct, NEAR_THE_DAY_PCT) if is_main and monday + timedelta(days=6) >= limit and pct >= HEAVY_PCT else pct


def _away(monday: date, spans: Sequence[Span]) -> int:
    return sum(s.days_in(monday) for s in spans if s.kind in OFF)


def _shared(monday: date, facts: SeasonFacts, phase: Phase, matches: int, *, is_easy: bool) -> tuple[float, str]:
    """What the calendar leaves of a week's volume (0-1), and why in words."""
    if phase.key is PhaseKey.IN_SEASON:
        share = facts.rules[f"season.matches_{min(matches, 2)}_pct"] / 100
        return (1.0 if is_easy else share), f"{matches} {'match' if matches == 1 else 'matches'}" if matches else "no match"
    here = [s for s in facts.spans if s.days_in(monday)]
    away = _away(monday, facts.spans)
    if away >= MOST_DAYS:
        left = facts.rules["season.away_volume_pct"] / facts.rules["season.easy_volume_pct"]  # the week counts as easy already
        return min(1.0, left), ", ".join(dict.fromkeys(s.words for s in here))
    full = [s for s in here if s.days_in(monday) >= FEW_DAYS]
    secondary = any(t.rank is Rank.SECONDARY and monday_of(t.day) == monday for t in facts.targets)
    if is_easy or phase.key is PhaseKey.TAPER or not (full or secondary):
        return 1.0, ", ".join(dict.fromkeys(s.words for s in here))
    share = min(
        [facts.rules["season.busy_volume_pct"] / 100] * bool(full)
        + [facts.rules["season.secondary_volume_pct"] / 100] * secondary
    )
    return share, ", ".join(dict.fromkeys(s.words for s in here)) or "secondary competition"

"""The force-velocity progression, planned backwards from one competition.

Taper first, then the specific phase, then power conversion; the base gets what is left but never less than its
minimum without saying so, because the base decides how tall the rest can be.
"""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date, timedelta

from jarvok.core.errors import CoachError
from jarvok.core.season.model import (
    PHASE_NAMES,
    Phase,
    PhaseKey,
    SeasonNote,
    SeasonPlan,
    SeasonWeek,
    monday_of,
)
from jarvok.core.season.residuals import residuals_for
from jarvok.core.working import COMMON_PRACTICE, Input, Working

# least and most weeks of each phase; common practice
LIMITS_WEEKS: dict[PhaseKey, tuple[int, int]] = {
    PhaseKey.BASE: (4, 10),
    PhaseKey.STRENGTH_SPEED: (3, 8),
    PhaseKey.SPEED_STRENGTH: (3, 8),
    PhaseKey.TAPER: (1, 2),
}
SHARES = {PhaseKey.BASE: 0.45, PhaseKey.STRENGTH_SPEED: 0.30, PhaseKey.SPEED_STRENGTH: 0.25}  # [J]
BUILDING = (PhaseKey.BASE, PhaseKey.STRENGTH_SPEED, PhaseKey.SPEED_STRENGTH)
TAPER_WEEKS = 2  # 8 to 14 days: Bosquet et al. 2007, quoted from memory
LONGEST_WEEKS = 52
LOADING_WEEKS = 3  # 3:1, common practice
PHASE_VOLUME = {  # [J] of a full base week; volume falls as speed rises
    PhaseKey.GENERAL: 0.8,
    PhaseKey.BASE: 1.0,
    PhaseKey.STRENGTH_SPEED: 0.85,
    PhaseKey.SPEED_STRENGTH: 0.72,
}
WAVE_VOLUME = (0.9, 1.0, 1.1)  # [J] three rising weeks
EASY_VOLUME = 0.5  # deload: volume about half, common practice
TAPER_VOLUME = (0.55, 0.40)  # of the phase before: together 41-60 % down (Bosquet et al. 2007, quoted from memory)
EASY_INTENSITY_PCT = 80.0  # deload loads about 80 % of max, common practice
INTENSITY_PCT = {  # [J] lowest and highest of each phase in % of max
    PhaseKey.GENERAL: (65.0, 72.5),
    PhaseKey.BASE: (75.0, 87.5),
    PhaseKey.STRENGTH_SPEED: (80.0, 85.0),
    PhaseKey.SPEED_STRENGTH: (80.0, 87.5),
    PhaseKey.TAPER: (85.0, 87.5),
}


def plan_season(today: date, competition_day: date, pinned_weeks: Mapping[PhaseKey, int] | None = None) -> SeasonPlan:
    """Return the season from the current week to `competition_day`.

    `pinned_weeks` are phase lengths the coach has set; the other phases share what is left. Raises `CoachError` for a
    day that is not ahead, one more than 52 weeks away, or lengths that do not fit.
    """
    pins = dict(pinned_weeks or {})
    if competition_day <= today:
        raise CoachError(
            f"{competition_day:%-d %B %Y} is not ahead of {today:%-d %B %Y}.",
            where="day",
            accepted="A competition from tomorrow on can be planned for.",
        )
    start, last_monday = monday_of(today), monday_of(competition_day)
    total = (last_monday - start).days // 7 + 1
    if total > LONGEST_WEEKS:
        raise CoachError(
            f"{competition_day:%-d %B %Y} is {total} weeks away.",
            where="day",
            accepted=f"A season of up to {LONGEST_WEEKS} weeks can be built backwards; add nearer competitions first.",
        )
    weeks, given_up = _lengths(total, pins)
    phases = _phases(weeks, start, competition_day, pins)
    season_weeks = _weeks(phases, start)
    notes = (*given_up, *_pin_notes(weeks, pins), *_taper_notes(phases, competition_day))
    return SeasonPlan(
        start=start,
        competition_day=competition_day,
        phases=phases,
        weeks=season_weeks,
        notes=notes,
        residuals=residuals_for(season_weeks, competition_day),
        working=_working(phases, total, competition_day, given_up),
    )


def _lengths(total: int, pins: dict[PhaseKey, int]) -> tuple[dict[PhaseKey, int], tuple[SeasonNote, ...]]:
    for key, value in pins.items():
        low, high = (0, 26) if key is not PhaseKey.TAPER else (1, 3)
        if not low <= value <= high:
            raise CoachError(
                f"{PHASE_NAMES[key]} cannot last {value} weeks.",
                where="weeks",
                accepted=f"{low} to {high} weeks are accepted.",
            )
    taper = min(pins.get(PhaseKey.TAPER, TAPER_WEEKS if total > 4 else 1), total)
    room = total - taper
    pinned = {key: pins[key] for key in BUILDING if key in pins}
    left = room - sum(pinned.values())
    if left < 0:
        raise CoachError(
            f"The phases you set need {sum(pinned.values())} weeks and only {room} are there before the taper.",
            where="weeks",
            accepted="Shorten one of them, or move the competition.",
        )
    free = [key for key in BUILDING if key not in pins]
    lengths, said = _share_out(left, free, room)
    lengths.update(pinned)
    spare = room - sum(lengths.values())
    return {PhaseKey.GENERAL: spare, **lengths, PhaseKey.TAPER: taper}, said


def _share_out(left: int, free: list[PhaseKey], room: int) -> tuple[dict[PhaseKey, int], tuple[SeasonNote, ...]]:
    """Share `left` weeks among the free phases; drop those whose least length does not fit, power conversion first."""
    keep, said = list(free), list[SeasonNote]()
    for key in (PhaseKey.STRENGTH_SPEED, PhaseKey.SPEED_STRENGTH):
        if key in keep and sum(LIMITS_WEEKS[k][0] for k in keep) > left:
            keep.remove(key)
            if room < LIMITS_WEEKS[PhaseKey.BASE][0]:
                continue  # one note on the short base says it all
            said.append(
                SeasonNote(
                    id=f"given-up-{key}",
                    title=f"{PHASE_NAMES[key]} is given up.",
                    text=f"{room} weeks before the taper do not hold its least {LIMITS_WEEKS[key][0]} weeks and the base's "
                    f"{LIMITS_WEEKS[PhaseKey.BASE][0]}. The base is kept: it decides how tall the rest can be.",
                    source="common practice",
                    decision=True,
                )
            )
    lengths = dict.fromkeys(free, 0)
    if not keep:
        return lengths, tuple(said)
    least = {k: min(LIMITS_WEEKS[k][0], left) for k in keep}
    if PhaseKey.BASE in keep and left < LIMITS_WEEKS[PhaseKey.BASE][0]:
        said.append(
            SeasonNote(
                id="short-base",
                title=f"The base has {left} weeks." if left else "There is no time for a base.",
                text=f"It needs at least {LIMITS_WEEKS[PhaseKey.BASE][0]}. Keep what is there sharp; build after the day.",
                source="common practice",
                decision=True,
            )
        )
    extra = left - sum(least.values())
    total_share = sum(SHARES[k] for k in keep)
    for key in keep:
        lengths[key] = least[key]
    while extra > 0:
        open_keys = [k for k in keep if lengths[k] < LIMITS_WEEKS[k][1]]
        if not open_keys:
            break
        furthest = max(open_keys, key=lambda k: SHARES[k] / total_share * left - lengths[k])
        lengths[furthest] += 1
        extra -= 1
    return lengths, tuple(said)


def _phases(weeks: dict[PhaseKey, int], start: date, day: date, pins: dict[PhaseKey, int]) -> tuple[Phase, ...]:
    found: list[Phase] = []
    at = start
    for key in PhaseKey:
        count = weeks.get(key, 0)
        if count <= 0:
            continue
        end = at + timedelta(days=7 * count - 1)
        found.append(Phase(key, at, day if key is PhaseKey.TAPER else end, count, key in pins))
        at = end + timedelta(days=1)
    return tuple(found)


def _weeks(phases: tuple[Phase, ...], start: date) -> tuple[SeasonWeek, ...]:
    building = sum(p.weeks for p in phases if p.key is not PhaseKey.TAPER)
    found: list[SeasonWeek] = []
    for phase in phases:
        easy = [_is_easy(len(found) + i, building) and phase.key is not PhaseKey.TAPER for i in range(phase.weeks)]
        loading = max(1, easy.count(False) - 1)
        done = 0
        for i in range(phase.weeks):
            index = len(found)
            progress = min(1.0, done / loading)
            low, high = INTENSITY_PCT[phase.key]
            if phase.key is PhaseKey.TAPER:
                before = next((p.key for p in reversed(phases) if p.key is not PhaseKey.TAPER), PhaseKey.SPEED_STRENGTH)
                from_end = phase.weeks - 1 - i
                volume = PHASE_VOLUME[before] * (TAPER_VOLUME[1] if from_end == 0 else TAPER_VOLUME[0])
                intensity = high
            elif easy[i]:
                volume, intensity = PHASE_VOLUME[phase.key] * EASY_VOLUME, EASY_INTENSITY_PCT
            else:
                wave = (LOADING_WEEKS - 1) - ((building - 1 - index) % (LOADING_WEEKS + 1))
                volume = PHASE_VOLUME[phase.key] * WAVE_VOLUME[max(0, wave)]
                intensity = low + (high - low) * progress
                done += 1
            found.append(
                SeasonWeek(
                    index=index,
                    start=start + timedelta(days=7 * index),
                    phase=phase.key,
                    week_of_phase=i + 1,
                    weeks_in_phase=phase.weeks,
                    is_easy=easy[i],
                    volume=round(volume, 3),
                    intensity_pct=round(intensity * 2) / 2,
                    progress=progress,
                )
            )
    return tuple(found)


def _is_easy(index: int, building: int) -> bool:
    """Every fourth week counted back from the taper, so that three full weeks stand before it; never the first."""
    return index > 0 and (building - 1 - index) % (LOADING_WEEKS + 1) == LOADING_WEEKS


def _pin_notes(weeks: dict[PhaseKey, int], pins: dict[PhaseKey, int]) -> tuple[SeasonNote, ...]:
    said: list[SeasonNote] = []
    for key in pins:
        low, high = LIMITS_WEEKS[key]
        if not low <= weeks[key] <= high:
            word = "shorter" if weeks[key] < low else "longer"
            said.append(
                SeasonNote(
                    id=f"pin-{key}",
                    title=f"{PHASE_NAMES[key]} is {word} than usual.",
                    text=f"You set {weeks[key]} weeks; {low} to {high} are usual.",
                    source="common practice",
                    decision=True,
                )
            )
    return tuple(said)


def _taper_notes(phases: tuple[Phase, ...], day: date) -> tuple[SeasonNote, ...]:
    taper = phases[-1]
    length = (day - taper.start).days
    return (
        SeasonNote(
            id="taper",
            title=f"Taper: {length} days,",
            text="volume down by about half, loads kept, days of training kept. Nothing new, no test attempts.",
            source="Bosquet et al. 2007; Mujika & Padilla 2003",
            week=sum(p.weeks for p in phases[:-1]),
        ),
    )


def _working(phases: tuple[Phase, ...], total: int, day: date, given_up: tuple[SeasonNote, ...]) -> Working:
    return Working(
        result=f"{total} weeks to {day:%-d %B %Y}",
        rule="taper, then speed-strength, then strength-speed, backwards from the day; the base gets what is left",
        source=COMMON_PRACTICE,
        inputs=tuple(
            Input(p.name, f"{p.weeks} {'week' if p.weeks == 1 else 'weeks'}{', set by you' if p.pinned else ''}") for p in phases
        ),
        rounding="whole weeks from Monday to Sunday; the taper ends on the day",
        missing=tuple(note.title for note in given_up),
        caution="Good for combat and field sport that need strength turned into speed. Weak where several competitions "
        "follow each other closely, and for weightlifters, whose sport is the lifts.",
    )

"""How long each quality holds after its last good stimulus, against the competition date."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from jarvok.core.quantities.sentence import counted
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.season.arrangement import Arrangement
from jarvok.core.season.model import PhaseKey, Residual, SeasonWeek


@dataclass(frozen=True)
class ResidualRule:
    """Days a quality holds: mean and spread, with its source."""

    days: int
    spread_days: int
    source: str


# Issurin 2008, quoted from memory
RESIDUAL_DAYS: dict[str, ResidualRule] = {
    "aerobic endurance": ResidualRule(30, 5, "Issurin 2008"),
    "max strength": ResidualRule(30, 5, "Issurin 2008"),
    "glycolytic endurance": ResidualRule(18, 4, "Issurin 2008"),
    "strength endurance": ResidualRule(15, 5, "Issurin 2008"),
    "maximal speed": ResidualRule(5, 3, "Issurin 2008"),
}
WANTED = ("max strength", "strength-speed", "maximal speed")  # what a season of strength work means to bring to the day
LAST_SHARP_DAYS_OUT = 3  # common practice: plyometrics and sprints kept to 2-4 days out
LAST_CONDITIONING_DAYS_OUT = 5  # [J] conditioning is tapered last and carried closer than strength (common practice)


def holds(quality: str, rules: Rules = DEFAULT_RULES) -> tuple[int, int, str]:
    """Return for how many days a quality is taken to hold, its spread, and the rule in words.

    For max strength the published 30 ± 5 days and the trade's three weeks differ; the coach chooses in the settings.
    """
    if quality == "max strength":
        days = int(rules["season.max_strength_days"])
        return days, 5, f"lasts {days} days (common practice 21, Issurin 2008: 30 ± 5)"
    if quality == "strength-speed":
        days = int(rules["season.strength_speed_days"])
        return days, 4, f"lasts {days} days (no published value)"
    rule = RESIDUAL_DAYS[quality]
    return rule.days, rule.spread_days, f"lasts {rule.days} ± {rule.spread_days} days ({rule.source})"


def residuals_for(
    weeks: Sequence[SeasonWeek],
    competition_day: date,
    arrangement: Arrangement,
    rules: Rules = DEFAULT_RULES,
    idle: frozenset[date] = frozenset(),
) -> tuple[Residual, ...]:
    """Return, per quality that the arrangement trains, its last good dose before the day and whether it still holds then.

    Weeks that hold nothing, and those of `idle` (by their Monday) in which nothing was done, train nothing.
    """
    before = [w for w in weeks if w.start <= competition_day]
    worked = [w for w in before if w.volume > 0 and w.start not in idle]
    parts = {rule.id: rule for rule in arrangement.phases_for(len(before))}
    doses: dict[str, list[SeasonWeek]] = {}
    for week in worked:
        rule = parts.get(week.phase_id)
        if week.phase is PhaseKey.TAPER:
            trained: tuple[str, ...] = ("maximal speed",)
        elif week.phase in (PhaseKey.IN_SEASON,) or week.phase_id == "hold":
            trained = WANTED
        else:
            trained = (*rule.builds, *rule.keeps) if rule is not None and rule.id != "general" else ()
        for quality in trained:
            doses.setdefault(quality, []).append(week)
    named = {q for rule in parts.values() if rule.id != "general" for q in (*rule.builds, *rule.keeps)}
    return tuple(
        _residual(quality, doses[quality], competition_day, arrangement, rules)
        for quality in sorted(doses, key=lambda q: (*WANTED, *RESIDUAL_DAYS).index(q))
        if quality in named
    )


def _residual(quality: str, inside: list[SeasonWeek], day: date, arrangement: Arrangement, rules: Rules) -> Residual:
    last_days_out = {
        "max strength": arrangement.heavy_days_out + 1,
        "strength-speed": arrangement.heavy_days_out,
        "maximal speed": LAST_SHARP_DAYS_OUT,
    }.get(quality, LAST_CONDITIONING_DAYS_OUT)
    last = max(inside[0].start, min(day - timedelta(days=last_days_out), inside[-1].end))
    days, spread, text = holds(quality, rules)
    expires = last + timedelta(days=days)
    return Residual(
        quality=quality,
        spans=_spans(inside, last),
        last_exposure=last,
        holds_days=(days - spread, days + spread),
        expires=expires,
        covers_competition=expires >= day,
        text=f"last {counted((day - last).days, 'day')} before, {text}",
    )


def _spans(inside: list[SeasonWeek], last: date) -> tuple[tuple[date, date], ...]:
    """Stretches of weeks in which the quality is trained, the last one ending with its last good dose."""
    found: list[tuple[date, date]] = []
    for week in inside:
        if found and (week.start - found[-1][1]).days == 1:
            found[-1] = (found[-1][0], week.end)
        else:
            found.append((week.start, week.end))
    kept = [(a, min(b, last)) for a, b in found if a <= last]
    return tuple(kept)

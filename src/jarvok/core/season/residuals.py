"""How long each quality holds after its last good stimulus, against the competition date."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date, timedelta

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
TRADE_MAX_STRENGTH_DAYS = 21  # common practice: about three weeks with nothing done; the shorter rule draws the bar

# which phases train a quality well, and how many days before the day its last dose falls
_TRAINED: dict[str, tuple[PhaseKey, ...]] = {
    "max strength": (PhaseKey.BASE, PhaseKey.STRENGTH_SPEED, PhaseKey.SPEED_STRENGTH, PhaseKey.TAPER),
    "strength-speed": (PhaseKey.STRENGTH_SPEED, PhaseKey.SPEED_STRENGTH),
    "maximal speed": (PhaseKey.SPEED_STRENGTH, PhaseKey.TAPER),
}
LAST_HEAVY_DAYS_OUT = 10  # common practice: limit lower-body work ends more than 10 days out
LAST_SHARP_DAYS_OUT = 3  # common practice: plyometrics and sprints kept to 2-4 days out
STRENGTH_SPEED_DAYS = 18  # [J] no published value for this quality: set between strength and speed


def residuals_for(weeks: tuple[SeasonWeek, ...], competition_day: date) -> tuple[Residual, ...]:
    """Return, per quality, when it is trained in this season and whether it still holds on the day."""
    found: list[Residual] = []
    for quality, phases in _TRAINED.items():
        inside = [w for w in weeks if w.phase in phases]
        if not inside:
            continue
        latest = {
            "max strength": competition_day - timedelta(days=LAST_HEAVY_DAYS_OUT + 1),
            "strength-speed": competition_day - timedelta(days=LAST_HEAVY_DAYS_OUT),
            "maximal speed": competition_day - timedelta(days=LAST_SHARP_DAYS_OUT),
        }[quality]
        last = max(inside[0].start, min(latest, inside[-1].end))
        rule = RESIDUAL_DAYS.get(quality)
        if quality == "max strength":
            days, text = TRADE_MAX_STRENGTH_DAYS, "holds about 21 days (common practice), 30 ± 5 (Issurin 2008)"
        elif rule is not None:
            days, text = rule.days, f"holds {rule.days} ± {rule.spread_days} days ({rule.source})"
        else:
            days, text = STRENGTH_SPEED_DAYS, f"taken as {STRENGTH_SPEED_DAYS} days (Jarvok's default)"
        spread = rule.spread_days if rule is not None else 4
        expires = last + timedelta(days=days)
        out = (competition_day - last).days
        found.append(
            Residual(
                quality=quality,
                spans=((inside[0].start, last),),
                last_exposure=last,
                holds_days=(days - spread, days + spread),
                expires=expires,
                covers_competition=expires >= competition_day,
                text=f"last good dose {out} days before · {text}",
            )
        )
    return tuple(found)

"""In season: days counted from the match (MD−4 … MD+2), one or two sessions, by how long a player played."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.working import COMMON_PRACTICE, Source

MANY_MINUTES_SHARE = 0.6  # [J] of a match: a player with more recovers before training again
FEW_MINUTES_SHARE = 0.3  # [J] a player with less trains the day after instead
FAR_OFF_DAYS = 99  # [T] no match near
BEFORE, AFTER = 4, 2  # [C] days that hang on a match
LAST_MATCHES = 3  # [J] a player's minutes are taken over so many matches


@dataclass(frozen=True)
class MatchDay:
    """One day of an in-season week: its label (MD−2), what it holds, why, and how much of a full session (0-1).

    A fast session holds jumps, throws and light fast lifts, and nothing heavy.
    """

    day: date
    label: str
    holds: str
    why: str
    session: float
    is_match: bool
    is_fast: bool = False
    source: Source = COMMON_PRACTICE


def played_share(played: Sequence[tuple[date, int]], day: date, rules: Rules = DEFAULT_RULES) -> float:
    """Return how much of a match a player usually plays (0-1) before a day: the mean of the last three on record.

    `played` holds (day of the match, minutes). Without a record a player is taken to play it all.
    """
    last = [minutes for when, minutes in sorted(played) if when < day][-LAST_MATCHES:]
    if not last:
        return 1.0
    return max(0.0, min(1.0, sum(last) / len(last) / rules["season.match_minutes"]))


def label_of(day: date, matches: Sequence[date]) -> str:
    """Return a day's label: MD on a match day, MD+1 and MD+2 after one, else days before the next (MD−1 to MD−4).

    The day after a match counts from that match unless another is nearer ahead; an empty label is far from any.
    """
    if day in matches:
        return "MD"
    after = min(((day - m).days for m in matches if m < day), default=FAR_OFF_DAYS)
    before = min(((m - day).days for m in matches if m > day), default=FAR_OFF_DAYS)
    if after <= AFTER and after < before:
        return f"MD+{after}"
    return f"MD−{before}" if before <= BEFORE else f"MD+{after}" if after <= AFTER else ""


def in_season_week(monday: date, matches: Sequence[date], sessions: int = 2, played_share: float = 1.0) -> tuple[MatchDay, ...]:
    """Return the seven days of a week built from its matches, for a player who plays `played_share` of a match (0-1).

    With two matches in the week there is one session; with none two full ones. Strength lies four days before a match, a
    short fast session two days before; nothing heavy inside three days. Few minutes: a session on the day after.
    """
    days = [monday + timedelta(days=i) for i in range(7)]
    inside = [m for m in matches if m in days]
    labels = {d: label_of(d, matches) for d in days}
    wanted = 1 if len(inside) > 1 else max(1, min(2, sessions))
    placed = _placed(days, labels, wanted, played_share)
    return tuple(_day(d, labels[d], placed.get(d), played_share) for d in days)


_Session = tuple[str, str, float]
STRENGTH: _Session = ("strength", "far enough from the next match, and from the last", 1.0)
FAST: _Session = ("short and fast: jumps, throws, light fast lifts", "sharp on the day, nothing left in the legs", 0.5)
# shares of a session's sets, Jarvok's default [J]
TOP_UP: _Session = ("strength, for those who hardly played", "the match they did not play is made up", 0.8)
SMALL: _Session = ("a small dose: two lifts, few sets", "between two matches nothing more fits", 0.4)  # [J]


def _placed(days: Sequence[date], labels: dict[date, str], wanted: int, played_share: float) -> dict[date, _Session]:
    free = [d for d in days if labels[d] != "MD"]
    found: dict[date, _Session] = {}
    after = next((d for d in free if labels[d] == "MD+1"), None)
    if played_share < FEW_MINUTES_SHARE and after is not None:
        found[after] = TOP_UP
    for label in ("MD−4", "", "MD−3", "MD+2"):
        day = next((d for d in free if labels[d] == label and d not in found), None)
        if day is not None and len(found) < wanted and not any(abs((day - f).days) < 2 for f in found):
            tired = label == "MD+2" and played_share > MANY_MINUTES_SHARE
            found[day] = SMALL if tired or (label == "MD+2" and wanted == 1) else STRENGTH
            break
    if len(found) < wanted:
        day = next((d for d in free if labels[d] == "MD−2" and not any(abs((d - f).days) < 1 for f in found)), None)
        if day is not None:
            found[day] = FAST
    if len(found) < wanted:
        day = next((d for d in free if not labels[d] and not any(abs((d - f).days) < 2 for f in found)), None)
        if day is not None:
            found[day] = STRENGTH
    if not found:
        day = next((d for d in free if labels[d] in ("MD+2", "MD+1", "MD−2")), free[0] if free else None)
        if day is not None:
            found[day] = SMALL
    return found


def _day(day: date, label: str, session: _Session | None, played_share: float) -> MatchDay:
    if label == "MD":
        return MatchDay(day, label, "match", "", 0.0, True)
    if session is not None:
        return MatchDay(day, label, *session, False, session is FAST)
    if label == "MD+1" and played_share >= FEW_MINUTES_SHARE:
        return MatchDay(day, label, "recovery: easy movement, mobility", "the match was the load", 0.0, False)
    if label == "MD−1":
        return MatchDay(day, label, "practice only, nothing heavy", "the day before is for the match", 0.0, False)
    return MatchDay(day, label, "practice only", "", 0.0, False)

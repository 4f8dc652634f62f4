"""How long each phase is on the way to one competition, and what is given up when time is short."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta

from jarvok.core.errors import CoachError
from jarvok.core.season.arrangement import GENERAL, Arrangement, PhaseRule
from jarvok.core.season.blocks import OPEN, RISING, TEST, TEST_ID
from jarvok.core.season.calendar import League
from jarvok.core.season.facts import SeasonFacts
from jarvok.core.season.model import (
    BlockWay,
    Phase,
    PhaseKey,
    Rank,
    SeasonNote,
    TaperWindow,
    Target,
    TrainingBlock,
    monday_of,
    weeks_words,
)
from jarvok.core.season.time_lost import divided_anew, lost_weeks, pushed_note, with_lost

HOLD_WEEKS = 3  # [J] no more than this between two competitions: the peak is held, nothing is rebuilt
RETURN_FROM_WEEKS = 6  # [J] with less time to the next competition no week is given to returning
SHORT_TAPER_WEEKS = 4  # [J] in so short a stretch the taper is short
WEEK_DAYS = 7  # [T]
MOST_OF_A_WEEK_DAYS = 3  # [T] a week with more of its days before the taper still belongs to the phase before
MOST_WEEKS, TAPER_WEEKS, SMALLEST_SHARE = 26, (1, 3), 0.01  # [J] a phase pinned by hand; [T]
# volume and intensity of the weeks between, common practice
HOLD = PhaseRule(
    id="hold", name="Hold", key=PhaseKey.SPEED_STRENGTH, least_weeks=1, most_weeks=HOLD_WEEKS, share=0.0, volume=0.6,
    intensity_pct=(80.0, 87.5), given_up=None, builds=(), keeps=("max strength", "strength-speed", "maximal speed"),
    exercises="what was done last, less of it", accessories="out",
)  # fmt: skip
RETURN = replace(GENERAL, id="return", name="General return", volume=0.6)  # [C]
# common practice
IN_SEASON = PhaseRule(
    id="in_season", name="In season", key=PhaseKey.IN_SEASON, least_weeks=1, most_weeks=52, share=0.0, volume=0.8,
    intensity_pct=(80.0, 87.5), given_up=None, builds=(), keeps=("max strength", "strength-speed", "maximal speed"),
    exercises="days counted from the match; one or two sessions", accessories="what the trouble spots of the sport ask for",
)  # fmt: skip


@dataclass(frozen=True)
class Stretch:
    """The weeks to one competition: its phases with the rule of each, notes, and where it leads; `follows` another one."""

    target: Target
    start: date
    phases: tuple[Phase, ...]
    rules: tuple[PhaseRule, ...]
    notes: tuple[SeasonNote, ...]
    matches: tuple[date, ...] = ()
    window: TaperWindow | None = None
    follows: bool = False

    @property
    def building_weeks(self) -> int:
        """Weeks before the taper, or the tests."""
        return sum(p.weeks for p in self.phases if p.key is not PhaseKey.TAPER and p.id != TEST_ID)


def taper_rule(style: Arrangement) -> PhaseRule:
    """Return the taper of an arrangement as a phase."""
    pct = style.taper.intensity_pct
    return PhaseRule(
        id="taper", name=style.taper.name, key=PhaseKey.TAPER, least_weeks=1, most_weeks=2, share=0.0, volume=0.5,
        intensity_pct=(pct, pct), given_up=None, builds=(), keeps=("maximal speed",),
        exercises="nothing new, no openers or test attempts at the end", accessories="out in the last week or two",
    )  # fmt: skip


def taper_window(target: Target, earliest: date, total_weeks: int, facts: SeasonFacts) -> TaperWindow:
    """Return the days of the taper to a competition, counted back from its first day; none lies before `earliest`."""
    rule, pins = facts.arrangement.taper, dict(target.pins)
    style = facts.taper or (facts.usual_taper if total_weeks > SHORT_TAPER_WEEKS else rule.short)
    if facts.taper is None and "taper" in pins:
        style = replace(style, days=WEEK_DAYS * pins["taper"])
    days = max(1, min(style.days, (target.day - earliest).days))
    return TaperWindow(target.day - timedelta(days=days), target.day, replace(style, days=days))


def _taper_weeks(window: TaperWindow, target: Target, start: date) -> int:
    """Whole weeks the taper takes: its first week counts when most of its days lie in the window."""
    first = max(start, monday_of(window.first))
    if (window.first - first).days > MOST_OF_A_WEEK_DAYS and monday_of(target.end) > first:
        first += timedelta(days=7)
    return (monday_of(target.end) - first).days // 7 + 1


def stretch_to(target: Target, start: date, facts: SeasonFacts, *, is_first: bool) -> Stretch:
    """Return the phases from a Monday to a competition. Raises `CoachError` for set lengths that do not fit."""
    style, total = facts.arrangement, (monday_of(target.end) - start).days // 7 + 1
    held = not is_first and total <= HOLD_WEEKS
    window = taper_window(target, max(start, facts.start), 0 if held else total, facts)
    taper_weeks = _taper_weeks(window, target, start)
    if held:
        rules: list[PhaseRule] = [HOLD, taper_rule(style)]
        weeks = {"hold": total - taper_weeks, "taper": taper_weeks}
        notes: list[SeasonNote] = [_held(target, total)]
    else:
        back = int(facts.rules["season.return_weeks"]) if not is_first and total >= RETURN_FROM_WEEKS else 0
        before = style.phases_for(total - back)
        rules = [RETURN, *before, taper_rule(style)]
        weeks, said = _lengths(total - back, taper_weeks, dict(target.pins), style, before)
        weeks["return"] = back
        notes = said
        lost = lost_weeks(start, target.end, facts.spans)
        if lost and not target.pins:  # lengths set by hand stay as they are
            weeks, said = _anew(weeks, rules, start, lost, style)
            notes = [*said, *(n for n in notes if n.id not in {x.id for x in said})]
    phases = _phases(weeks, rules, start, target, window)
    return Stretch(target, start, phases, tuple(r for r in rules if weeks.get(r.id)), tuple(notes), window=window)


def block_stretch(target: Target, start: date, facts: SeasonFacts) -> Stretch:
    """Return the weeks of a block from a Monday to its last Sunday: no taper, tests in the last week where they are wanted."""
    block = target.block or TrainingBlock()
    total = (monday_of(target.day) - start).days // 7 + 1
    lost = lost_weeks(start, target.day, facts.spans)
    total -= len(lost)
    tests = 1 if block.has_test_week and total > 1 else 0
    if block.way is BlockWay.OPEN:
        rules: list[PhaseRule] = [OPEN]
        weeks, notes = {OPEN.id: total}, list[SeasonNote]()
    elif block.way is BlockWay.RISING:
        rules = [RISING, TEST]
        weeks, notes = {RISING.id: total - tests, TEST_ID: tests}, list[SeasonNote]()
    else:
        before = [r for r in facts.arrangement.phases_for(total - tests) if r.id != "general"]
        rules = [GENERAL, *before, TEST]
        weeks, notes = _lengths(total - tests, 0, dict(target.pins), facts.arrangement, before)
        weeks |= {TEST_ID: tests, "taper": 0}
    weeks = with_lost(weeks, rules, start, lost)
    notes += [pushed_note(len(lost), target.day)] if lost else []
    phases = _phases(weeks, rules, start, target, None)
    return Stretch(target, start, phases, tuple(r for r in rules if weeks.get(r.id)), tuple(notes))


def _anew(
    weeks: Mapping[str, int], rules: Sequence[PhaseRule], start: date, lost: Sequence[date], style: Arrangement
) -> tuple[dict[str, int], list[SeasonNote]]:
    """The phases with lost weeks in them, what is behind those divided anew; where the base comes out short, that is said."""
    known = {r.id: r for r in rules}

    def share_out(room: int, free: Sequence[PhaseRule]) -> tuple[dict[str, int], list[SeasonNote]]:
        usual = [r for r in free if r.id not in ("general", "return")]
        return _share_out(room, usual, room, style, known | {r.id: r for r in usual})

    found, said = divided_anew(weeks, rules, start, lost, share_out)
    base = known[style.base]
    trained = found.get(base.id, 0) - sum(1 for m in lost if _is_in(m, base.id, found, rules, start))
    said = [n for n in said if n.id != "short-base"]
    if trained < base.least_weeks:
        said.append(_short_base(trained, base))
    return found, said


def _is_in(monday: date, key: str, weeks: Mapping[str, int], rules: Sequence[PhaseRule], start: date) -> bool:
    """Whether a week lies in a phase."""
    first = start
    for rule in rules:
        after = first + timedelta(days=WEEK_DAYS * weeks.get(rule.id, 0))
        if rule.id == key:
            return first <= monday < after
        first = after
    return False


def season_stretch(league: League, start: date, facts: SeasonFacts) -> list[Stretch]:
    """Return the weeks of a league from a Monday on: main competitions inside it get a short taper of their own."""
    found: list[Stretch] = []
    at, last = start, monday_of(league.end)
    inside = [t for t in facts.mains if start <= t.day <= league.end]
    for target in [*inside, Target("last match", league.end, Rank.THROUGH)]:
        is_main = target.rank is Rank.MAIN
        end = monday_of(target.end)
        total = (end - at).days // 7 + 1
        if total <= 0:
            continue
        window = taper_window(target, max(at, facts.start), 0, facts) if is_main else None
        tapered = _taper_weeks(window, target, at) if window is not None else 0
        weeks = {"in_season": total - tapered, "taper": tapered}
        rules = [IN_SEASON, taper_rule(facts.arrangement)]
        phases = _phases(weeks, rules, at, target, window)
        notes = [_in_season_note()] if not found else []
        kept = tuple(r for r in rules if weeks[r.id])
        found.append(Stretch(target, at, phases, kept, tuple(notes), league.matches, window))
        at = end + timedelta(days=7)
        if at > last:
            break
    return found


def _lengths(
    total: int, taper: int, pins: Mapping[str, int], style: Arrangement, rules: Sequence[PhaseRule]
) -> tuple[dict[str, int], list[SeasonNote]]:
    known = {r.id: r for r in rules if r.id != "general"} | {"taper": taper_rule(style)}
    pins = {key: value for key, value in pins.items() if key in known}  # of another arrangement: they rest
    for key, value in pins.items():
        low, high = (0, MOST_WEEKS) if key != "taper" else TAPER_WEEKS
        if not low <= value <= high:
            raise CoachError(
                f"{known[key].name} cannot last {weeks_words(value)}.",
                where="weeks",
                accepted=f"{low} to {high} weeks are accepted.",
            )
    room = total - taper
    pinned = {key: value for key, value in pins.items() if key != "taper"}
    left = room - sum(pinned.values())
    if left < 0:
        raise CoachError(
            f"The phases you set need {weeks_words(sum(pinned.values()))} and only {room} "
            f"{'is' if room == 1 else 'are'} there before the taper.",
            where="weeks",
            accepted="Shorten one of them, or move the competition.",
        )
    free = [r for r in rules if r.id != "general" and r.id not in pinned]
    lengths, said = _share_out(left, free, room, style, {r.id: r for r in rules})
    lengths.update(pinned)
    spare = room - sum(lengths.values())
    return {"general": spare, **lengths, "taper": taper}, said


def _share_out(
    left: int, free: Sequence[PhaseRule], room: int, style: Arrangement, known: Mapping[str, PhaseRule]
) -> tuple[dict[str, int], list[SeasonNote]]:
    """Share `left` weeks among the free phases; those whose least length does not fit go, in the arrangement's order."""
    keep, said = list(free), list[SeasonNote]()
    base = known[style.base]
    for rule in sorted((r for r in free if r.given_up is not None), key=lambda r: r.given_up or 0):
        if sum(r.least_weeks for r in keep) <= left:
            break
        keep.remove(rule)
        if room >= base.least_weeks:  # else one note on the short base says it all
            said.append(_given_up(rule, room, base))
    lengths = {r.id: 0 for r in free}
    if not keep:
        return lengths, said
    if any(r.id == base.id for r in keep) and left < base.least_weeks:
        said.append(_short_base(left, base))
    for rule in keep:
        lengths[rule.id] = min(rule.least_weeks, max(0, left - sum(lengths.values())))
    shares = {r.id: r.share or SMALLEST_SHARE for r in keep}
    total_share = sum(shares.values())
    for _ in range(left - sum(lengths.values())):
        open_rules = [r for r in keep if lengths[r.id] < r.most_weeks]
        if not open_rules:
            break
        furthest = max(open_rules, key=lambda r: shares[r.id] / total_share * left - lengths[r.id])
        lengths[furthest.id] += 1
    return lengths, said


def _phases(
    weeks: Mapping[str, int], rules: Sequence[PhaseRule], start: date, target: Target, window: TaperWindow | None
) -> tuple[Phase, ...]:
    found: list[Phase] = []
    at = start
    for rule in rules:
        count = weeks.get(rule.id, 0)
        if count <= 0:
            continue
        end = at + timedelta(days=7 * count - 1)
        is_taper = rule.key is PhaseKey.TAPER
        found.append(
            Phase(
                rule.key,
                at,
                target.end if is_taper else end,
                count,
                rule.id in dict(target.pins),
                rule.id,
                rule.name,
                target.name,
                rule.least_weeks,
                rule.most_weeks,
                window.first if is_taper and window is not None else None,
            )
        )
        at = end + timedelta(days=1)
    return tuple(found)


def _given_up(rule: PhaseRule, room: int, base: PhaseRule) -> SeasonNote:
    loses = f" What it builds is given up: {', '.join(rule.builds)}." if rule.builds else ""
    return SeasonNote(
        id=f"given-up-{rule.id}",
        title=f"{rule.name} is given up.",
        text=f"It needs {weeks_words(rule.least_weeks)} at least, {base.name.lower()} {base.least_weeks}; before the taper there "
        f"{'is' if room == 1 else 'are'} {weeks_words(room)}. The base is kept: it decides how tall the rest can be.{loses}",
        source="common practice",
        decision=True,
    )


def _short_base(left: int, base: PhaseRule) -> SeasonNote:
    return SeasonNote(
        id="short-base",
        title=f"Only {weeks_words(left)} for the base." if left else "There is no time for a base.",
        text=f"It needs at least {base.least_weeks}. Keep what is there sharp; build after the day.",
        source="common practice",
        decision=True,
    )


def _held(target: Target, total: int) -> SeasonNote:
    weeks = weeks_words(total)
    return SeasonNote(
        id=f"held-{target.name}",
        title=f"{target.name}: the peak is held.",
        text=f"{weeks.capitalize()} after the last competition: nothing can be rebuilt, so loads are kept and volume stays low.",
        source="Jarvok's default",
        week=0,
    )


def _in_season_note() -> SeasonNote:
    return SeasonNote(
        id="in-season",
        title="In season:",
        text="days are counted from the match; one or two sessions, one in weeks of two matches.",
        source="common practice",
        week=0,
    )

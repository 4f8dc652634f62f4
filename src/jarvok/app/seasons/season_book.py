"""The season of an athlete, derived from competitions, the calendar and how the coach arranges it."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from functools import lru_cache
from typing import Any

from jarvok.app.athletes.entered import calendar_entries, entered_by
from jarvok.app.athletes.findings import acting
from jarvok.app.athletes.lags import read_together
from jarvok.app.centre.in_force import rules_in_force
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.learning.models import Finding
from jarvok.app.facts.put_together import Objects
from jarvok.app.facts.seasons.models import CalendarEntry, Entry, SeasonStyle
from jarvok.core.errors import CoachError
from jarvok.core.learning.findings import Kind
from jarvok.core.quantities.days import DayOrder, order_of_days
from jarvok.core.rules import Rules
from jarvok.core.season.arrangements import arrangement
from jarvok.core.season.calendar import Span, SpanKind, leagues_in
from jarvok.core.season.exposures import last_session_days_out
from jarvok.core.season.facts import SeasonFacts
from jarvok.core.season.model import HandWeek, Rank, SeasonNote, SeasonPlan, Target, TrainingBlock, monday_of
from jarvok.core.season.planner import LONGEST_WEEKS, plan_year
from jarvok.core.season.taper import TaperStyle
from jarvok.core.season.time_lost import pushed_on

_STYLES = Objects(lambda ids: SeasonStyle.objects.filter(athlete_id__in=ids))
_TAPERS = Objects(lambda ids: Finding.objects.filter(athlete_id__in=ids, kind=Kind.TAPER))
ANCHORS = (Rank.MAIN, Rank.BLOCK)  # what a season is built to


@dataclass(frozen=True)
class Goal:
    """What an athlete prepares for next."""

    name: str
    day: date


def snapshot_of(athlete: Athlete) -> dict[str, Any]:
    """Every fact of a season that a coach may change, as plain data."""
    style = SeasonStyle.objects.filter(athlete=athlete).first() or SeasonStyle()
    return _snapshot(entered_by([athlete.pk]), style)


def _snapshot(entries: Iterable[Entry], style: SeasonStyle) -> dict[str, Any]:
    return {
        "competitions": [
            {
                "id": c.pk,
                "name": c.name,
                "day": c.day.isoformat(),
                "last_day": c.last_day.isoformat() if c.last_day else None,
                "rank": c.rank,
                "events": c.events,
                "weigh_in": c.weigh_in.isoformat() if c.weigh_in else None,
                "division": c.division,
                "block": c.block,
                "planned_from": c.planned_from.isoformat(),
                "pinned_weeks": c.pinned_weeks,
            }
            for c in entries
        ],
        "style": {
            "arrangement": style.arrangement,
            "loading_weeks": style.loading_weeks,
            "taper": style.taper,
            "easy_weeks": style.easy_weeks,
            "weeks_by_hand": style.weeks_by_hand,
        },
    }


def taper_of(raw: Mapping[str, Any] | None) -> TaperStyle | None:
    """A stored taper, or None where the arrangement's own is taken."""
    return TaperStyle.from_raw(raw) if raw else None


def facts_from(
    snapshot: Mapping[str, Any], entries: Sequence[CalendarEntry], today: date, rules: Rules, own_taper_days: int | None = None
) -> SeasonFacts | None:
    """What the core plans from, or None without anything ahead."""
    rows = pushed(snapshot["competitions"], entries)
    ahead = [r for r in rows if r["rank"] in ANCHORS and date.fromisoformat(r["day"]) >= today]
    league = [e for e in entries if e.kind == "match"]
    matches = tuple(e.start for e in league)
    if not ahead and not any(x.end > today for x in leagues_in(matches)):
        return None
    start = _start(rows, ahead, league)
    style = snapshot["style"]
    last = max([date.fromisoformat(r["day"]) for r in ahead] + [m for m in matches if m >= start], default=today)
    return SeasonFacts(
        start=start,
        targets=tuple(_target(r) for r in rows if start < date.fromisoformat(r["day"])),
        arrangement=arrangement(style["arrangement"]),
        matches=tuple(sorted(m for m in matches if start < m)),
        spans=tuple(
            Span(SpanKind(e.kind), e.start, e.end, e.name)
            for e in entries
            if e.kind != "match" and start <= e.end and e.start <= last
        ),
        loading_weeks=style["loading_weeks"],
        taper=taper_of(style["taper"]),
        own_taper_days=own_taper_days,
        easy={date.fromisoformat(k): bool(v) for k, v in style["easy_weeks"].items()},
        by_hand={date.fromisoformat(k): HandWeek(**v) for k, v in style.get("weeks_by_hand", {}).items()},
        rules=rules,
    )


def pushed(rows: Sequence[Mapping[str, Any]], entries: Sequence[CalendarEntry]) -> list[Mapping[str, Any]]:
    """A block of weeks has no date: it ends a week later for each week that is lost in it, and the block behind it begins
    later with it. Competitions stay.
    """
    spans = [Span(SpanKind(e.kind), e.start, e.end, e.name) for e in entries if e.kind != "match"]
    ends: date | None = None
    found: list[Mapping[str, Any]] = []
    for row in sorted(rows, key=lambda r: r["day"]):
        if not row.get("block"):
            found.append(row)
            continue
        block, day = TrainingBlock.from_raw(row["block"]), date.fromisoformat(row["day"])
        planned = block.starts or monday_of(date.fromisoformat(row["planned_from"]))
        starts = planned if ends is None else max(planned, ends + timedelta(days=1))
        ends = pushed_on(starts, day + (starts - planned), spans)
        moved = replace(block, starts=starts) if block.starts is not None else block
        found.append({**row, "day": ends.isoformat(), "block": moved.to_raw()})
    return found


def _start(rows: Sequence[Mapping[str, Any]], ahead: Sequence[Mapping[str, Any]], matches: Sequence[CalendarEntry]) -> date:
    """The day the running season was built on: main competitions that were passed on the way belong to it, for a year."""
    start = min([date.fromisoformat(r["planned_from"]) for r in ahead] or [e.planned_from for e in matches])
    earliest = start - timedelta(weeks=LONGEST_WEEKS)
    for row in sorted(rows, key=lambda r: r["day"], reverse=True):
        begun = date.fromisoformat(row["planned_from"])
        if row["rank"] in ANCHORS and date.fromisoformat(row["day"]) > start and earliest <= begun < start:
            start = begun
    return start


def _target(row: Mapping[str, Any]) -> Target:
    last = date.fromisoformat(row["last_day"]) if row["last_day"] else None
    pins = tuple(sorted((str(k), int(v)) for k, v in row["pinned_weeks"].items()))
    kinds = [str(e["kind"]) for e in row.get("events", ())]
    last_session = last_session_days_out(kinds)[0] if kinds else None
    block = TrainingBlock.from_raw(row["block"]) if row.get("block") else None
    return Target(row["name"], date.fromisoformat(row["day"]), Rank(row["rank"]), last, pins, last_session, block)


def plan_from(facts: SeasonFacts | None) -> SeasonPlan | None:
    """The plan of some facts; a squad often shares them, so each is worked out once."""
    if facts is None:
        return None
    easy, changed = tuple(sorted(facts.easy.items())), tuple(sorted(facts.rules.changed.items()))
    by_hand = tuple(sorted(facts.by_hand.items(), key=lambda row: row[0]))
    return _plan(
        facts.start,
        facts.targets,
        facts.arrangement.key,
        facts.matches,
        facts.spans,
        facts.loading_weeks,
        facts.taper,
        facts.own_taper_days,
        easy,
        by_hand,
        changed,
        order_of_days(),
    )


@lru_cache(maxsize=256)
def _plan(
    start: date,
    targets: tuple[Target, ...],
    key: str,
    matches: tuple[date, ...],
    spans: tuple[Span, ...],
    loading_weeks: int | None,
    taper: TaperStyle | None,
    own_taper_days: int | None,
    easy: tuple[tuple[date, bool], ...],
    by_hand: tuple[tuple[date, HandWeek], ...],
    changed: tuple[tuple[str, float], ...],
    _order: DayOrder,
) -> SeasonPlan:
    rules = Rules(dict(changed))
    facts = SeasonFacts(
        start, targets, arrangement(key), matches, spans, loading_weeks, taper, own_taper_days, dict(easy), dict(by_hand), rules
    )
    return plan_year(facts)


def _without(facts: SeasonFacts, error: CoachError) -> SeasonPlan | None:
    """The plan without the lengths set by hand, or without the matches too, with a note that says so."""
    free = replace(facts, targets=tuple(replace(t, pins=()) for t in facts.targets))
    for left, what in ((free, "Phase lengths no longer fit."), (replace(free, matches=()), "The matches do not fit.")):
        try:
            plan = plan_from(left)
        except CoachError:
            continue
        if plan is not None:
            text = f"{error.message} They are left out until you set them anew."
            return replace(plan, notes=(SeasonNote("lengths-rest", what, text, "as planned", decision=True), *plan.notes))
    return None


class SeasonBook:
    """Seasons of some athletes, read in four queries."""

    def __init__(self, athletes: Iterable[Athlete], today: date, rules: Rules | None = None) -> None:
        self.today = today
        self.rules = rules or rules_in_force()
        self.athletes = {a.pk: a for a in athletes}
        ids = list(self.athletes)
        self._competitions: dict[int, list[Entry]] = defaultdict(list)
        self._block_days: dict[int, date] = {}
        for c in entered_by(ids):
            self._competitions[c.athlete_id].append(c)
        self._styles = {s.athlete_id: s for s in _STYLES.of(ids)}
        self._entries = calendar_entries(ids)
        self._tapers = {f.athlete_id: f for f in acting(_TAPERS.of(ids))}
        self._push_blocks_on()
        read_together(self.athletes.values())

    def _push_blocks_on(self) -> None:
        """Blocks end where their lost weeks push them; what is stored stays."""
        for athlete_id, mine in self._competitions.items():
            blocks = [c for c in mine if c.block is not None]
            rows = [
                {"id": c.pk, "block": c.block, "day": c.day.isoformat(), "planned_from": c.planned_from.isoformat()}
                for c in blocks
            ]
            self._block_days |= {r["id"]: date.fromisoformat(r["day"]) for r in pushed(rows, self.entries(athlete_id))}

    def ends(self, competition: Entry) -> date:
        """The day it leads to: of a block, where its lost weeks have pushed it."""
        return self._block_days.get(competition.pk, competition.day)

    def competitions(self, athlete_id: int) -> list[Entry]:
        """The athlete's part in competitions that stand, in order of days."""
        return self._competitions[athlete_id]

    def style(self, athlete_id: int) -> SeasonStyle:
        """How the season is arranged."""
        return self._styles.get(athlete_id) or SeasonStyle(athlete_id=athlete_id)

    def entries(self, athlete_id: int) -> list[CalendarEntry]:
        """What else is in the athlete's calendar: own, of the group, of the squad."""
        athlete = self.athletes[athlete_id]
        return [
            e
            for e in self._entries
            if e.athlete_id == athlete_id
            or (e.athlete_id is None and e.squad_id == athlete.squad_id and e.group in ("", athlete.group))
        ]

    def snapshot(self, athlete_id: int) -> dict[str, Any]:
        """Every fact of the season that a coach may change, as it was read."""
        return _snapshot(self.competitions(athlete_id), self.style(athlete_id))

    def facts(self, athlete_id: int) -> SeasonFacts | None:
        """What the season is planned from."""
        found = self.taper_found(athlete_id)
        days = int(found.value) if found is not None and found.value is not None else None
        return facts_from(self.snapshot(athlete_id), self.entries(athlete_id), self.today, self.rules, days)

    def taper_found(self, athlete_id: int) -> Finding | None:
        """The finding at work that says how long a taper suits."""
        return self._tapers.get(athlete_id)

    def checked_plan(self, athlete_id: int) -> SeasonPlan | None:
        """The season as the coach set it, or None without anything ahead. Raises `CoachError` when it does not fit."""
        return plan_from(self.facts(athlete_id))

    def plan(self, athlete_id: int) -> SeasonPlan | None:
        """The season; what no longer fits, because the calendar has changed since, is left out and said."""
        facts = self.facts(athlete_id)
        try:
            return plan_from(facts)
        except CoachError as error:
            return _without(facts, error) if facts is not None else None

    def goal(self, athlete_id: int) -> Goal | None:
        """The next main competition, else the next match, else the end of the block that runs."""
        main = next((c for c in self.competitions(athlete_id) if c.rank == Rank.MAIN and c.day >= self.today), None)
        if main is not None:
            return Goal(main.name, main.day)
        match = next((e for e in self.entries(athlete_id) if e.kind == "match" and e.start >= self.today), None)
        if match is not None:
            return Goal(match.name, match.start)
        block = next((c for c in self.competitions(athlete_id) if c.rank == Rank.BLOCK and self.ends(c) >= self.today), None)
        return Goal(block.name, self.ends(block)) if block is not None else None

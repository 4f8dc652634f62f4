"""Marks taken in day by day: what each kind says, the test that stands, what is set aside and what waits for the coach.

Each day is looked at once, so that thousands of marks cost no more than sorting them.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from itertools import groupby

from jarvok.core.experience import is_novice
from jarvok.core.marks.mark import EVIDENCE, Mark, MarkKind
from jarvok.core.marks.own_count import own_count
from jarvok.core.marks.pool import START, Pool, Rise
from jarvok.core.marks.readings import SINGLES, Reader, Reading
from jarvok.core.marks.relation import OwnRelation, Relation, own_relation
from jarvok.core.rules import DEFAULT_RULES, Rules

DAYS_A_WEEK = 7  # [T]
LEAD_IN_DAYS = 28  # [J] so that the guard has something to stand on
GUARD_WEEKS = (1.0, 10.0)  # [J] between them the limit of a rise grows evenly
ENOUGH_AGAINST = 2  # [J] so many later marks of its kind that lie below it answer a rise by themselves
WELL_KNOWN = 4  # [J] a max of so many marks is an estimate itself: one more may lie over the guard by its usual error
SHARED_BY_REPS_PCT, SHARED_PCT = 1.7, 1.5  # [J] errors that kinds have in common: their relation, and the form of those weeks


@dataclass(frozen=True)
class Decision:
    """What the coach said of the evidence of a proposed rise, named by its `ref`: accepted or left out."""

    ref: str
    accepted: bool


@dataclass(frozen=True, slots=True)
class Said:
    """What one kind says on a day: kg, standard error in kg, weight."""

    reading: Reading
    count: int
    max_kg: float
    error_kg: float
    weight: float


@dataclass(frozen=True, slots=True)
class Estimate:
    """What stands on a day: kg, standard error in kg, what each kind says, and the rise carried in kg a day."""

    value_kg: float
    error_kg: float
    said: tuple[Said, ...]
    trend_kg_a_day: float


@dataclass(slots=True)
class Waiting:
    """A rise that waits: the max before it in kg, the limit it passed in per cent (0: its count of repetitions asks), and
    how many later marks of its kind lie below it."""

    reading: Reading
    before_kg: float
    limit_pct: float
    spoken_against: int = 0


class Sweep:
    """Marks in order of days, up to the one it has gone to. Where bodyweight is lifted, its masses are with `body_kg` on top."""

    def __init__(
        self,
        marks: Sequence[Mark],
        first: date,
        day: date,
        rules: Rules,
        decisions: Sequence[Decision],
        training_age_years: float | None,
        pauses: Sequence[tuple[date, date]],
        body_kg: float = 0.0,
    ) -> None:
        cut = first - timedelta(days=int(rules["max.oldest_days"]) + LEAD_IN_DAYS)  # older marks speak only when alone
        marks = [m for m in marks if m.day >= cut] or marks
        self.rules, self.pauses, self.body_kg = rules, pauses, body_kg
        self.novice = is_novice(training_age_years, rules)
        self.relation: Relation = own_relation_of(marks, day, rules, body_kg) or rules.equation
        self.accepted = {d.ref for d in decisions if d.accepted}
        refused = {d.ref for d in decisions if not d.accepted}
        self.count = None if self.novice else own_count(marks, self.relation, rules, body_kg)
        short_by = self.count.short_by if self.count is not None else 0.0
        read = Reader(self.relation, rules, novice=self.novice, body_kg=body_kg, count_is_short_by=short_by).read
        readings = [r for mark in marks if mark.day <= day and mark.ref not in refused and (r := read(mark)) is not None]
        readings.sort(key=lambda r: (r.mark.day, _ORDER[r.mark.kind], r.max_kg))
        self.by_day = [(mark_day, list(found)) for mark_day, found in groupby(readings, key=lambda r: r.mark.day)]
        self.pools: dict[MarkKind, Pool] = {}
        self.rise = Rise()
        self.bound: Reading | None = None
        self.aside: list[Reading] = []
        self.best_kg = 0.0
        self.waiting: list[Waiting] = []
        self.last_day: date | None = None  # of the last evidence that counted
        self.held = 1.0  # over what the evidence says, because the max falls by no more than a little a session
        self._at = 0

    def go_to(self, day: date) -> None:
        """Take in every mark up to `day`."""
        while self._at < len(self.by_day) and self.by_day[self._at][0] <= day:
            self._take(*self.by_day[self._at])
            self._at += 1

    def _take(self, day: date, readings: list[Reading]) -> None:
        before = self.estimate(day)
        best: dict[MarkKind, Reading] = {}
        for r in readings:  # the best of each kind comes last in its kind and remains
            if self._counts(r, before, day):
                best[r.mark.kind] = r
        if not best:
            return
        tested = best.get(MarkKind.ONE_RM)
        for kind, r in best.items():
            self.best_kg = max(self.best_kg, r.max_kg)
            if r.is_bound:
                self.bound = r if self.bound is None or r.max_kg >= self.bound.max_kg else self.bound
            elif tested is None or r is tested:
                self._pool(kind).add(r)
                self.rise.add(r)
        if tested is not None:
            self._stand_by(tested)
        self.last_day = day
        self._hold_the_fall(before, day, tested is not None or any(r.mark.ref in self.accepted for r in best.values()))
        for w in self.waiting:
            same = best.get(w.reading.mark.kind)
            w.spoken_against += same is not None and same.max_kg < w.reading.max_kg
        still = [w for w in self.waiting if w.spoken_against < ENOUGH_AGAINST]
        stands_kg = self._value(day) if still else 0.0
        self.waiting = [w for w in still if w.reading.max_kg > stands_kg]

    def _pool(self, kind: MarkKind) -> Pool:
        return self.pools.setdefault(kind, Pool())

    def _stand_by(self, tested: Reading) -> None:
        """A test says where the max stands: what came before it is silent."""
        for kind, pool in self.pools.items():
            if kind is not MarkKind.ONE_RM or pool.count > 1:
                pool.begin_anew()
        if self._pool(MarkKind.ONE_RM).newest is None:
            self._pool(MarkKind.ONE_RM).add(tested)
        self.aside, self.bound = [], self.bound if self.bound is not None and self.bound.mark.day >= tested.mark.day else None

    def _value(self, day: date) -> float:
        now = self.estimate(day)
        return now.value_kg if now is not None else 0.0

    def _hold_the_fall(self, before: Estimate | None, day: date, is_sure: bool) -> None:
        self.held = 1.0
        now = self.estimate(day)
        if before is None or now is None or is_sure:
            return
        least = before.value_kg * (1 - self.rules["max.fall_pct"] / 100)
        if now.value_kg < least:
            self.held = least / now.value_kg

    def _counts(self, r: Reading, before: Estimate | None, day: date) -> bool:
        """Whether a reading counts; one that waits or contradicts is kept aside."""
        if before is None or r.mark.ref in self.accepted:
            if before is not None:
                self._give_way(r, before)
            return True
        if not r.is_bound and all(s.reading.is_bound for s in before.said):
            return True  # what is known only to be no less is no measure of a leap
        if not self._heavy_enough(r, before):
            return False
        if (r.is_bound or r.is_rough) and r.max_kg <= before.value_kg:
            return False
        limit_pct = self._limit_pct(day)
        over = r.max_kg / before.value_kg - 1
        known = sum(s.count for s in before.said) >= WELL_KNOWN
        noise = r.error_pct / 100 if known and r.mark.kind is not MarkKind.ONE_RM else 0.0
        if r.is_rough or over > limit_pct / 100 + noise:
            self.waiting.append(Waiting(r, before.value_kg, 0.0 if r.is_rough else limit_pct))
            return False
        return not self._contradicts_the_test(r, before, day)

    def _heavy_enough(self, r: Reading, before: Estimate) -> bool:
        """Whether a set with reserve says enough: judged by the max expected before it, so that progress is not hidden."""
        light = r.mark.load_kg + self.body_kg < self.rules["max.least_share_pct"] / 100 * before.value_kg
        return not (light and r.mark.kind is MarkKind.SET_RIR)

    def _limit_pct(self, day: date) -> float:
        """How far over the max evidence may lie by itself and still count, by the time since the last that counted."""
        keys = (
            ("max.rise_novice_pct", "max.rise_novice_ten_pct")
            if self.novice
            else ("max.rise_guard_pct", "max.rise_guard_ten_pct")
        )
        low, high = self.rules[keys[0]], self.rules[keys[1]]
        weeks = (day - self.last_day).days / 7 if self.last_day is not None else GUARD_WEEKS[1]
        share = (min(max(weeks, GUARD_WEEKS[0]), GUARD_WEEKS[1]) - GUARD_WEEKS[0]) / (GUARD_WEEKS[1] - GUARD_WEEKS[0])
        return low + (high - low) * share

    def _contradicts_the_test(self, r: Reading, before: Estimate, day: date) -> bool:
        """Whether a lesser mark disagrees with the test that stands by more than both errors, and no second agrees with it."""
        test = self._standing_test(day)
        if test is None or r.mark.kind is MarkKind.ONE_RM or r.is_bound:
            return False
        aged_pct = test.error_pct + self.rules["max.ageing_pct_per_week"] * (day - test.mark.day).days / 7
        if abs(r.max_kg - before.value_kg) <= (r.error_pct + aged_pct) / 100 * before.value_kg:
            return False
        second = next((other for other in self.aside if _agree(other, r, before.value_kg)), None)
        if second is None:
            self.aside.append(r)
            return True
        self.pools.pop(MarkKind.ONE_RM)
        self._pool(second.mark.kind).add(second)
        self.aside = []
        return False

    def _give_way(self, r: Reading, before: Estimate) -> None:
        """What the coach accepted ends what it contradicts."""
        far = abs(r.max_kg - before.value_kg) > r.error_pct / 100 * before.value_kg
        for pool in self.pools.values() if far else ():
            pool.begin_anew()
        self.waiting = [w for w in self.waiting if w.reading.mark.ref != r.mark.ref]

    def _standing_test(self, day: date) -> Reading | None:
        pool = self.pools.get(MarkKind.ONE_RM)
        test = pool.newest if pool is not None else None
        return test if test is not None and (day - test.mark.day).days <= self.rules["max.oldest_days"] else None

    def estimate(self, day: date) -> Estimate | None:
        """What stands on a day after the marks taken in, or None before any."""
        pools = [p for p in self.pools.values() if p.newest is not None]
        oldest_days = self.rules["max.oldest_days"]
        recent = [p for p in pools if p.newest is not None and (day - p.newest.mark.day).days <= oldest_days] or pools
        if not recent:
            return self._of_the_bound(day, self.bound)
        level = max(p.mean_kg for p in recent)
        trend = self.rise.kg_a_day(self.rules["max.trend_pct"] / 100 * level / 7)
        kinds = tuple(self._said_of(p, day, trend) for p in recent)
        value, error = _middle(kinds)
        bound = self.bound
        if bound is not None and (day - bound.mark.day).days <= oldest_days and bound.max_kg > value:
            kinds = (*kinds, self._said_by(bound, 1, bound.max_kg, bound.error_pct, (day - bound.mark.day).days))
            value, error = _middle(kinds)
        return Estimate(value * self.held, error * self.held, kinds, trend)

    def _of_the_bound(self, day: date, bound: Reading | None) -> Estimate | None:
        if bound is None or bound.mark.kind is not MarkKind.TECHNICAL_MAX:
            return None  # a set of unknown effort alone may be far from the max
        only = self._said_by(bound, 1, bound.max_kg, bound.error_pct, (day - bound.mark.day).days)
        return Estimate(only.max_kg, only.error_kg, (only,), 0.0)

    def _said_of(self, pool: Pool, day: date, trend: float) -> Said:
        assert pool.newest is not None, "a pool without readings says nothing"
        age_days = (day - START).days - pool.mean_day
        carried = pool.mean_kg + trend * self._carried_days(day, age_days)
        most = max(self.best_kg, pool.mean_kg)
        return self._said_by(pool.newest, pool.count, min(carried, most), pool.error_pct, age_days)

    def _said_by(self, reading: Reading, count: int, max_kg: float, error_pct: float, age_days: float) -> Said:
        error_kg = max_kg * (error_pct + self.rules["max.ageing_pct_per_week"] * age_days / 7) / 100
        return Said(reading, count, max_kg, error_kg, error_kg**-2)

    def _carried_days(self, day: date, age_days: float) -> float:
        """Days of training since, four weeks at most: those away, ill or in a taper carry nothing."""
        days = min(age_days, DAYS_A_WEEK * self.rules["max.trend_weeks"])
        since = day - timedelta(days=days)
        for first, last in self.pauses:
            lost = (min(last, day) - max(first, since)).days + 1
            days -= max(0, lost)
        return max(0.0, days)


# within a day: what bounds and lesser kinds say is weighed against the max before, the test last
_ORDER = {kind: place for place, kind in enumerate(reversed(EVIDENCE))}


def own_relation_of(marks: Sequence[Mark], day: date, rules: Rules = DEFAULT_RULES, body_kg: float = 0.0) -> OwnRelation | None:
    """Return the athlete's own relation of repetitions and load on `day`, or None while the marks are too few.

    Where bodyweight is lifted with the load, it is that of both together.
    """
    marks = [replace(m, load_kg=m.load_kg + body_kg) for m in marks] if body_kg else marks
    least, within = int(rules["max.own_relation_marks"]), int(rules["max.own_relation_days"])
    return own_relation(marks, day, least_marks=least, within_days=within, usual=rules.equation)


def _middle(kinds: Sequence[Said]) -> tuple[float, float]:
    """The weighted mean and its error in kg: wider where the kinds disagree by more than their errors.

    Kinds read from repetitions share the relation that reads them, and all kinds the form of the weeks they are of: what
    they share is not made smaller by there being several.
    """
    total = sum(s.weight for s in kinds)
    value = sum(s.weight * s.max_kg for s in kinds) / total
    if len(kinds) == 1:
        return value, kinds[0].error_kg
    spread = sum(s.weight * (s.max_kg - value) ** 2 for s in kinds) / (len(kinds) - 1)
    by_reps = sum(s.weight for s in kinds if s.reading.mark.kind not in SINGLES) / total
    shared = (by_reps * SHARED_BY_REPS_PCT) ** 2 + SHARED_PCT**2
    return value, (max(1.0, spread) / total + shared * (value / 100) ** 2) ** 0.5


def _agree(one: Reading, other: Reading, before_kg: float) -> bool:
    """Whether two readings, of different days or kinds, lie on the same side of the max and apart by less than both errors."""
    if (one.mark.day, one.mark.kind) == (other.mark.day, other.mark.kind):
        return False
    apart_pct = 100 * abs(one.max_kg - other.max_kg) / other.max_kg
    return apart_pct <= one.error_pct + other.error_pct and (one.max_kg > before_kg) == (other.max_kg > before_kg)

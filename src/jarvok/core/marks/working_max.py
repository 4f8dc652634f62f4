"""The current 1RM of an exercise on a day, derived from marks, with its uncertainty and its working.

The newest mark of each kind speaks; each is weighted by how far off its kind usually is and how old it is. The
kinds keep the usual order of trust (a fresh tested 1RM first, then velocity, rep-max, sets with reps in reserve), but
no single kind silences the others, and no load jumps on the day a test turns six weeks old.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from itertools import groupby

from jarvok.core.equations import MOST_REPS, ROUGH_FROM_REPS, spread_kg
from jarvok.core.experience import is_novice
from jarvok.core.marks.mark import EVIDENCE, KIND_NAMES, Mark, MarkKind
from jarvok.core.marks.relation import Relation, own_relation
from jarvok.core.quantities.mass import format_kg
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.working import Input, Source, Working

LEAD_IN_DAYS = 28  # [J] so that the guard has something to stand on
NAMES_THE_YEAR_DAYS = 300  # [T]
GUARD_DAYS = 7  # [C] the guard is a pace per week
SINGLES = (MarkKind.ONE_RM, MarkKind.TECHNICAL_MAX, MarkKind.VELOCITY_MAX)  # marks that are a max themselves

SOURCE = Source("J", "weighted by kind and age; the order of trust is common practice")


@dataclass(frozen=True)
class Evidence:
    """What one mark says: a max in kg, its error in kg on the day asked about, and its share of the weight (0-1)."""

    mark: Mark
    max_kg: float
    error_kg: float
    weight: float
    words: str


@dataclass(frozen=True)
class Decision:
    """What the coach said of a proposed rise: from the marks of `day`, accepted or left out."""

    day: date
    accepted: bool


@dataclass(frozen=True)
class Proposal:
    """A rise beyond the guard, waiting for the coach: from, to (kg), since the marks of which day."""

    from_kg: float
    to_kg: float
    day: date


@dataclass(frozen=True)
class CurrentMax:
    """The max to plan from: value and one standard error in kg, the evidence, a waiting proposal, the working."""

    value_kg: float
    error_kg: float
    evidence: tuple[Evidence, ...]
    proposal: Proposal | None
    working: Working


@dataclass(frozen=True)
class TrendPoint:
    """The max that stood on a day, with one standard error, in kg."""

    day: date
    value_kg: float
    error_kg: float


@dataclass(frozen=True, slots=True)
class _Reading:
    mark: Mark
    max_kg: float
    error_pct: float


_Newest = dict[MarkKind, _Reading]
_Weighed = list[tuple[_Reading, float, float]]  # reading, error in kg, weight


def max_from_mark(mark: Mark, rules: Rules = DEFAULT_RULES, relation: Relation | None = None) -> float | None:
    """Return the 1RM in kg one mark implies by itself, or None when it says too little to count."""
    return maxes_from_marks((mark,), rules, relation)[0]


def maxes_from_marks(marks: Iterable[Mark], rules: Rules = DEFAULT_RULES, relation: Relation | None = None) -> list[float | None]:
    """Return `max_from_mark` of each of `marks`."""
    read = _Reader(relation or rules.equation, rules, novice=False).read
    least_share = rules["max.least_share_pct"] / 100
    found: list[float | None] = []
    for mark in marks:
        reading = read(mark)
        too_light = reading and mark.kind is MarkKind.SET_RIR and mark.load_kg < least_share * reading.max_kg
        found.append(None if reading is None or too_light else reading.max_kg)
    return found


class _Reader:
    """What single marks imply, by one relation and one set of rules."""

    def __init__(self, relation: Relation, rules: Rules, novice: bool) -> None:
        self.relation = relation
        self.errors_pct = {kind: rules[f"error.{kind}"] for kind in EVIDENCE}
        self.rough_pct = rules["error.rough"]
        self.highest_rir = -1.0 if novice else rules["max.highest_rir"]

    def read(self, mark: Mark) -> _Reading | None:
        error_pct = self.errors_pct.get(mark.kind)
        if error_pct is None:
            return None
        if mark.kind in SINGLES:
            return _Reading(mark, mark.load_kg, max(error_pct, mark.error_pct or 0.0))
        to_failure = mark.reps + mark.rir
        if not 1 <= to_failure <= MOST_REPS or (mark.kind is MarkKind.SET_RIR and mark.rir > self.highest_rir):
            return None
        return _Reading(
            mark,
            self.relation.one_rm_kg(mark.load_kg, to_failure),
            self.rough_pct if to_failure >= ROUGH_FROM_REPS else error_pct,
        )


def _words(mark: Mark, day: date) -> str:
    when = f"{mark.day:%-d %b}" if (day - mark.day).days < NAMES_THE_YEAR_DAYS else f"{mark.day:%-d %b %Y}"
    name, load = KIND_NAMES[mark.kind], format_kg(mark.load_kg)
    if mark.kind in SINGLES:
        return f"{name} {load} kg, {when}"
    if mark.kind is MarkKind.SET_RIR:
        return f"{load} × {mark.reps} with {mark.rir:g} in reserve, {when}"
    return f"{load} × {mark.reps} ({name}), {when}"


class _Sweep:
    """Marks in order of days: the newest reading of each kind that stands, and a rise that waits.

    Each day is looked at once, so that thousands of marks cost no more than sorting them.
    """

    def __init__(
        self,
        marks: Sequence[Mark],
        first: date,
        day: date,
        rules: Rules,
        decisions: Sequence[Decision],
        training_age_years: float | None,
    ) -> None:
        cut = first - timedelta(days=int(rules["max.oldest_days"]) + LEAD_IN_DAYS)  # older marks speak only when alone
        marks = [m for m in marks if m.day >= cut] or marks
        self.rules = rules
        self.novice = is_novice(training_age_years, rules)
        self.relation: Relation = own_relation_of(marks, day, rules) or rules.equation
        self.accepted = {d.day for d in decisions if d.accepted}
        refused = {d.day for d in decisions if not d.accepted}
        read = _Reader(self.relation, rules, self.novice).read
        readings = [
            reading for mark in marks if mark.day <= day and mark.day not in refused and (reading := read(mark)) is not None
        ]
        readings.sort(key=lambda r: (r.mark.day, r.max_kg))  # a day's best of each kind comes last and remains
        self.by_day = [(mark_day, list(found)) for mark_day, found in groupby(readings, key=lambda r: r.mark.day)]
        self.newest: _Newest = {}
        self.proposal: Proposal | None = None
        self._at = 0
        self._days: list[date] = []
        self._values: list[float] = []

    def go_to(self, day: date) -> None:
        """Take in every mark up to `day`."""
        while self._at < len(self.by_day) and self.by_day[self._at][0] <= day:
            self._take(*self.by_day[self._at])
            self._at += 1

    def _heavy_enough(self, reading: _Reading, mark_day: date) -> bool:
        """Whether a set with reserve says enough: judged by the max expected before it, so that progress is not hidden."""
        if reading.mark.kind is not MarkKind.SET_RIR:
            return True
        expected_kg = _middle(_weigh(self.newest, mark_day, self.rules))[0] if self.newest else reading.max_kg
        return reading.mark.load_kg >= self.rules["max.least_share_pct"] / 100 * expected_kg

    def _take(self, mark_day: date, readings: list[_Reading]) -> None:
        readings = [r for r in readings if self._heavy_enough(r, mark_day)]
        if not readings:
            return
        with_these = {**self.newest, **{r.mark.kind: r for r in readings}}
        value = _middle(_weigh(with_these, mark_day, self.rules))[0]
        before = max(0, bisect_right(self._days, mark_day - timedelta(days=GUARD_DAYS)) - 1)
        if self._days and mark_day not in self.accepted:
            weeks = max(1.0, (mark_day - self._days[before]).days / 7)  # the guard is a pace: 5 % for each week since
            if value > self._values[before] * (1 + self.rules["max.rise_guard_pct"] / 100 * weeks):
                self.proposal = Proposal(from_kg=self._values[before], to_kg=value, day=mark_day)
                return
        self.newest, self.proposal = with_these, None
        self._days.append(mark_day)
        self._values.append(value)


def current_max(
    marks: Iterable[Mark],
    day: date,
    *,
    rules: Rules = DEFAULT_RULES,
    decisions: Sequence[Decision] = (),
    training_age_years: float | None = None,
) -> CurrentMax | None:
    """Return the max to plan from on `day`, or None without usable marks up to that day.

    Repetitions are read by the athlete's own relation where there are enough rep-maxes, else by the chosen equation.
    A rise beyond the guard over what stood a week before is held back as a proposal until the coach accepts it; a
    refused rise leaves the marks of its day out. Falls are applied at once.
    """
    sweep = _Sweep(list(marks), day, day, rules, decisions, training_age_years)
    sweep.go_to(day)
    if not sweep.newest:
        return None
    weighed = _weigh(sweep.newest, day, rules)
    value_kg, error_kg, total = _middle(weighed)
    evidence = tuple(
        Evidence(r.mark, r.max_kg, e, w / total, _words(r.mark, day)) for r, e, w in sorted(weighed, key=lambda x: -x[2])
    )
    working = _working(value_kg, error_kg, evidence, sweep.relation, sweep.proposal, sweep.novice, rules)
    return CurrentMax(value_kg, error_kg, evidence, sweep.proposal, working)


def max_trend(
    marks: Iterable[Mark],
    days: Sequence[date],
    *,
    rules: Rules = DEFAULT_RULES,
    decisions: Sequence[Decision] = (),
    training_age_years: float | None = None,
) -> tuple[TrendPoint, ...]:
    """Return the max that stood on each of `days` (rising) with the marks up to then; days before any mark are left out.

    Repetitions are read by the relation in use on the last day throughout.
    """
    if not days:
        return ()
    sweep = _Sweep(list(marks), days[0], days[-1], rules, decisions, training_age_years)
    found: list[TrendPoint] = []
    for day in days:
        sweep.go_to(day)
        if sweep.newest:
            value_kg, error_kg, _ = _middle(_weigh(sweep.newest, day, rules))
            found.append(TrendPoint(day, value_kg, error_kg))
    return tuple(found)


def own_relation_of(marks: Sequence[Mark], day: date, rules: Rules = DEFAULT_RULES) -> Relation | None:
    """Return the athlete's own relation of repetitions and load on `day`, or None while the marks are too few."""
    least, within = int(rules["max.own_relation_marks"]), int(rules["max.own_relation_days"])
    return own_relation(marks, day, least_marks=least, within_days=within)


def _weigh(newest: _Newest, day: date, rules: Rules) -> _Weighed:
    oldest_days, ageing_pct = rules["max.oldest_days"], rules["max.ageing_pct_per_week"]
    everyone: _Weighed = []
    recent: _Weighed = []
    for reading in newest.values():
        age_days = (day - reading.mark.day).days
        error_kg = reading.max_kg * (reading.error_pct + ageing_pct * age_days / 7) / 100
        item = (reading, error_kg, error_kg**-2)
        everyone.append(item)
        if age_days <= oldest_days:
            recent.append(item)
    return recent or everyone


def _middle(weighed: _Weighed) -> tuple[float, float, float]:
    """The weighted mean and its error in kg, and the sum of the weights."""
    total = moment = 0.0
    for reading, _, weight in weighed:
        total += weight
        moment += weight * reading.max_kg
    value = moment / total
    scatter = 0.0
    for reading, _, weight in weighed:
        scatter += weight * (reading.max_kg - value) ** 2
    spread = scatter / total / (len(weighed) - 1) if len(weighed) > 1 else 0.0
    return value, (1 / total + spread) ** 0.5, total


def _said(evidence: Evidence) -> str:
    """The mark in words, and the max it implies unless that is the mark itself."""
    if evidence.mark.kind in SINGLES:
        return evidence.words
    return f"{evidence.words} → {evidence.max_kg:.1f} kg"


def _working(
    value_kg: float,
    error_kg: float,
    evidence: tuple[Evidence, ...],
    relation: Relation,
    proposal: Proposal | None,
    novice: bool,
    rules: Rules,
) -> Working:
    inputs = tuple(Input(f"{100 * e.weight:.0f} % of the weight", _said(e), e.mark.ref) for e in evidence)
    others: tuple[Input, ...] = ()
    by_reps = next((e for e in evidence if e.mark.kind in (MarkKind.REP_MAX, MarkKind.AMRAP, MarkKind.SET_RIR)), None)
    if by_reps is not None and by_reps.mark.reps + by_reps.mark.rir > 1:
        low, high = spread_kg(by_reps.mark.load_kg, by_reps.mark.reps + by_reps.mark.rir)
        others = (Input("other equations", f"{low:.1f} to {high:.1f} kg from the set {by_reps.words}"),)
    caution = "An estimate to support judgement."
    if proposal is not None:
        caution = (
            f"A rise to {proposal.to_kg:.1f} kg waits for you: over {rules['max.rise_guard_pct']:g} % in a week is "
            "a jump in form, a held-back test or a typing error."
        )
    return Working(
        result=f"{value_kg:.1f} kg ± {error_kg:.1f}",
        rule=f"newest mark of each kind, weighted by its usual error and age; reps by {relation.name}",
        source=SOURCE,
        inputs=inputs,
        rounding="not rounded; shown to 0.1 kg",
        others=others,
        missing=("reps in reserve are recorded but move nothing in the first year of lifting",) if novice else (),
        caution=caution,
    )

"""The current 1RM of an exercise on a day, derived from marks, with its uncertainty and its working.

The newest mark of each kind speaks; each is weighted by how far off its kind usually is and how old it is. The
kinds keep the usual order of trust (a fresh tested 1RM first, then velocity, rep-max, sets with reps in reserve), but
no single kind silences the others, and no load jumps on the day a test turns six weeks old.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from jarvok.core.marks.equations import ROUGH_FROM_REPS, spread_kg
from jarvok.core.marks.mark import EVIDENCE, KIND_NAMES, Mark, MarkKind
from jarvok.core.marks.relation import Relation, own_relation
from jarvok.core.quantities.mass import format_kg
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.working import Input, Source, Working

GUARD_DAYS = 7  # the guard is a pace per week

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
class _Reading:
    mark: Mark
    max_kg: float
    error_pct: float
    words: str


def max_from_mark(mark: Mark, rules: Rules = DEFAULT_RULES, relation: Relation | None = None) -> float | None:
    """Return the 1RM in kg one mark implies, or None when it says too little to count."""
    reading = _read(mark, mark.day, relation or rules.equation, rules, novice=False)
    return reading.max_kg if reading else None


def _read(mark: Mark, day: date, relation: Relation, rules: Rules, novice: bool) -> _Reading | None:
    if mark.kind not in EVIDENCE:
        return None
    name, load = KIND_NAMES[mark.kind], format_kg(mark.load_kg)
    when = f"{mark.day:%-d %b}" if (day - mark.day).days < 300 else f"{mark.day:%-d %b %Y}"
    if mark.kind in (MarkKind.ONE_RM, MarkKind.TECHNICAL_MAX, MarkKind.VELOCITY_MAX):
        error_pct = max(rules[f"error.{mark.kind}"], mark.error_pct or 0.0)
        return _Reading(mark, mark.load_kg, error_pct, f"{name} {load} kg, {when}")
    to_failure = mark.reps + mark.rir
    if not 1 <= to_failure <= 15:
        return None
    max_kg = relation.one_rm_kg(mark.load_kg, to_failure)
    error_pct = rules["error.rough"] if to_failure >= ROUGH_FROM_REPS else rules[f"error.{mark.kind}"]
    if mark.kind is MarkKind.SET_RIR:
        if novice or mark.rir > rules["max.highest_rir"] or mark.load_kg < rules["max.least_share_pct"] / 100 * max_kg:
            return None
        words = f"{load} × {mark.reps} with {mark.rir:g} in reserve, {when}"
    else:
        words = f"{load} × {mark.reps} ({name}), {when}"
    return _Reading(mark, max_kg, error_pct, words)


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
    marks = list(marks)
    novice = training_age_years is not None and training_age_years < rules["max.novice_years"]
    relation: Relation = own_relation_of(marks, day, rules) or rules.equation
    refused = {d.day for d in decisions if not d.accepted}
    accepted = {d.day for d in decisions if d.accepted}
    readings = [
        reading
        for mark in marks
        if mark.day <= day and mark.day not in refused and (reading := _read(mark, day, relation, rules, novice)) is not None
    ]
    if not readings:
        return None
    readings.sort(key=lambda r: (r.mark.day, r.max_kg))
    held: set[date] = set()
    proposal: Proposal | None = None
    standing: list[tuple[date, float]] = []
    for mark_day in sorted({r.mark.day for r in readings}):
        value = _combine([r for r in readings if r.mark.day not in held], mark_day, rules)[0]
        before = [item for item in standing if item[0] <= mark_day - timedelta(days=GUARD_DAYS)] or standing[:1]
        if before and mark_day not in accepted:
            base_day, base_kg = before[-1]
            weeks = max(1.0, (mark_day - base_day).days / 7)  # the guard is a pace: 5 % for each week since
            if value > base_kg * (1 + rules["max.rise_guard_pct"] / 100 * weeks):
                held.add(mark_day)
                proposal = Proposal(from_kg=base_kg, to_kg=value, day=mark_day)
                continue
        proposal = None
        standing.append((mark_day, value))
    used = [r for r in readings if r.mark.day not in held]
    value_kg, error_kg, evidence = _combine(used, day, rules)
    working = _working(value_kg, error_kg, evidence, relation, proposal, novice, rules)
    return CurrentMax(value_kg, error_kg, evidence, proposal, working)


def own_relation_of(marks: Sequence[Mark], day: date, rules: Rules = DEFAULT_RULES) -> Relation | None:
    """Return the athlete's own relation of repetitions and load on `day`, or None while the marks are too few."""
    least, within = int(rules["max.own_relation_marks"]), int(rules["max.own_relation_days"])
    return own_relation(marks, day, least_marks=least, within_days=within)


def _combine(readings: list[_Reading], day: date, rules: Rules) -> tuple[float, float, tuple[Evidence, ...]]:
    newest: dict[MarkKind, _Reading] = {}
    for reading in readings:  # rising by day and max: the newest day's best of each kind remains
        if reading.mark.day <= day:
            newest[reading.mark.kind] = reading
    recent = [r for r in newest.values() if (day - r.mark.day).days <= rules["max.oldest_days"]] or list(newest.values())
    weighed: list[tuple[_Reading, float, float]] = []
    for reading in recent:
        weeks = (day - reading.mark.day).days / 7
        error_kg = reading.max_kg * (reading.error_pct + rules["max.ageing_pct_per_week"] * weeks) / 100
        weighed.append((reading, error_kg, error_kg**-2))
    total = sum(w for _, _, w in weighed)
    value = sum(r.max_kg * w for r, _, w in weighed) / total
    scatter = sum(w * (r.max_kg - value) ** 2 for r, _, w in weighed) / total
    error = (1 / total + scatter / max(1, len(weighed) - 1) * (len(weighed) > 1)) ** 0.5
    evidence = tuple(Evidence(r.mark, r.max_kg, e, w / total, r.words) for r, e, w in sorted(weighed, key=lambda x: -x[2]))
    return value, error, evidence


def _said(evidence: Evidence) -> str:
    """The mark in words, and the max it implies unless that is the mark itself."""
    if evidence.mark.kind in (MarkKind.ONE_RM, MarkKind.TECHNICAL_MAX, MarkKind.VELOCITY_MAX):
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

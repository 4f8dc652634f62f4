"""The current 1RM of an exercise on a day, derived from marks, with its uncertainty and its working.

Marks of one kind speak together, newer ones more (`marks.pool`), and the kinds by how far off each usually is. A tested
1RM stands: it silences what came before it, and a lesser mark that contradicts it waits for a second that agrees. What
says only "no less" raises the max or does nothing. A leap beyond the guard waits for the coach.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date

from jarvok.core.equations import spread_kg
from jarvok.core.marks.mark import Mark, MarkKind
from jarvok.core.marks.readings import SINGLES, said, words_of
from jarvok.core.marks.sweep import DAYS_A_WEEK, Decision, Estimate, Said, Sweep
from jarvok.core.quantities.mass import in_unit, said_mass, to_a_tenth
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.working import Input, Source, Working

BEGINNER = (
    "in the first year of lifting reps in reserve say nothing of the max until they are checked by sets to failure; "
    "they may lower the next load, or raise it by one step"
)
ASKED_DAYS = 42  # [J] marks of the weeks since have spoken by then
NO_PAUSES: tuple[tuple[date, date], ...] = ()

SOURCE = Source("J", "weighted by kind and age; the order of trust is common practice")


@dataclass(frozen=True)
class Evidence:
    """What the marks of one kind say together: the newest, a max in kg, its error in kg on the day asked about, and its
    share of the weight (0-1)."""

    mark: Mark
    max_kg: float
    error_kg: float
    weight: float
    words: str


@dataclass(frozen=True)
class Proposal:
    """A rise that waits for the coach: from and to (kg), the evidence behind it with what it says by itself (kg)."""

    from_kg: float
    to_kg: float
    mark: Mark
    says_kg: float
    limit_pct: float  # 0 where it is the count of repetitions that asks

    @property
    def day(self) -> date:
        """The day of the evidence."""
        return self.mark.day


def why_it_rises(proposal: Proposal, unit: str = "kg") -> tuple[str, str, str]:
    """Return the three things a rise beyond the guard may be, and what to do with each, in a room of `kg` or `lb`."""
    stood = said_mass(proposal.from_kg, unit, whole=True)
    return (
        "Fast progress: accept it.",
        f"The {stood} so far was too low: held back, or written down with care: accept it.",
        "A typing error, or technique that broke unseen: refuse it.",
    )


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


def current_max(
    marks: Iterable[Mark],
    day: date,
    *,
    rules: Rules = DEFAULT_RULES,
    decisions: Sequence[Decision] = (),
    training_age_years: float | None = None,
    pauses: Sequence[tuple[date, date]] = NO_PAUSES,
    beside: Sequence[Input] = (),
    unit: str = "kg",
    body_kg: float = 0.0,
) -> CurrentMax | None:
    """Return the max to plan from on `day`, or None without usable marks up to that day.

    Repetitions are read by the athlete's own relation where there are enough rep-maxes, else by the chosen equation.
    Evidence that lies beyond the guard over the max before it, and any of eleven repetitions or more, is held back as a
    proposal until the coach accepts it; what is refused is left out. The max falls by `max.fall_pct` a session at most,
    but for a test. `pauses` are first and last days away, ill or in a taper: marks are not carried forward over them. `beside`
    is what the working says of marks that were left out before; `unit` that in which it says masses.
    Where bodyweight is lifted with the load, `body_kg` is that: repetitions hang on both together, the max is what is added,
    and there is none where bodyweight alone is all that is lifted.
    """
    marks = list(marks)
    sweep = Sweep(marks, day, day, rules, decisions, training_age_years, pauses, body_kg)
    sweep.go_to(day)
    now = sweep.estimate(day)
    if now is None or now.value_kg <= body_kg:
        return None
    total = sum(s.weight for s in now.said)
    evidence = tuple(
        Evidence(s.reading.mark, s.max_kg - body_kg, s.error_kg, s.weight / total, _words(s, day, unit))
        for s in sorted(now.said, key=lambda s: -s.weight)
    )
    proposal = _proposal(sweep, day)
    if proposal is not None:
        taken = [*decisions, Decision(proposal.mark.ref, accepted=True)]
        then = Sweep(marks, day, day, rules, taken, training_age_years, pauses, body_kg)
        then.go_to(day)
        after = then.estimate(day)
        proposal = replace(proposal, to_kg=after.value_kg - body_kg if after is not None else proposal.says_kg)
    now = replace(now, value_kg=now.value_kg - body_kg)
    return CurrentMax(now.value_kg, now.error_kg, evidence, proposal, _working(now, evidence, sweep, proposal, day, beside, unit))


def max_trend(
    marks: Iterable[Mark],
    days: Sequence[date],
    *,
    rules: Rules = DEFAULT_RULES,
    decisions: Sequence[Decision] = (),
    training_age_years: float | None = None,
    pauses: Sequence[tuple[date, date]] = NO_PAUSES,
    body_kg: float = 0.0,
) -> tuple[TrendPoint, ...]:
    """Return the max that stood on each of `days` (rising) with the marks up to then; days before any mark are left out.

    Repetitions are read by the relation in use on the last day throughout.
    """
    if not days:
        return ()
    sweep = Sweep(list(marks), days[0], days[-1], rules, decisions, training_age_years, pauses, body_kg)
    found: list[TrendPoint] = []
    for day in days:
        sweep.go_to(day)
        now = sweep.estimate(day)
        if now is not None and now.value_kg > body_kg:
            found.append(TrendPoint(day, now.value_kg - body_kg, now.error_kg))
    return tuple(found)


def _proposal(sweep: Sweep, day: date) -> Proposal | None:
    """The newest rise that waits; one that nobody has answered for weeks is asked no more."""
    waiting = [w for w in sweep.waiting if (day - w.reading.mark.day).days <= ASKED_DAYS]
    if not waiting:
        return None
    newest = max(waiting, key=lambda w: (w.reading.mark.day, w.reading.max_kg))
    before_kg, says_kg = (kg - sweep.body_kg for kg in (newest.before_kg, newest.reading.max_kg))
    return Proposal(before_kg, says_kg, newest.reading.mark, says_kg, newest.limit_pct)


def _words(s: Said, day: date, unit: str) -> str:
    more = s.count - 1
    return words_of(s.reading.mark, day, unit) + (f", and {more} before it" if more else "")


def _working(
    now: Estimate,
    evidence: tuple[Evidence, ...],
    sweep: Sweep,
    proposal: Proposal | None,
    day: date,
    beside: Sequence[Input],
    unit: str,
) -> Working:
    inputs = [
        Input(
            f"counts {100 * e.weight:.0f} %",
            e.words
            if e.mark.kind in SINGLES and " before it" not in e.words
            else f"{e.words} → {to_a_tenth(e.max_kg, unit)} {unit}",
            e.mark.ref,
        )
        for e in evidence
    ]
    if now.trend_kg_a_day > 0:
        a_week = now.trend_kg_a_day * DAYS_A_WEEK
        inputs.append(
            Input("carried forward", f"{in_unit(a_week, unit):.2f} {unit} a week, as the results of the last weeks rose")
        )
    if sweep.count is not None and any(e.mark.kind is MarkKind.SET_RIR for e in evidence):
        inputs.append(Input("own count in reserve", sweep.count.words))
    inputs += [
        Input("set aside", f"{said(r.mark, r.max_kg - sweep.body_kg, day, unit)}, until a second agrees", r.mark.ref)
        for r in sweep.aside[-2:]
    ]
    if sweep.held > 1:
        inputs.append(Input("falls slowly", f"{sweep.rules['max.fall_pct']:g} % a session at most"))
    inputs += beside
    others: tuple[Input, ...] = ()
    by_reps = next((e.mark for e in evidence if e.mark.kind not in SINGLES and e.mark.reps + e.mark.rir > 1), None)
    if by_reps is not None:
        spread = spread_kg(by_reps.load_kg + sweep.body_kg, by_reps.reps + by_reps.rir)
        low, high = (to_a_tenth(kg - sweep.body_kg, unit) for kg in spread)
        others = (Input("other equations", f"{low} to {high} {unit} from the set {words_of(by_reps, day, unit)}"),)
    caution = "An estimate to support judgement."
    if proposal is not None:
        why = (
            f"over {proposal.limit_pct:.0f} % above what stood" if proposal.limit_pct else "so many repetitions are a rough guide"
        )
        caution = f"{said(proposal.mark, proposal.says_kg, day, unit)} waits for you: {why}."
    return Working(
        result=f"{to_a_tenth(now.value_kg, unit)} {unit} ± {to_a_tenth(now.error_kg, unit)}",
        rule=f"each kind of result by its usual error and age, newer results more; reps by {sweep.relation.name}"
        + (f", of the load with {said_mass(sweep.body_kg, unit, whole=True)} of bodyweight" if sweep.body_kg else ""),
        source=SOURCE,
        inputs=tuple(inputs),
        rounding=f"not rounded; shown to 0.1 {unit}",
        others=others,
        missing=(BEGINNER,) if sweep.novice else (),
        caution=caution,
    )

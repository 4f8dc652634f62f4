"""What an athlete brings through the door, and the plan it suggests: A as written, B less, C movement. Common practice.

The weights of the score are Jarvok's own choice and stand in the settings; the coach decides.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from enum import StrEnum
from statistics import mean, stdev
from typing import Any

from jarvok.core.errors import CoachError
from jarvok.core.quantities.student import t_quantile
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.working import COMMON_PRACTICE, Input, Working

QUESTIONS = {
    "sleep": ("Sleep", ("hardly any", "short", "fair", "good", "very good")),
    "soreness": ("Soreness", ("very sore", "sore", "a little", "hardly", "none")),
    "stress": ("Stress", ("very high", "high", "middling", "low", "none")),
    "energy": ("Energy", ("empty", "low", "fair", "good", "full")),
}
# share of its weight that an answer costs: the middle is an ordinary day, the low end is not; Jarvok's own choice
COSTS = {5: 0.0, 4: 0.1, 3: 0.3, 2: 0.7, 1: 1.0}
LEAST_JUMP_DAYS = 4  # [J] fewer days do not say what is usual

# what a sore place takes out of a session, by pattern, region or tag of the exercises; common practice
AREAS: dict[str, tuple[str, frozenset[str]]] = {
    "shoulder": ("Shoulder", frozenset({"press", "overhead", "throw", "classic"})),
    "elbow_wrist": ("Elbow or wrist", frozenset({"press", "pull", "throw", "classic"})),
    "neck": ("Neck or upper back", frozenset({"overhead", "press", "classic", "throw", "carry"})),
    "lower_back": ("Lower back", frozenset({"hinge", "squat", "classic", "jump", "throw", "carry"})),
    "hip_groin": ("Hip or groin", frozenset({"squat", "hinge", "single_leg", "run", "jump", "classic"})),
    "hamstring": ("Hamstring", frozenset({"hinge", "run", "jump", "single_leg"})),
    "knee": ("Knee", frozenset({"squat", "single_leg", "jump", "run", "classic", "floor_pull"})),
    "ankle_foot": ("Ankle, calf or foot", frozenset({"jump", "run", "single_leg"})),
    "elsewhere": ("Somewhere else", frozenset()),
    "unwell": ("Unwell or dizzy", frozenset()),
}
# the same as a coach says them
LEFT_OUT_WORDS = {
    "press": "presses", "overhead": "overhead work", "throw": "throws", "classic": "weightlifting", "pull": "upper pulls",
    "carry": "carries", "hinge": "hinges", "squat": "squats", "jump": "jumps", "run": "runs", "single_leg": "single-leg work",
    "floor_pull": "pulls from the floor",
}  # fmt: skip
REFERRAL = "Seen by a licensed professional before it is loaded again. Jarvok does not diagnose."
UNWELL = "No training while unwell or dizzy. A licensed professional looks first."
VERSION = 1  # [T] of kept answers


class Plan(StrEnum):
    """A as written, B the same exercises and less, C movement, mobility and technique."""

    A = "A"
    B = "B"
    C = "C"


PLAN_WORDS = {
    Plan.A: "as written",
    Plan.B: "same exercises, less",
    Plan.C: "technique and mobility only",
}


@dataclass(frozen=True)
class SportSince:
    """What the sport did to them since yesterday: kind in a word, minutes, session RPE 0-10, hours ago."""

    kind: str
    minutes: float
    srpe: float
    hours_ago: float


@dataclass(frozen=True)
class Arrival:
    """Half a minute of answers: 1-5 each, 5 the best, None unasked; `pain` are keys of `AREAS`; jumps in cm.

    `usual_jumps_cm` are the best jumps of earlier days.
    """

    sleep: int | None = None
    soreness: int | None = None
    stress: int | None = None
    energy: int | None = None
    pain: tuple[str, ...] = ()
    sport: tuple[SportSince, ...] = ()
    jumps_cm: tuple[float, ...] = ()
    usual_jumps_cm: tuple[float, ...] = ()
    loaded: tuple[str, ...] = ()  # places that practice has worked today, without hurting: keys of `AREAS`

    @classmethod
    def from_raw(cls, raw: Mapping[str, Any], usual_jumps_cm: tuple[float, ...] = ()) -> Arrival:
        """Return kept answers, beside the best jumps of earlier days; those from before versions say the same."""
        return cls(
            **{name: raw.get(name) for name in QUESTIONS},
            pain=tuple(raw.get("pain") or ()),
            sport=tuple(SportSince(s["kind"], s["minutes"], s["srpe"], s["hours_ago"]) for s in raw.get("sport") or ()),
            jumps_cm=tuple(raw.get("jumps_cm") or ()),
            loaded=tuple(raw.get("loaded") or ()),
            usual_jumps_cm=usual_jumps_cm,
        )

    def to_raw(self) -> dict[str, Any]:
        """Return what was answered as plain data for JSON; earlier days' jumps are facts of their own."""
        return {
            "version": VERSION,
            **{name: getattr(self, name) for name in QUESTIONS},
            "pain": list(self.pain),
            "sport": [asdict(s) for s in self.sport],
            "jumps_cm": list(self.jumps_cm),
            "loaded": list(self.loaded),
        }


@dataclass(frozen=True)
class Suggestion:
    """The plan that fits the answers: points of 100 (None: nothing was said), the reasons with the heaviest first.

    `removed` are the patterns that pain takes out, `spared` those that practice has worked today: less of them. `referral` is
    the line that goes with pain, or nothing.
    """

    plan: Plan
    points: int | None
    reasons: tuple[str, ...]
    removed: frozenset[str]
    referral: str
    working: Working
    spared: frozenset[str] = frozenset()


def checked(arrival: Arrival) -> Arrival:
    """Return the answers when they can be; raise `CoachError` when one cannot."""
    for name in QUESTIONS:
        value = getattr(arrival, name)
        if value is not None and not 1 <= value <= 5:
            raise CoachError(f"{value} is not an answer.", where=name, accepted="1 to 5 are accepted, 5 the best.")
    for where, areas in (("pain", arrival.pain), ("loaded", arrival.loaded)):
        for area in areas:
            if area not in AREAS:
                raise CoachError(f"“{area}” is not known.", where=where, accepted=", ".join(AREAS) + ".")
    for sport in arrival.sport:
        for name, value, high in (("minutes", sport.minutes, 600), ("srpe", sport.srpe, 10), ("hours_ago", sport.hours_ago, 72)):
            if not 0 <= value <= high:
                raise CoachError(f"{value:g} cannot be here.", where=name, accepted=f"0 to {high} are accepted.")
    for jump in arrival.jumps_cm:
        if not 5 <= jump <= 130:
            raise CoachError(f"A jump of {jump:g} cm cannot be.", where="jumps_cm", accepted="5 to 130 cm are accepted.")
    return arrival


def sport_points(sport: Sequence[SportSince], rules: Rules = DEFAULT_RULES) -> float:
    """Return the points that the sport costs: session RPE times minutes, halving with time, up to a most."""
    left_au = sum(s.minutes * s.srpe * float(0.5 ** (s.hours_ago / rules["readiness.half_life_h"])) for s in sport)
    return float(min(rules["readiness.most_sport"], left_au / rules["readiness.au_a_point"]))


def usual_low_cm(usual_cm: Sequence[float]) -> float | None:
    """Return the low end of the athlete's own 95 % range for one more day's best jump in cm; None with too few days."""
    n = len(usual_cm)
    if n < LEAST_JUMP_DAYS:
        return None
    return mean(usual_cm) - t_quantile(0.95, n - 1) * stdev(usual_cm) * float((1 + 1 / n) ** 0.5)


def suggest(arrival: Arrival, rules: Rules = DEFAULT_RULES) -> Suggestion:
    """Return the plan that the answers suggest, with the reasons in words and the arithmetic in the working."""
    lost: list[tuple[float, str]] = []
    inputs: list[Input] = []
    answers = {n: v for n in QUESTIONS if (v := getattr(arrival, n)) is not None and rules[f"readiness.{n}"] > 0}
    whole = sum(rules[f"readiness.{n}"] for n in answers)
    base = 100.0
    for name, value in answers.items():
        weight = rules[f"readiness.{name}"]
        costs = 100 * weight / whole * COSTS[value]
        base -= costs
        title, words = QUESTIONS[name]
        inputs.append(Input(title.lower(), f"{value} of 5, weight {weight:g}: −{costs:.0f}"))
        if value <= 2:
            lost.append((costs, f"{title.lower()} {value} of 5 ({words[value - 1]})"))
    sport = sport_points(arrival.sport, rules)
    for s in arrival.sport:
        inputs.append(Input(s.kind, f"{s.minutes:g} min × {s.srpe:g}, {s.hours_ago:g} h ago"))
        if sport >= 5:
            lost.append((sport / len(arrival.sport), f"{s.kind} {s.hours_ago:g} h ago, {s.minutes:g} min, RPE {s.srpe:g}"))
    if arrival.sport:
        inputs.append(Input("the sport", f"−{sport:.0f}"))
    jump = _jump_points(arrival, rules, lost, inputs)
    said = bool(answers or arrival.sport or inputs)
    points = max(0, round(base - sport - jump)) if said else None
    plan = _plan(points, answers, rules)
    removed = frozenset().union(*(AREAS[a][1] for a in arrival.pain))
    spared = frozenset().union(*(AREAS[a][1] for a in arrival.loaded)) - removed
    referral = UNWELL if "unwell" in arrival.pain else REFERRAL if arrival.pain else ""
    if "unwell" in arrival.pain:
        plan = Plan.C
    elif arrival.pain and plan is Plan.A:
        plan = Plan.B  # what loads the place is left out, and of the rest there is less until somebody has looked
    reasons = [AREAS[a][0].lower() if a == "unwell" else f"pain: {AREAS[a][0].lower()}" for a in arrival.pain]
    reasons += [f"worked by practice today: {AREAS[a][0].lower()}" for a in arrival.loaded]
    reasons += [words for _, words in sorted(lost, key=lambda x: -x[0])]
    if not reasons and said:
        reasons = ["nothing against it" if plan is Plan.A else "a little low in everything"]
    limits = f"A from {rules['readiness.plan_a']:g}, B from {rules['readiness.plan_b']:g}"
    working = Working(
        f"plan {plan}" + (f", {points} of 100" if points is not None else ""),
        f"100 less what each answer, the sport and the jumps cost; {limits}; a 1 among the answers is never plan A",
        COMMON_PRACTICE,
        tuple(inputs),
        missing=() if said else ("nothing was said",),
        caution="The weights are Jarvok's own and stand in the settings. The coach decides.",
    )
    return Suggestion(plan, points, tuple(reasons or ["nothing was said"]), removed, referral, working, spared)


def _jump_points(arrival: Arrival, rules: Rules, lost: list[tuple[float, str]], inputs: list[Input]) -> float:
    low = usual_low_cm(arrival.usual_jumps_cm)
    if not arrival.jumps_cm:
        return 0.0
    best = max(arrival.jumps_cm)
    if low is None:
        inputs.append(Input("jumps", f"best {best:.0f} cm; too few earlier days to say what is usual"))
        return 0.0
    usual = mean(arrival.usual_jumps_cm)
    costs = rules["readiness.low_jump"] if best < low else 0.0
    inputs.append(Input("jumps", f"best {best:.1f} cm, usual {usual:.1f}, low end {low:.1f}: −{costs:.0f}"))
    if costs:
        lost.append((costs, f"jump {best:.0f} cm, usually {usual:.0f}"))
    return costs


def _plan(points: int | None, answers: dict[str, int], rules: Rules) -> Plan:
    if points is None or points >= rules["readiness.plan_a"]:
        plan = Plan.A
    else:
        plan = Plan.B if points >= rules["readiness.plan_b"] else Plan.C
    ones = sum(1 for v in answers.values() if v == 1)
    if ones >= 2:
        return Plan.C
    return Plan.B if ones and plan is Plan.A else plan

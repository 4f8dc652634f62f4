"""Who may do which test of a max, with the reasons. Common practice; local rules and licensed professionals come first."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from jarvok.core.experience import YOUNG_AGE, is_minor, is_novice
from jarvok.core.working import COMMON_PRACTICE, Source

TRUE_MAX_YEARS = 2.0  # common practice: two to three years of lifting


class TestKind(StrEnum):
    """The five guided tests."""

    __test__ = False  # not a test of this project

    TRUE_MAX = "true_max"
    TECHNICAL_SINGLE = "technical_single"
    REP_MAX = "rep_max"
    CONSERVATIVE = "conservative"
    LOAD_VELOCITY = "load_velocity"


NAMES = {
    TestKind.TRUE_MAX: "True 1RM",
    TestKind.TECHNICAL_SINGLE: "Technical single",
    TestKind.REP_MAX: "Rep-max, aimed at 8",
    TestKind.CONSERVATIVE: "10–15RM, conservative",
    TestKind.LOAD_VELOCITY: "Load and velocity from warm-ups",
}
HOW = {
    TestKind.TRUE_MAX: "warm up to a single, stop when technique breaks",
    TestKind.TECHNICAL_SINGLE: "small steps to the heaviest single with good technique; never counted as a true 1RM",
    TestKind.REP_MAX: "three warm-ups or more, then one set that lands within 6 to 10",
    TestKind.CONSERVATIVE: "one set of 10 to 15: capacity, not a max",
    TestKind.LOAD_VELOCITY: "four loads or more with full intent; no maximal lift",
}
SAFETY = "Spotters or safeties, collars, a clear platform. Stop when technique breaks."


@dataclass(frozen=True)
class TestedAthlete:
    """What decides which test an athlete may do. Ages in years; None where not recorded."""

    __test__ = False

    age: int | None
    training_age_years: float
    supervised: bool
    in_season: bool
    has_pain: bool
    restriction: str
    is_cleared: bool
    is_returning: bool
    can_measure: bool


@dataclass(frozen=True)
class TestOffer:
    """One test: whether it is open to the athlete, why or why not, what to bear in mind, and whether it suits best."""

    __test__ = False

    kind: TestKind
    is_open: bool
    reasons: tuple[str, ...]
    caution: str
    is_suggested: bool = False
    source: Source = COMMON_PRACTICE


def offers_for(athlete: TestedAthlete) -> tuple[TestOffer, ...]:
    """Return the five tests for one athlete and lift, the suggested one marked."""
    stops = _stops(athlete)
    found = [
        _offer(TestKind.TRUE_MAX, [*stops, *_true_max_stops(athlete)], "sound lifters, out of season", SAFETY),
        _offer(TestKind.TECHNICAL_SINGLE, [*stops, *_single_stops(athlete)], "a novice in a class, supervised", SAFETY),
        _offer(
            TestKind.REP_MAX,
            [*stops, *_limit_stops(athlete)],
            "most athletes, and everybody in season",
            "One set to the limit: spotters or safeties.",
        ),
        _offer(
            TestKind.CONSERVATIVE,
            _conservative_stops(athlete),
            "higher risk, returning or very young athletes",
            "After clearance by a licensed professional where there was an injury or illness.",
        ),
        _offer(
            TestKind.LOAD_VELOCITY,
            [*stops, *(() if athlete.can_measure else ("a bar sensor does not measure this lift",))],
            "anyone with a bar sensor",
            "Full intent on every repetition, or the estimate reads low.",
        ),
    ]
    best = _suggested(athlete, {offer.kind for offer in found if offer.is_open})
    return tuple(TestOffer(o.kind, o.is_open, o.reasons, o.caution, o.kind is best, o.source) for o in found)


def _offer(kind: TestKind, stops: list[str] | tuple[str, ...], suits: str, caution: str) -> TestOffer:
    return TestOffer(kind, not stops, tuple(stops) or (f"for {suits}",), caution)


def _stops(athlete: TestedAthlete) -> list[str]:
    found: list[str] = []
    if athlete.has_pain:
        found.append("pain is reported: no test; see a licensed professional")
    if athlete.restriction:
        found.append(f"an open restriction: {athlete.restriction.lower()}")
    return found


def _true_max_stops(athlete: TestedAthlete) -> list[str]:
    found: list[str] = []
    if is_minor(athlete.age) and not athlete.supervised:
        found.append("under 18 without supervision noted")
    if athlete.training_age_years < TRUE_MAX_YEARS:
        found.append(f"{athlete.training_age_years:g} years of lifting; two to three are asked for")
    if athlete.in_season:
        found.append("in season: a rep-max or the warm-up velocities say it as well")
    if athlete.is_returning:
        found.append("back after a break: ramp again from a reduced max first")
    return found


def _limit_stops(athlete: TestedAthlete) -> list[str]:
    """A set that goes to the limit."""
    return ["under 18 without supervision noted"] if is_minor(athlete.age) and not athlete.supervised else []


def _single_stops(athlete: TestedAthlete) -> list[str]:
    return [] if athlete.supervised else ["needs supervision: note it under Details"]


def _conservative_stops(athlete: TestedAthlete) -> list[str]:
    if athlete.has_pain:
        return ["pain is reported: no test; see a licensed professional"]
    if athlete.restriction and not athlete.is_cleared:
        return [f"an open restriction: {athlete.restriction.lower()}; a clearance note comes first"]
    return []


def _suggested(athlete: TestedAthlete, is_open: set[TestKind]) -> TestKind | None:
    order = [TestKind.LOAD_VELOCITY, TestKind.REP_MAX, TestKind.TECHNICAL_SINGLE, TestKind.CONSERVATIVE]
    if athlete.is_returning or (athlete.age is not None and athlete.age < YOUNG_AGE):
        order = [TestKind.CONSERVATIVE, *order]
    elif is_novice(athlete.training_age_years) and athlete.supervised:
        order = [TestKind.TECHNICAL_SINGLE, *order]
    return next((kind for kind in order if kind in is_open), None)

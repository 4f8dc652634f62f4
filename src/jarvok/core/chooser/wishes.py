"""What a week should hold because of what is known: exercises that come forward, and small work it needs. Common practice.

A fault of skill asks for a variation of its lift, one of posture for rows and trunk work, one of mobility for a drill in
every warm-up. A side that lags, the sport, the build, the style, past sports and goals ask for small work of their own.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from functools import cached_property

from jarvok.core.chooser.known import (
    Because,
    FastLoad,
    Finding,
    Known,
    LeadIn,
    LiftFault,
    Need,
    Preference,
    SideGap,
    StrengthLimit,
    family_of,
    traits,
)
from jarvok.core.exercises import Exercise
from jarvok.core.library.exercises import exercise, exercises
from jarvok.core.marks.limiter import fault_kinds, limited_lifts

ORDER = tuple(Because)
FAULT_POINTS, OTHER_POINTS = 3, 1  # [J] a fault weighs more than what is liked
EVERY_SESSION = 14  # [T] more often than any week has sessions
POSTURE_TIMES = 2  # [C] two or three times a week
SMALL_KINDS = frozenset({"accessory", "hold", "drill"})
SKILL_TEXT, POSTURE_TEXT, DRILL_TEXT, LIMIT_TEXT = "2 × 6", "2 × 10", "1 × 8", "3 × 8, 2 in reserve"  # [J]


@dataclass(frozen=True)
class Wishes:
    """What is wished of a week: `needs` in the order in which places are given out, `prefers`, and what hangs on sides."""

    faults: tuple[LiftFault, ...] = ()
    needs: tuple[Need, ...] = ()
    prefers: tuple[Preference, ...] = ()
    sides: tuple[SideGap, ...] = ()
    stronger_side: str = ""
    findings: tuple[Finding, ...] = ()
    fast: tuple[FastLoad, ...] = ()
    lead_in: LeadIn | None = None

    @cached_property
    def fault_ids(self) -> frozenset[str]:
        """The faults on record, wherever they were seen."""
        return frozenset(f.fault for f in self.faults)

    def points(self, lift: Exercise) -> int:
        """Return how much an exercise comes forward; 0 for one that nothing speaks for."""
        found = FAULT_POINTS * len(self.fault_ids & frozenset(lift.faults))
        return found + OTHER_POINTS * sum(1 for p in self.prefers if lift.id in p.exercises)

    def words(self, lift: Exercise) -> tuple[str, ...]:
        """Return why it comes forward."""
        found = [fault_words(f) for f in self.faults if f.fault in lift.faults]
        return (*found, *dict.fromkeys(p.words for p in self.prefers if lift.id in p.exercises))

    def wish_for(self, lift: Exercise) -> str:
        """Return what a line of an exercise that comes forward is known to be there for."""
        fault = next((f.fault for f in self.faults if f.fault in lift.faults), "")
        return fault_need(fault) if fault else "preferred"


NO_WISHES = Wishes()


def wishes(known: Known) -> Wishes:
    """Return what everything known of an athlete asks of a week. What the coach has declined is left out."""
    family = family_of(known.sport)
    chosen = [t for key in sorted(known.traits) if (t := traits().get(key)) is not None]
    needs: list[Need] = [n for f in known.faults for n in _fault_needs(f)]
    needs += [_limit_need(limit) for limit in known.limits]
    needs += [n for n in (_side_need(gap) for gap in known.sides) if n is not None]
    for trait in chosen:
        needs += trait.needs
    needs += family.needs if family is not None else ()
    prefers = [*known.moved, *(p for t in chosen for p in t.prefers), *(family.prefers if family is not None else ())]
    kept = [n for n in _merged(needs) if n.id not in known.declined]
    faults = tuple(f for f in known.faults if fault_need(f.fault) not in known.declined)
    sides = tuple(s for s in known.sides if side_need(s) not in known.declined)
    return Wishes(faults, tuple(kept), tuple(prefers), sides, known.stronger_side, known.findings, known.fast, known.lead_in)


def fault_need(fault: str) -> str:
    """Return what the need of a fault is called."""
    return f"fault-{fault}"


def side_need(gap: SideGap) -> str:
    """Return what the need of a weaker side is called."""
    return "weaker-leg" if gap.region == "lower" else "weaker-arm"


def side_words(gap: SideGap) -> str:
    """Return what a line for a weaker side says of it."""
    return f"{gap.weaker} {gap.behind_pct:.0f} % behind in the {exercise(gap.exercise_id).name.lower()}"


def fault_words(seen: LiftFault) -> str:
    """Return what a line that works on a fault says of it."""
    return f"works on: {fault_kinds()[seen.fault].name.lower()} ({exercise(seen.exercise_id).name.lower()})"


def _merged(needs: Iterable[Need]) -> list[Need]:
    """One need of a kind: the most times that anything asks for, all its reasons; in the order of what asks."""
    found: dict[str, Need] = {}
    for need in sorted(needs, key=lambda n: ORDER.index(n.because)):
        old = found.get(need.id)
        if old is None:
            found[need.id] = need
            continue
        found[need.id] = replace(
            old,
            times=max(old.times, need.times),
            words=tuple(dict.fromkeys((*old.words, *need.words))),
            exercises=tuple(dict.fromkeys((*old.exercises, *need.exercises))),
            roles=tuple(dict.fromkeys((*old.roles, *need.roles))),
            before_match=max(old.before_match, need.before_match),
            may_miss=old.may_miss and need.may_miss,
            prepares=old.prepares or need.prepares,  # in the warm-up it takes no place from other work
            text=need.text if need.prepares and not old.prepares else old.text,
        )
    return list(found.values())


def _fault_needs(seen: LiftFault) -> list[Need]:
    kind = fault_kinds().get(seen.fault)
    if kind is None:
        return []
    speaking = [e for e in exercises().values() if seen.fault in e.faults]
    words = (fault_words(seen),)
    if kind.limits == "mobility":
        drills = tuple(e.id for e in speaking if e.kind in ("drill", "hold"))
        return [Need(fault_need(kind.id), Because.FAULT, words, EVERY_SESSION, DRILL_TEXT, drills, prepares=True)]
    if kind.limits == "posture":
        small = tuple(e.id for e in speaking if e.kind in SMALL_KINDS)
        return [Need(fault_need(kind.id), Because.FAULT, words, POSTURE_TIMES, POSTURE_TEXT, small)]
    small = tuple(e.id for e in speaking if e.kind in SMALL_KINDS)
    landings = tuple(e.id for e in speaking if e.kind == "jump" and e.cost == "low")
    whole = [e for e in speaking if e.kind not in SMALL_KINDS]
    seen_in = exercise(seen.exercise_id)
    near = [e for e in whole if e.pattern == seen_in.pattern] or [e for e in whole if e.kind != "classic"] or whole
    easy = tuple(e.id for e in sorted(near, key=lambda e: (e.teaching, e.cost != "low")))
    return [
        Need(
            fault_need(kind.id), Because.FAULT, words, 1, SKILL_TEXT, small or landings or easy,
            prepares=bool(landings) and not small, unless_varied=kind.id,
        )
    ]  # fmt: skip


def _limit_need(limit: StrengthLimit) -> Need:
    lift = limited_lifts()[limit.lift]
    words = f"the {lift.name.lower()} is limited by {lift.strength_name.lower()}: {limit.evidence}"
    relatives = tuple(r.exercise_id for r in lift.relatives)
    return Need(f"limit-{lift.id}", Because.LIMITER, (words,), 1, LIMIT_TEXT, (*lift.work, *relatives))


def _side_need(gap: SideGap) -> Need | None:
    """Work that each side does by itself, for the region that lags: its first set is done twice on the weaker side."""
    words = (side_words(gap),)
    if gap.region == "lower":
        return Need(side_need(gap), Because.SIDE, words, 1, "2 × 6", roles=("single_leg",))
    if gap.region == "upper":
        arms = ("single_arm_dumbbell_press", "dumbbell_row", "half_kneeling_press", "single_arm_pulldown")
        return Need(side_need(gap), Because.SIDE, words, 1, "2 × 8", arms)
    return None

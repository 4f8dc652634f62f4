"""What is known of one athlete in one exercise on one day, and what a loading method offers for it."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import NamedTuple

from jarvok.core.exercises import Exercise
from jarvok.core.loading.accommodating import MeasuredPull
from jarvok.core.marks.past import PastSession
from jarvok.core.marks.relation import Relation, WithBody
from jarvok.core.marks.working_max import CurrentMax
from jarvok.core.quantities.plates import Implement
from jarvok.core.rules import DEFAULT_RULES, Rules
from jarvok.core.velocity.daily_max import DailyMax
from jarvok.core.velocity.profile import Profile
from jarvok.core.working import Input, Source


@dataclass(frozen=True)
class LiftState:
    """What is known of one athlete in one exercise on one day.

    `related_max_from` names the lift a max was inferred from, when it is not the exercise's own; `history` holds the
    past sessions of the lift, newest last; `today` the max of the day from its velocities; `own_relation` the
    athlete's own repetitions relation; `pulls` the bands and chains measured in the room;
    `return_pct` the share of the max to plan from after a long break; `counts_reserve` whether the athlete's count of
    repetitions in reserve is one to go by; `contest` names the next one that asks for a load of this exercise, with it.
    `body_kg` is lifted with the load in pull-ups and dips, of which all loads are what is added. Masses in kg, ages in years.
    """

    exercise: Exercise
    implement: Implement | None = None
    max: CurrentMax | None = None
    related_max_from: str = ""
    related_ratio: float = 1.0
    profile: Profile | None = None
    own_relation: Relation | None = None
    rules: Rules = field(default=DEFAULT_RULES)
    history: tuple[PastSession, ...] = ()
    today: DailyMax | None = None
    training_age_years: float | None = None
    pulls: tuple[MeasuredPull, ...] = ()
    return_pct: float = 100.0
    counts_reserve: bool = True
    contest: tuple[str, float] | None = None
    body_kg: float = 0.0

    @cached_property
    def equation(self) -> Relation:
        """The relation of repetitions and max in use: the athlete's own, else the chosen equation."""
        relation = self.own_relation or self.rules.equation
        return WithBody(relation, self.body_kg) if self.body_kg else relation

    @cached_property
    def max_kg(self) -> float | None:
        """The max to plan from today in kg, own or inferred; reduced for a while after a long break."""
        if self.max is None:
            return None
        return (self.max.value_kg * self.related_ratio + self.body_kg) * self.return_pct / 100 - self.body_kg

    @cached_property
    def training_max_kg(self) -> float | None:
        """The max that percentages are taken of, in kg: a share of the max when the coach has set one."""
        return self.at_share(self.rules["max.training_pct"] / 100) if self.max_kg else None

    def at_share(self, share: float, of_kg: float | None = None) -> float:
        """Return the load in kg that is a share of the max (0-1.3), or of another load, bodyweight lifted with it counted in.

        Raises ValueError without a max to take it of.
        """
        base = self.max_kg if of_kg is None else of_kg
        if base is None:
            raise ValueError("a share of no max")
        return share * (base + self.body_kg) - self.body_kg

    def share_of(self, load_kg: float) -> float | None:
        """Return the share of the max that a load is, bodyweight lifted with it counted in; None without a max."""
        return (load_kg + self.body_kg) / (self.max_kg + self.body_kg) if self.max_kg else None

    @property
    def is_upper(self) -> bool:
        """Whether the exercise belongs to the upper body."""
        return self.exercise.region == "upper"

    @cached_property
    def last(self) -> PastSession | None:
        """The newest past session with a load, or None."""
        return next((s for s in reversed(self.history) if s.top_kg), None)

    def beside(self, hangs: str) -> LiftState:
        """Return the state with the past of the lift alone that had the same on the bar: `hangs`, or nothing."""
        if all(s.hung == hangs for s in self.history):
            return self
        return replace(self, history=tuple(s for s in self.history if s.hung == hangs))

    @cached_property
    def max_inputs(self) -> tuple[Input, ...]:
        """The max, what it mostly rests on, and the newest evidence, for a working."""
        if self.max is None:
            return ()
        text = self.max.working.result
        if self.related_max_from:
            text += f" in the {self.related_max_from}, times {self.related_ratio:g}"
        best = self.max.evidence[0]
        newest = max(self.max.evidence, key=lambda e: e.mark.day)
        found: tuple[Input, ...] = (Input("max today", text), Input("mostly from", best.words, best.mark.ref))
        if self.rules["max.training_pct"] < 100:
            found = (*found, Input("training max", f"{self.rules['max.training_pct']:g} % of it"))
        if self.return_pct < 100:
            found = (*found, Input("after a break", f"{self.return_pct:.0f} % of it, growing back"))
        return found if newest is best else (*found, Input("newest", newest.words, newest.mark.ref))


class Ask(NamedTuple):
    """One work set that wants a load: its repetitions, the sets of the line, and its place among them (from 0)."""

    reps: int
    sets: int
    position: int = 0


class Offer(NamedTuple):
    """What a method would put on the bar before rounding, in kg, and why; no load when something is missing.

    `bottom_kg` and `top_kg` are the loads at both ends of the movement where bands or chains are on; `within_kg` are the
    lowest and highest load that rounding to what can be built may lead to.
    """

    load_kg: float | None
    method: str
    rule: str
    source: Source
    inputs: tuple[Input, ...] = ()
    missing: tuple[str, ...] = ()
    caution: str = ""
    bottom_kg: float | None = None
    top_kg: float | None = None
    within_kg: tuple[float, float] | None = None

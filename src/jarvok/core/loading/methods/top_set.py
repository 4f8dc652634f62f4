"""A top set: working up by feel to a heavy single, double or triple of the day."""

from __future__ import annotations

from dataclasses import dataclass

from jarvok.core.loading.methods.reserve import Rpe, at_effort
from jarvok.core.loading.reader import Reader
from jarvok.core.loading.rule import Example, LoadRule, Target
from jarvok.core.loading.state import Ask, LiftState, Offer
from jarvok.core.marks.effort import rir_for_rpe

USUAL_RPE = 8.5  # [J] heavy, with something left, where the line does not say


@dataclass(frozen=True)
class TopSet(LoadRule):
    """The heaviest set of the day that still feels like `rpe`; None is heavy without a number."""

    rpe: float | None = None

    method = "reserve"
    examples = (
        Example("1x1 @ top", "work up to a heavy single; “to a heavy single” and “up to a top triple @ RPE 8” say the same"),
    )

    @classmethod
    def begins(cls, reader: Reader) -> TopSet | None:
        """Read top, with an effort behind it."""
        return TopSet.behind(reader) if reader.take(r"top\b(?!\s*%)") else None

    @classmethod
    def behind(cls, reader: Reader) -> TopSet:
        """Read the effort of a top set, if one is said."""
        at = reader.at
        reader.take(r"@|,|at\b")
        said = Rpe.begins(reader)
        if said is None or said.rpe_high is not None:
            reader.at = at
            return TopSet()
        return TopSet(said.rpe)

    def written(self) -> str:
        """Return the word, and the effort."""
        return " @ top" + (f" RPE {self.rpe:g}" if self.rpe is not None else "")

    def offer(self, ask: Ask, state: LiftState) -> Offer:
        """Return the load to expect at the top; what is put on is found by working up to it."""
        rpe = self.rpe if self.rpe is not None else USUAL_RPE
        found = at_effort(ask, rir_for_rpe(rpe), f"a top set at RPE {rpe:g}", state)
        return found._replace(rule=f"{found.rule}; work up to it by feel, stop where technique breaks")

    def step(self, by: int) -> TopSet:
        """Return the next effort on the scale."""
        return TopSet(Rpe(self.rpe if self.rpe is not None else USUAL_RPE).step(by).rpe)

    def target(self, state: LiftState) -> Target:
        """Return the reserve the effort stands for."""
        return Target(rir=rir_for_rpe(self.rpe if self.rpe is not None else USUAL_RPE))

    @property
    def builds_to_limit(self) -> bool:
        """The sets before it grow until it."""
        return True


RULES = (TopSet,)

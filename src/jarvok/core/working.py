"""A derived number with its derivation, so that every number can show its working.

Thousands are made for one screen, so they are named tuples: as unchangeable as frozen dataclasses, several times quicker.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, NamedTuple

from jarvok.core.quantities.in_pounds import said_in_pounds

Mark = Literal["P", "C", "M", "J", "fact"]


@dataclass(frozen=True)
class Source:
    """Where a rule or value comes from.

    `mark`: P published, C common practice, M from memory with uncertain source, J Jarvok's own choice, fact measured.
    """

    mark: Mark
    text: str


COMMON_PRACTICE = Source("C", "common practice")


class Input(NamedTuple):
    """One thing the rule used: its name, its value in words, and the fact behind it (such as `mark:12`), if any."""

    name: str
    text: str
    ref: str = ""


class Working(NamedTuple):
    """How one number came about.

    `result` is the number with its unit; `rule` the arithmetic in words; `rounding` what was done to the last figure;
    `others` what other rules would give; `missing` what a better answer would need; `caution` what to bear in mind.
    """

    result: str
    rule: str
    source: Source
    inputs: tuple[Input, ...] = ()
    rounding: str = ""
    others: tuple[Input, ...] = ()
    missing: tuple[str, ...] = ()
    caution: str = ""

    def in_pounds(self) -> Working:
        """Return the same with its masses said in pounds, for a room whose plates are."""
        said = said_in_pounds
        return self._replace(
            result=said(self.result),
            rule=said(self.rule),
            inputs=tuple(i._replace(text=said(i.text)) for i in self.inputs),
            rounding=said(self.rounding),
            others=tuple(i._replace(text=said(i.text)) for i in self.others),
            missing=tuple(said(m) for m in self.missing),
            caution=said(self.caution),
        )

"""A bar load with bands or chains on it."""

from __future__ import annotations

from dataclasses import dataclass, replace

from jarvok.core.loading.accommodating import CAUTION, Attachment, nearest_pull, two_loads, with_pull
from jarvok.core.loading.methods.as_written import FixedLoad
from jarvok.core.loading.methods.percent import NO_MAX, Percent
from jarvok.core.loading.reader import NUMBER, Reader, is_pounds, number
from jarvok.core.loading.rule import Example, LoadRule, by_effort
from jarvok.core.loading.state import Ask, LiftState, Offer
from jarvok.core.quantities.mass import kg_from_lb, lb_from_kg

MOST_EXTRA_PCT, MOST_EXTRA_KG = 100, 300  # [T]


@dataclass(frozen=True)
class WithAttachment(LoadRule):
    """A bar load with bands or chains: `extra` is a share of the max in per cent, or kg, at the top."""

    bar: Percent | FixedLoad
    extra: float
    extra_is_pct: bool
    attachment: Attachment
    in_lb: bool = False

    examples = (
        Example("8x2 @ 50 % + 25 % bands", "bar load and what the bands add at the top; kg and chains work too"),
        Example("1x1 @ 105 % - 20 kg reverse bands", "bands from above help at the bottom"),
    )

    @classmethod
    def follows(cls, reader: Reader, start: LoadRule) -> WithAttachment | None:
        """Read + 25 % bands, + 20 kg chains, - 20 kg reverse bands behind a share or a load."""
        if not isinstance(start, Percent | FixedLoad) or start.varies:
            return None
        m = reader.take(rf"([+\-−–])\s*{NUMBER}\s*(%|kg|lbs?)?\s*(?:of\s+)?(reverse\s+bands?|bands?|chains?)\b")
        if not m:
            return None
        kind = m.group(4).lower()
        attachment = Attachment.REVERSE if "reverse" in kind else Attachment.BANDS if "band" in kind else Attachment.CHAINS
        unit = (m.group(3) or "kg").lower()
        extra = kg_from_lb(number(m.group(2))) if is_pounds(unit) else number(m.group(2))
        if not 0 < extra <= (MOST_EXTRA_PCT if unit == "%" else MOST_EXTRA_KG):
            accepted = f"Bands and chains from 1 to {MOST_EXTRA_PCT} % or up to {MOST_EXTRA_KG} kg are accepted."
            raise reader.fail(accepted, at=m.start(2))
        return WithAttachment(start, extra, unit == "%", attachment, unit != "%" and is_pounds(unit))

    def written(self) -> str:
        """Return the bar's load and what hangs on it."""
        sign = "−" if self.attachment is Attachment.REVERSE else "+"
        extra = lb_from_kg(self.extra) if self.in_lb else self.extra
        unit = "%" if self.extra_is_pct else "lb" if self.in_lb else "kg"
        return f"{self.bar.written()} {sign} {extra:g} {unit} {self.attachment}"

    def offer(self, ask: Ask, state: LiftState) -> Offer:
        """Return the bar's load, with the loads at both ends of the movement."""
        bar = self.bar.offer(ask, state)
        if bar.load_kg is None:
            return bar
        if self.extra_is_pct and state.max_kg is None:
            return by_effort(NO_MAX)
        extra = self.extra / 100 * (state.max_kg or 0.0) if self.extra_is_pct else self.extra
        pull = nearest_pull(state.pulls, self.attachment, extra)
        both = with_pull(bar.load_kg, pull) if pull is not None else two_loads(bar.load_kg, extra, self.attachment)
        here = f", here {pull.words}" if pull is not None else ""
        ends = f"{both.bottom_kg:.1f} kg at the bottom, {both.top_kg:.1f} kg at the top"
        said = f"{extra:.1f} kg of {self.attachment}{here}: {ends}"
        return bar._replace(
            rule=f"{bar.rule}; {said}", bottom_kg=both.bottom_kg, top_kg=both.top_kg, caution=CAUTION[self.attachment]
        )

    def step(self, by: int) -> WithAttachment:
        """Return the bar's load a step on."""
        return replace(self, bar=self.bar.step(by))

    @property
    def hangs(self) -> str:
        """The bands or chains."""
        return self.attachment

    @property
    def share_of_bar(self) -> float | None:
        """The share of the max that lies on the bar (0-1.3), or None."""
        return self.bar.share_meant


RULES = (WithAttachment,)

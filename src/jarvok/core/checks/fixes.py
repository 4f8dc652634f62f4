"""What a check offers: a line written otherwise or taken out. Written otherwise it keeps its rest, tempo, clock and stop line."""

from __future__ import annotations

from dataclasses import replace

from jarvok.core.checks.flag import Fix
from jarvok.core.checks.plan_views import LineView
from jarvok.core.loading.prescription import Prescription, SetGroup
from jarvok.core.loading.shorthand import write


def rewrite(line: LineView, wanted: Prescription, words: str = "Write {text}") -> Fix | None:
    """Offer a line written as `wanted`; None where that is what it says already. `{text}` in the words is the shorthand."""
    text = write(wanted)
    if text == write(line.prescription):
        return None
    return Fix(words.format(text=text), "write", {"line": line.name, "text": text})


def with_groups(line: LineView, *groups: SetGroup) -> Prescription:
    """The prescription of a line with other sets, and with everything that stands beside them."""
    return replace(line.prescription, groups=groups)


def drop(line: LineView) -> Fix:
    """Offer to take a line out."""
    return Fix(f"Take {line.slot} out", "drop", {"line": line.name})

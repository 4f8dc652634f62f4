"""A set as it was told when its session began: what is kept with the session, read for ever as it was written."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from jarvok.core.loading.ramp import RampSet
from jarvok.core.loading.resolve import ResolvedSet
from jarvok.core.session.forms import AS_IT_IS, Forms
from jarvok.core.working import Input, Source, Working

VERSION = 1
# what is kept under its own name, in the order it is written
_PLAIN = (
    "reps", "or_more", "seconds", "metres", "per_side", "load_kg", "wanted_kg", "share_of_max", "target_is_peak",
    "target_rir", "stop_loss_pct", "method", "bottom_kg", "top_kg", "unit", "form",
)  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class ToldSet:
    """One set as told. Loads in kg, velocities in m/s; None where the set has none.

    `index` counts from 0; `unit` is what was printed on the plates, `form` what this set is done with; `working` is how the
    load came about, where it was kept.
    """

    index: int = 0
    reps: int | None = None
    or_more: bool = False
    seconds: int | None = None
    metres: int | None = None
    per_side: bool = False
    load_kg: float | None = None
    wanted_kg: float | None = None
    per_side_kg: tuple[float, ...] = ()
    drops_kg: tuple[float, ...] = ()
    share_of_max: float | None = None
    target_mps: tuple[float, float] | None = None
    target_is_peak: bool = False
    target_rir: float | None = None
    stop_loss_pct: float | None = None
    method: str = ""
    bottom_kg: float | None = None
    top_kg: float | None = None
    unit: str = "kg"
    form: str = ""
    working: Working | None = None

    @classmethod
    def of(cls, item: ResolvedSet, forms: Forms = AS_IT_IS, *, with_working: bool = True) -> ToldSet:
        """Return a resolved set as it is told; `forms` say what its round is done with."""
        values = item._asdict() | {"form": forms.of_round(item.set_index + 1)}
        values["index"] = values.pop("set_index")
        return cls(**{**values, "working": item.working if with_working else None})

    @classmethod
    def of_ramp(cls, item: RampSet, stop_loss_pct: float) -> ToldSet:
        """Return a warm-up set as it is told."""
        return cls(reps=item.reps, load_kg=item.load_kg, per_side_kg=tuple(item.per_side_kg), stop_loss_pct=stop_loss_pct)

    @classmethod
    def from_raw(cls, raw: Mapping[str, Any]) -> ToldSet:
        """Return what was kept. Sets told before versions, and the short ones of warm-ups, lack keys: they have none of it."""
        low, high = raw.get("target_low_mps"), raw.get("target_high_mps")
        found = {key: raw[key] for key in _PLAIN if key in raw}
        kept = raw.get("working")
        return cls(
            **found,
            index=raw.get("index", 0),
            per_side_kg=tuple(raw.get("per_side_kg", ())),
            drops_kg=tuple(raw.get("drops_kg", ())),
            target_mps=(low, high) if low is not None and high is not None else None,
            working=_working_from(kept) if kept else None,
        )

    def to_raw(self) -> dict[str, Any]:
        """Return it as plain data for JSON."""
        low, high = self.target_mps or (None, None)
        return {
            "version": VERSION,
            "index": self.index,
            **{key: getattr(self, key) for key in _PLAIN},
            "per_side_kg": list(self.per_side_kg),
            **({"drops_kg": list(self.drops_kg)} if self.drops_kg else {}),
            "target_low_mps": low,
            "target_high_mps": high,
            "working": _working_to(self.working) if self.working is not None else None,
        }

    def resolved(self) -> ResolvedSet:
        """Return it as a set of a plan, as the rules of the floor read it."""
        values = {key: getattr(self, key) for key in ResolvedSet._fields if key not in ("set_index", "working")}
        return ResolvedSet(set_index=self.index, working=self.working, **values)


def _inputs_to(items: tuple[Input, ...]) -> list[dict[str, str]]:
    return [item._asdict() for item in items]


def _working_to(working: Working) -> dict[str, Any]:
    return {
        **working._asdict(),
        "source_mark": working.source.mark,
        "source": working.source.text,
        "inputs": _inputs_to(working.inputs),
        "others": _inputs_to(working.others),
        "missing": list(working.missing),
    }


def _working_from(raw: Mapping[str, Any]) -> Working:
    return Working(
        result=raw["result"],
        rule=raw["rule"],
        source=Source(raw["source_mark"], raw["source"]),
        inputs=tuple(Input(**i) for i in raw["inputs"]),
        rounding=raw["rounding"],
        others=tuple(Input(**i) for i in raw["others"]),
        missing=tuple(raw["missing"]),
        caution=raw["caution"],
    )

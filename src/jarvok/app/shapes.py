"""Shapes of the core as the API sends them."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from jarvok.app.schema import Schema
from jarvok.core.exercises import Exercise
from jarvok.core.loading.resolve import ResolvedSet
from jarvok.core.marks.conditions import conditions_of
from jarvok.core.quantities.mass import format_mass
from jarvok.core.working import Input, Working


class InputOut(Schema):
    name: str
    text: str
    ref: str


class WorkingOut(Schema):
    result: str
    rule: str
    source_mark: str
    source: str
    inputs: list[InputOut]
    rounding: str
    others: list[InputOut]
    missing: list[str]
    caution: str


class ResolvedSetOut(Schema):
    index: int
    reps: int | None
    or_more: bool
    seconds: int | None
    metres: int | None
    per_side: bool
    load_kg: float | None
    wanted_kg: float | None
    per_side_kg: list[float]
    share_of_max: float | None
    target_low_mps: float | None
    target_high_mps: float | None
    target_is_peak: bool
    target_rir: float | None
    stop_loss_pct: float | None
    method: str
    working: WorkingOut | None
    bottom_kg: float | None = None
    top_kg: float | None = None
    unit: str = "kg"
    load_words: str = ""  # in `unit`, as the range between bottom and top
    range_words: str = ""
    per_side_words: list[str] = []


def _inputs(items: tuple[Input, ...]) -> list[InputOut]:
    return [InputOut(name=i.name, text=i.text, ref=i.ref) for i in items]


def working_out(working: Working) -> WorkingOut:
    return WorkingOut(
        result=working.result,
        rule=working.rule,
        source_mark=working.source.mark,
        source=working.source.text,
        inputs=_inputs(working.inputs),
        rounding=working.rounding,
        others=_inputs(working.others),
        missing=list(working.missing),
        caution=working.caution,
    )


def shown_mass(load_kg: float | None, per_side_kg: Sequence[float], unit: str) -> dict[str, Any]:
    """How a load reads on this kit: in its unit, as the plates' own numbers."""
    words = format_mass(load_kg, unit) if load_kg is not None else ""
    return {"unit": unit, "load_words": words, "per_side_words": [format_mass(mass, unit) for mass in per_side_kg]}


def resolved_out(item: ResolvedSet) -> ResolvedSetOut:
    low, high = item.target_mps or (None, None)
    values = {k: v for k, v in item._asdict().items() if k not in ("target_mps", "working", "set_index")}
    values |= shown_mass(item.load_kg, item.per_side_kg, item.unit)
    if item.bottom_kg is not None and item.top_kg is not None:
        values["range_words"] = f"{format_mass(item.bottom_kg, item.unit)}–{format_mass(item.top_kg, item.unit)}"
    values |= {"index": item.set_index, "target_low_mps": low, "target_high_mps": high}
    values["per_side_kg"] = list(item.per_side_kg)
    return ResolvedSetOut(**values, working=working_out(item.working) if item.working is not None else None)


class NamedOut(Schema):
    id: str
    name: str


class ConditionOut(Schema):
    """A kind of condition of a lift, such as its grip, with what it may be."""

    id: str
    name: str
    choices: list[NamedOut]


def conditions_out(lift: Exercise) -> list[ConditionOut]:
    """The kinds of condition that are asked of a lift."""
    return [
        ConditionOut(id=c.id, name=c.name, choices=[NamedOut(id=i, name=words) for i, words in c.choices])
        for c in conditions_of(lift)
    ]

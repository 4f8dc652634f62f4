"""Every constant and table of the core as it stands. A change of one is a change of what coaches are told: made on purpose, and
written here with it (`JARVOK_WRITE_CONSTANTS=1`). Which number is right is asked elsewhere, by edges, sources and closed forms.
"""

from __future__ import annotations

import dataclasses
import enum
import importlib
import json
import os
import pkgutil
from collections.abc import Mapping
from pathlib import Path
from types import ModuleType
from typing import Any

import pytest

import jarvok.core

KEPT = Path(__file__).resolve().parents[1] / "references" / "constants.json"
# made up: no rule of the job; read from tables that other modules hold
LEFT_OUT = (
    "jarvok.core.season.arrangements",
    "jarvok.core.week.arrangements",
    "jarvok.core.rules",
    "jarvok.core.sensors.trace",
    "jarvok.core.sensors.simulated",
    "jarvok.core.sensors.faults",
    "jarvok.core.library.exercises",
)


def plain(value: Any) -> Any:
    """A value as data, without what is a function."""
    match value:
        case bool() | int() | float() | None:
            return value
        case enum.Enum() | str():
            return ""  # what is said may be said better
        case Mapping():
            return {str(k): plain(v) for k, v in value.items() if has_number(plain(v))}
        case frozenset() | set():
            return len(value)
        case tuple() | list():
            return [plain(v) for v in value]
        case _ if dataclasses.is_dataclass(value) and not isinstance(value, type):
            fields = {f.name: plain(getattr(value, f.name)) for f in dataclasses.fields(value)}
            return {name: v for name, v in fields.items() if has_number(v)}
        case _:
            return ""


def has_number(value: Any) -> bool:
    if isinstance(value, dict):
        return any(has_number(v) for v in value.values())
    if isinstance(value, list):
        return any(has_number(v) for v in value)
    return isinstance(value, int | float) and not isinstance(value, bool)


def constants_of(module: ModuleType) -> dict[str, Any]:
    """What a module calls by a capital name, where a number is in it."""
    text = Path(module.__file__ or "").read_text("utf-8")
    own = {line.split(":")[0].split("=")[0].strip() for line in text.splitlines() if line[:1].isupper() or line[:1] == "_"}
    names = {n.strip() for left in own for n in left.split(",")}
    found = {n: plain(getattr(module, n)) for n in sorted(names) if n.lstrip("_").isupper() and hasattr(module, n)}
    return json.loads(json.dumps({n: v for n, v in found.items() if has_number(v)}))


def now() -> dict[str, dict[str, Any]]:
    found = {}
    for info in pkgutil.walk_packages(jarvok.core.__path__, "jarvok.core."):
        if info.name not in LEFT_OUT and (constants := constants_of(importlib.import_module(info.name))):
            found[info.name.removeprefix("jarvok.core.")] = constants
    return found


if os.environ.get("JARVOK_WRITE_CONSTANTS"):
    rows = (
        f"{json.dumps(module)}: {{\n" + ",\n".join(f" {json.dumps(n)}: {json.dumps(v)}" for n, v in constants.items()) + "\n}"
        for module, constants in now().items()
    )
    KEPT.write_text("{\n" + ",\n".join(rows) + "\n}\n", "utf-8")
WANTED: dict[str, dict[str, Any]] = json.loads(KEPT.read_text("utf-8"))


def test_no_module_is_forgotten() -> None:
    assert sorted(now()) == sorted(WANTED)


@pytest.mark.parametrize("name", sorted(WANTED))
def test_the_constants_of_a_module(name: str) -> None:
    assert constants_of(importlib.import_module(f"jarvok.core.{name}")) == WANTED[name]

"""The ways to set a load, one module each: its rules, how it is read, written, priced and stepped, and what is printed with it.

A module found here with `RULES` (and `METHOD`, where it is a school of its own) is in use: nothing else lists them.
"""

from __future__ import annotations

from importlib import import_module
from pkgutil import iter_modules

from jarvok.core.loading.rule import LoadRule, Method

_MODULES = [import_module(f"{__name__}.{found.name}") for found in iter_modules(__path__)]
RULES: tuple[type[LoadRule], ...] = tuple(
    sorted((rule for module in _MODULES for rule in getattr(module, "RULES", ())), key=lambda rule: rule.is_read_last)
)
METHODS: tuple[Method, ...] = tuple(
    sorted((module.METHOD for module in _MODULES if hasattr(module, "METHOD")), key=lambda method: method.place)
)
METHOD_BY_KEY = {method.key: method for method in METHODS}

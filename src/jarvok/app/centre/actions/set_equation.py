"""The equation of repetitions and max is chosen."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.centre.in_force import EQUATION
from jarvok.app.facts.centre.models import RuleChange
from jarvok.core.rules import check_equation


def run(who: Who, key: str) -> None:
    """The equation of repetitions and max is chosen."""
    with acting(who, "set_equation", "equation chosen"):
        RuleChange.objects.create(key=EQUATION, text=check_equation(key).key)

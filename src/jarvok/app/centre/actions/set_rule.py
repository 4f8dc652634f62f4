"""A value of the centre is changed, or put back to its default."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.facts.centre.models import RuleChange
from jarvok.core.errors import CoachError
from jarvok.core.rules import RULE_BY_KEY, check_rule


def run(who: Who, key: str, value: float | None) -> None:
    """Change a value, or go back to its default with None."""
    with acting(who, "set_rule", f"{key} set"):
        if value is not None:
            check_rule(key, value)
        elif key not in RULE_BY_KEY:
            raise CoachError("There is no such setting.", where=key)
        RuleChange.objects.create(key=key, value=value)

"""Who is under age and who is new to lifting: asked in many places, answered here."""

from __future__ import annotations

from jarvok.core.rules import DEFAULT_RULES, Rules

ADULT_AGE = 18  # [C] whole years; under it, local rules and guardians come first
YOUNG_AGE = 16  # [C] under it the conservative test is leant on


def is_minor(age_years: float | None) -> bool:
    """Return whether somebody of that age is under age; an age that is not known counts as adult."""
    return age_years is not None and age_years < ADULT_AGE


def is_novice(training_age_years: float | None, rules: Rules = DEFAULT_RULES) -> bool:
    """Return whether somebody is new to lifting, by the years the centre has set; years not known count as none new."""
    return training_age_years is not None and training_age_years < rules["max.novice_years"]

"""Who an athlete is: what is sent is changed, what is not sent stays."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date
from typing import Any

from jarvok.app import clock
from jarvok.app.acts import Who, acting, check_scope
from jarvok.app.facts.athletes.models import DAYS_A_YEAR, Athlete, Squad
from jarvok.app.facts.centre.models import KitRecord
from jarvok.core.chooser.known import check_traits
from jarvok.core.errors import CoachError, outside
from jarvok.core.quantities.days import said_day

AGES = (5, 100)
LIMITS = {
    "training_age_years": (0, 60),
    "class_limit_kg": (20, 250),
    "height_cm": (90, 240),
    "sessions_a_week": (0, 21),
    "minutes_a_session": (5, 400),
}
WORDS = {"training_age_years": "years of lifting", "class_limit_kg": "the limit of a class in kg", "height_cm": "height in cm"}
LENGTHS = {"group": 40, "position": 40, "sex": 10, "body_mass_class": 20, "note": 200, "limb_note": 120, "goals": 200}
MAY_BE_EMPTY = {"birth_date", "class_limit_kg", "height_cm", "kit_id", "sessions_a_week", "minutes_a_session"}
SHOWN_YEARS = 0.1  # [T] how finely a form shows them


def run(who: Who, athlete: Athlete, sent: Mapping[str, Any]) -> None:
    """Change what is sent. An empty date, limit or kit is taken out."""
    _check(sent)
    if "squad_id" in sent:
        check_scope(who.person, squad=Squad.objects.get(pk=sent["squad_id"]))
    if sent.get("kit_id") is not None:
        KitRecord.objects.get(pk=sent["kit_id"])
    sent = {k: v for k, v in sent.items() if k != "training_age_years" or _is_said_anew(athlete, v)}
    changed = {k: v.strip() if isinstance(v, str) else v for k, v in sent.items() if v is not None or k in MAY_BE_EMPTY}
    if not changed:
        return
    words = ", ".join(k.removesuffix("_id").replace("_", " ") for k in changed)
    with acting(who, "change_details", f"changed: {words}", athlete=athlete):
        if "training_age_years" in changed:
            changed["years_said_on"] = clock.today()
        for key, value in changed.items():
            setattr(athlete, key, value)
        athlete.save(update_fields=list(changed))


def _is_said_anew(athlete: Athlete, years: float | None) -> bool:
    """Whether years of lifting are others than the form showed, which is to a tenth of a year."""
    return years is not None and abs(years - athlete.years_of_lifting_on(clock.today())) > SHOWN_YEARS / 2


def _check(sent: Mapping[str, Any]) -> None:
    check_traits(sent.get("traits") or ())
    name, born = sent.get("name"), sent.get("birth_date")
    if name is not None and not 1 <= len(name.strip()) <= 80:
        raise CoachError("An athlete needs a name.", where="name", accepted="1 to 80 characters are accepted.")
    if isinstance(born, date) and not AGES[0] <= (clock.today() - born).days / DAYS_A_YEAR <= AGES[1]:
        raise CoachError(
            f"Born {said_day(born, year=True, is_long=True)} cannot be.",
            where="birth_date",
            accepted=f"Ages from {AGES[0]} to {AGES[1]} are accepted.",
        )
    for key, (low, high) in LIMITS.items():
        value = sent.get(key)
        if value is not None and not low <= value <= high:
            raise outside(WORDS.get(key, key), value, low, high, key.removesuffix("_kg"))
    if sent.get("dominant_side") not in (None, "", "left", "right"):
        raise CoachError("A side is left or right.", where="dominant_side", accepted="left, right or none")
    for key, most in LENGTHS.items():
        if len(sent.get(key) or "") > most:
            raise CoachError(f"The {key.replace('_', ' ')} is too long.", where=key, accepted=f"Up to {most} characters.")

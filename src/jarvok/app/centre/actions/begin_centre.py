"""The centre begins: its name, where it lies, and the first person, who may do everything."""

from __future__ import annotations

from django.contrib.auth.models import User

from jarvok.app import clock
from jarvok.app.accounts.actions import record_person
from jarvok.app.accounts.passwords import checked_password
from jarvok.app.acts import Who, acting
from jarvok.app.centre.actions import set_habits, set_zone
from jarvok.app.facts.centre.models import Centre
from jarvok.app.facts.people.models import Role
from jarvok.app.facts.writing import writing
from jarvok.app.problems import Conflict
from jarvok.core.errors import CoachError
from jarvok.core.quantities.days import DayOrder

LONGEST_NAME = 80  # [T]


def is_empty() -> bool:
    """Whether nobody has an account yet: the one time that a page may make one by itself."""
    return not User.objects.exists()


def run(
    name: str, zone: str, person: str, sign_in: str, password: str, *, unit: str = "kg", day_order: str = DayOrder.DAY_FIRST
) -> User:
    """Make the centre and its first account. Refused once there is one."""
    for where, text in (("name", name), ("person", person), ("sign_in", sign_in)):
        if not 1 <= len(text.strip()) <= LONGEST_NAME:
            said = {
                "name": "The centre needs a name.",
                "person": "Your name is wanted.",
                "sign_in": "A name to sign in with is wanted.",
            }
            raise CoachError(said[where], where=where, accepted=f"1 to {LONGEST_NAME} characters are accepted.")
    with writing():
        if not is_empty():
            raise Conflict("This centre has begun already. Sign in, or ask its head for an account.")
        user = User(username=sign_in.strip(), first_name=person.strip()[:LONGEST_NAME])
        user.set_password(checked_password(password, user))
        user.save()
        who = Who(record_person.run(user, Role.HEAD))
        with acting(who, "begin_centre", f"{name.strip()} begins"):
            Centre.objects.update_or_create(pk=1, defaults={"name": name.strip(), "begun_at": clock.now()})
            set_zone.run(who, zone)
            set_habits.run(who, unit, day_order)
    return user

"""A whole centre comes from its file into an installation that holds none, with somebody who may do everything."""

from __future__ import annotations

from typing import IO

from django.contrib.auth.models import User

from jarvok.app import clock
from jarvok.app.accounts.passwords import checked_password
from jarvok.app.accounts.people import LONGEST_NAME
from jarvok.app.acts import Who, acting
from jarvok.app.centre.actions.begin_centre import is_empty
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.centre.models import Centre
from jarvok.app.facts.people.models import Person, Role, Via
from jarvok.app.facts.writing import look_over_tables, writing
from jarvok.app.problems import Conflict
from jarvok.app.upkeep import whole_centre
from jarvok.core.errors import CoachError


def run(source: IO[bytes], person: str, sign_in: str, password: str) -> User:
    """Read the centre; whoever signs in by that name in it has the password from now on, else a new head is made.

    Raises `Conflict` where anybody has an account or an athlete is there, `CoachError` for a file that is not whole.
    """
    if not is_empty() or Athlete.objects.exists():
        raise Conflict("This installation holds a centre already. A file is read where there is none.")
    for where, text in (("person", person), ("sign_in", sign_in)):
        if not 1 <= len(text.strip()) <= LONGEST_NAME:
            raise CoachError("A name is wanted.", where=where, accepted=f"1 to {LONGEST_NAME} characters are accepted.")
    with writing():
        checked_password(password, User(username=sign_in.strip(), first_name=person.strip()))
        rows = whole_centre.read(source)
        look_over_tables()
        user = User.objects.filter(username=sign_in.strip()).first() or User(username=sign_in.strip(), first_name=person.strip())
        user.is_active = True
        user.set_password(password)
        user.save()
        made, _ = Person.objects.update_or_create(
            user=user, defaults={"role": Role.HEAD, "ended_at": None}, create_defaults={"name": person.strip(), "role": Role.HEAD}
        )
        Centre.objects.update_or_create(
            pk=1,
            defaults={"housekeeper": "", "backup_folder": "", "backed_up_on": None},
            create_defaults={"begun_at": clock.now()},
        )
        Centre.objects.filter(pk=1, begun_at__isnull=True).update(begun_at=clock.now())
        with acting(Who(made, Via.IMPORT), "take_in_centre", f"a whole centre taken in: {rows} rows"):
            return user

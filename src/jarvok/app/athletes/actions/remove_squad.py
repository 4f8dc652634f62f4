"""A squad that nobody is in goes."""

from __future__ import annotations

from jarvok.app.acts import Who, acting, check_scope
from jarvok.app.facts.athletes.models import Squad
from jarvok.app.facts.people.models import Act
from jarvok.app.problems import Conflict


def run(who: Who, squad: Squad) -> None:
    """Remove an empty squad with its practice and calendar. Refused while somebody is in it, archived or not."""
    check_scope(who.person, squad=squad)
    count = squad.athletes.count()
    if count:
        raise Conflict(
            f"{squad.name} still has {count} {'athlete' if count == 1 else 'athletes'}, archived ones too. Move them first."
        )
    with acting(who, "remove_squad", f"{squad.name} removed"):
        Act.objects.filter(squad=squad).update(squad=None)
        squad.delete()

"""An account ends: the person is out everywhere at once. What they did stays theirs."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.accounts.people import leave_a_head, sign_out_everywhere
from jarvok.app.acts import Who, acting
from jarvok.app.facts.people.models import Link, Person


def run(who: Who, person: Person) -> None:
    """End an account, its sign-ins, and the links it has made or waits for. Refused for the only head."""
    with acting(who, "end_person", f"the account of {person.name} ended"):
        leave_a_head(person)
        now = clock.now()
        person.ended_at = now
        person.save(update_fields=["ended_at"])
        Link.objects.filter(maker=person, ended_at__isnull=True).update(ended_at=now)
        person.links.filter(ended_at__isnull=True).update(ended_at=now)
        sign_out_everywhere(person.user)

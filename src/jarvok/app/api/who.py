"""Who a request comes from."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.http import HttpRequest

from jarvok.app.accounts.actions import record_person
from jarvok.app.acts import Who
from jarvok.app.facts.people.models import Person, Via
from jarvok.app.room.links import maker_of, rack_token


def who_of(request: HttpRequest) -> Who:
    """The person signed in; over a rack's link, whoever made it."""
    user = request.user
    if isinstance(user, User):
        return Who(Person.objects.filter(user_id=user.pk).first() or record_person.run(user))
    return who_by_link(rack_token(request))


def who_by_link(token: str) -> Who:
    """The person a link acts for: whoever made it, nobody for one from before makers were kept."""
    return Who(Person.objects.filter(pk=maker_of(token)).first(), Via.LINK, token[-16:])

"""A link is over before its time."""

from __future__ import annotations

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.people.models import Link


def run(who: Who, link: Link) -> None:
    """End a link; ended twice is ended once."""
    with acting(who, "end_link", f"a link ended: {link.get_kind_display().lower()}"):
        Link.objects.filter(pk=link.pk, ended_at__isnull=True).update(ended_at=clock.now())

"""Wrong passwords: after a few of them the next try waits, longer each time, by name and by where it comes from."""

from __future__ import annotations

from datetime import timedelta

from django.db.models import Max, Q

from jarvok.app import clock
from jarvok.app.facts.people.models import WrongPassword

FREE = 4  # [T] slips of the hand that cost nothing
FIRST_WAIT_S, LONGEST_WAIT_S = 10.0, 900.0  # [T]
REMEMBERED = timedelta(minutes=30)


def wait_s(name: str, address: str) -> float:
    """Return the seconds until a name may be tried again from an address; 0 for now."""
    since = clock.now() - REMEMBERED
    rows = WrongPassword.objects.filter(Q(name=name) | Q(address=address), at__gte=since)
    count = rows.count()
    last = rows.aggregate(last=Max("at"))["last"]
    if count <= FREE or last is None:
        return 0.0
    wait = min(LONGEST_WAIT_S, FIRST_WAIT_S * 2.0 ** (count - FREE - 1))
    gone: float = (clock.now() - last).total_seconds()
    return max(0.0, wait - gone)


def was_wrong(name: str, address: str) -> None:
    """Remember a wrong password, and forget those that are long past."""
    WrongPassword.objects.filter(at__lt=clock.now() - REMEMBERED).delete()
    WrongPassword.objects.create(name=name[:150], address=address[:64], at=clock.now())


def was_right(name: str) -> None:
    """Forget the slips of somebody who has got in."""
    WrongPassword.objects.filter(name=name).delete()

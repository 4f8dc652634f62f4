"""What serves for a while only: how much of it there is, how long it is kept, and away with it."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router

from jarvok.app.api.problems import ERRORS
from jarvok.app.api.who import who_of
from jarvok.app.schema import Schema
from jarvok.app.upkeep import pruning
from jarvok.app.upkeep.actions import set_kept_days, throw_away

router = Router(tags=["upkeep"])


class PassingOut(Schema):
    key: str
    words: str
    rows: int
    served: int


class UpkeepOut(Schema):
    database_mb: float
    days: int
    least_days: int
    most_days: int
    passing: list[PassingOut]


class DaysIn(Schema):
    days: int


@router.get("/upkeep", response={200: UpkeepOut, **ERRORS})
def read_upkeep(request: HttpRequest) -> UpkeepOut:
    """How large the database is, and what of it has served."""
    return UpkeepOut(
        database_mb=round(pruning.database_mb(), 1),
        days=pruning.kept_days(),
        least_days=pruning.LEAST_DAYS,
        most_days=pruning.MOST_DAYS,
        passing=[PassingOut(key=s.key, words=s.words, rows=s.rows, served=s.served) for s in pruning.standing()],
    )


@router.put("/upkeep/days", response={200: UpkeepOut, **ERRORS})
def set_days(request: HttpRequest, payload: DaysIn) -> UpkeepOut:
    set_kept_days.run(who_of(request), payload.days)
    return read_upkeep(request)


@router.post("/upkeep/throw-away", response={200: UpkeepOut, **ERRORS})
def throw_it_away(request: HttpRequest) -> UpkeepOut:
    throw_away.run(who_of(request))
    return read_upkeep(request)

"""An athlete's own session of one block on an empty day: written, and started."""

from __future__ import annotations

from typing import Any

from jarvok.core.session.blocks import Grouping

DAY = "2026-12-02"


def written(coach: Any, athlete: Any, rows: list[tuple[str, str]], grouping: Grouping, **figures: int) -> str:
    """An own session of one block on an empty day; returns its key."""
    path = f"athletes/{athlete.pk}/sessions"
    key = coach.ok("POST", path, {"day": DAY, "theme": "One block"})["key"]
    for lift, text in rows:
        body = {"op": "add", "exercise_id": lift, "text": text, "block": "work", "is_main": True}
        coach.ok("POST", f"{path}/{DAY}/{key}/edit", body)
    if grouping is not Grouping.STRAIGHT:
        body = {"op": "regroup", "block": "work", "grouping": grouping, **figures}
        coach.ok("POST", f"{path}/{DAY}/{key}/edit", body)
    return str(key)


def started(coach: Any, athlete: Any, key: str) -> Any:
    return coach.ok("POST", "floor/sessions", {"athlete_id": athlete.pk, "day": DAY, "key": key})

"""A pain told on the floor stands before every session that would load the place, until somebody has answered."""

from __future__ import annotations

from collections.abc import Iterator

from jarvok.core.checks.flag import Flag, Severity
from jarvok.core.checks.plan_views import SessionView
from jarvok.core.floor.pain import loads
from jarvok.core.floor.readiness import REFERRAL
from jarvok.core.working import COMMON_PRACTICE


def open_pain(view: SessionView) -> Iterator[Flag]:
    """A line that loads a place where pain was told, as long as nobody has said what became of it."""
    for pain in view.pains:
        hit = [x for x in view.lines if loads(pain.area, x.exercise)]
        if not hit or view.day < pain.day:
            continue
        names = ", ".join(dict.fromkeys(x.exercise.name for x in hit))
        why = f"{pain.words}. It loads the place: {names}. {REFERRAL}"
        title = "Unwell last time: ask first." if pain.area == "unwell" else "Pain last time: decide first."
        yield Flag("open-pain", Severity.CAUTION, title, why, COMMON_PRACTICE, view.at(hit[0]))

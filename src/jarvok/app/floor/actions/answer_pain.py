"""A pain that was told on the floor is answered: as before, or with restrictions until a licensed professional clears it."""

from __future__ import annotations

from datetime import date

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.athletes.actions import add_restriction
from jarvok.app.athletes.reading import restriction_tags
from jarvok.app.facts.floor.models import PainAnswer, PainReport
from jarvok.app.floor.pains import as_told
from jarvok.app.problems import Conflict
from jarvok.core.errors import CoachError
from jarvok.core.floor.pain import area_words
from jarvok.core.floor.readiness import AREAS

OPEN = (PainAnswer.CLEARED, PainAnswer.RESTRICTED)


def run(who: Who, report: PainReport, answer: str) -> None:
    """Keep a person's word on a pain. Restrictions are set for every pattern that loads the place, from today on."""
    athlete = report.session.athlete
    with acting(who, "answer_pain", f"pain, {area_words(report.area)}: {answer}", athlete=athlete):
        if answer not in OPEN:
            raise CoachError(f"“{answer}” is no answer.", where="answer", accepted="cleared or restricted.")
        if report.answered_at is not None:
            raise Conflict("This was answered already.")
        report.answer, report.answered_at = answer, clock.now()
        report.save(update_fields=["answer", "answered_at"])
        if answer == PainAnswer.RESTRICTED:
            _restrict(who, report, clock.today())


def _restrict(who: Who, report: PainReport, since: date) -> None:
    athlete, told = report.session.athlete, as_told(report)
    known = {r.tag for r in athlete.restrictions.all() if r.until is None or r.until >= since}
    set_by = who.person.name if who.person is not None else "the coach"
    for tag in sorted(AREAS[report.area][1] & set(restriction_tags()) - known):
        add_restriction.run(who, athlete, tag=tag, words=told.words[:120], side="", set_by=set_by[:60], since=since, until=None)


def asked_again(who: Who, athlete_id: int, day: date) -> None:
    """An arrival on a later day asks anew: what it says counts from then on."""
    rows = PainReport.objects.filter(session__athlete_id=athlete_id, session__day__lt=day, answered_at__isnull=True)
    rows.update(answer=PainAnswer.ASKED, answered_at=clock.now())

"""A logged set is corrected."""

from __future__ import annotations

from dataclasses import replace

from jarvok.app import clock
from jarvok.app.acts import Who, acting
from jarvok.app.facts.floor.models import AdviceRecord, PainReport, SetKind, SetRecord, TrainingSession
from jarvok.app.floor.at_hand import read_anew
from jarvok.app.floor.done_sets import Done, as_logged, check_set, line_and_set, set_of, store
from jarvok.app.floor.events import check_open
from jarvok.app.problems import Conflict


def run(who: Who, session: TrainingSession, line_id: int, kind: str, number: int, seen_id: int, done: Done) -> None:
    """Put another word in place of a logged set. `seen_id` is the record the page showed: a newer one is not overwritten."""
    with acting(who, "correct_set", f"set {number} corrected", athlete=session.athlete):
        check_open(session)
        line, item = line_and_set(session, line_id, kind, number)
        if item.record is None:
            raise Conflict(f"Set {number} of {line.slot} was taken back meanwhile. Yours was not stored.")
        if item.record.pk != seen_id:
            raise Conflict(f"Changed meanwhile, {as_logged(line, item.record)}. Yours was not stored: look at it first.")
        done = _with_its_pain(done, item.record)
        check_set(done)
        now = clock.now()
        item.record.taken_back_at = now
        item.record.save(update_fields=["taken_back_at"])
        after = number if kind == SetKind.WORK else 0
        AdviceRecord.objects.filter(line=line, after_number=after, taken_back_at__isnull=True).update(taken_back_at=now)
        held = read_anew(session.pk)
        store(held, *set_of(held.line(line_id), kind, number), done, step_id=item.record.step)


def _with_its_pain(done: Done, record: SetRecord) -> Done:
    """The pain told with the set stays as it was told, unless another is."""
    told = PainReport.objects.filter(record=record).first() if done.trouble and not done.pain_area else None
    if told is None:
        return done
    return replace(done, pain_area=told.area, carries_on=bool(told.carried_on), carry_on=told.carried_on)

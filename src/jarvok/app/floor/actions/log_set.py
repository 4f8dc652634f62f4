"""A set is logged as it was done."""

from __future__ import annotations

from jarvok.app.acts import Who, acting
from jarvok.app.floor.at_hand import AtHand, has_written
from jarvok.app.floor.done_sets import Done, as_logged, check_set, is_alike, set_of, store, store_step
from jarvok.app.floor.events import check_open
from jarvok.app.floor.lines import logged_step
from jarvok.app.problems import Conflict


def run(who: Who, held: AtHand, line_id: int, kind: str, number: int, done: Done) -> None:
    """Store one set as done, with all of its step; after a work set the advice for the next is stored with it.

    Who taps the same as somebody before has said nothing new; where the two differ, both are told.
    """
    with acting(who, "log_set", f"set {number} logged", athlete=held.session.athlete):
        check_open(held.session)
        check_set(done)
        line, item = set_of(held.line(line_id), kind, number)
        if item.record is not None:
            if not is_alike(item.record, done):
                told = as_logged(line, item.record)
                raise Conflict(
                    f"Already logged, {told}. Yours was not stored: keep that, or use yours.",
                    stored_id=item.record.pk, stored=told,
                )  # fmt: skip
        elif (step := logged_step(held.session, line, kind, number)) and (step.is_one_tap or "rounds" in done.measures):
            store_step(held, step, line, item, done)
        else:
            store(held, line, item, done, step_id=step.id if step is not None else "")
    has_written(held)

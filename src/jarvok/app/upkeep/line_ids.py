"""Lines typed, and flags kept, before lines had ids: found by the slot they named in the session of their day."""

from __future__ import annotations

from contextlib import suppress
from datetime import date

from django.db.models import Q

from jarvok.app import clock
from jarvok.app.centre.in_force import rules_in_force
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.seasons.models import FlagWord
from jarvok.app.facts.training.models import LineEdit
from jarvok.app.seasons.season_book import SeasonBook
from jarvok.app.training.planned_weeks import planned_week
from jarvok.app.training.sheets import MERGED_LINE, MERGED_SLOT

# the place of a line as flags kept it: day, session, slot; the day has to be one
OF_A_LINE = r"^\d{4}-(?:0[1-9]|1[0-2])-(?:0[1-9]|1\d|2[0-8]|29|30|31):[^:]+:[A-Z][0-9]+$"


def give_line_ids() -> int:
    """Give their line's id to edits and kept flags without one, as the session of their day is planned now; return how many.

    A slot that the session no longer has keeps its name: such an edit is shown as an older line, as it always was.
    """
    given = 0
    edits, words = Q(line_edits__line_id=""), Q(flag_words__where__regex=OF_A_LINE)
    for athlete in Athlete.objects.filter(edits | words).distinct():
        slots = _Slots(athlete)
        for edit in LineEdit.objects.filter(athlete=athlete, line_id=""):
            edit.line_id = slots.line_id(edit.day, edit.session_key, edit.slot)
            if edit.line_id:
                edit.save(update_fields=["line_id"])
                given += 1
        for word in FlagWord.objects.filter(athlete=athlete, where__regex=OF_A_LINE):
            day, key, slot = word.where.split(":")
            with suppress(ValueError):  # a 31st of a month that has none
                line_id = slots.line_id(date.fromisoformat(day), key, slot)
                if not line_id:
                    continue
                word.where = f"{day}:{key}:{line_id}"
                word.save(update_fields=["where"])
                given += 1
    return given


class _Slots:
    """The lines of an athlete's sessions by day, key and slot, each week planned once."""

    def __init__(self, athlete: Athlete) -> None:
        self.athlete, self.rules = athlete, rules_in_force()
        self.plan = SeasonBook([athlete], clock.today(), self.rules).plan(athlete.pk)
        self.weeks: dict[date, dict[tuple[date, str, str], str]] = {}

    def line_id(self, day: date, key: str, slot: str) -> str:
        """The id of the line that stands in a slot, or nothing."""
        if slot == MERGED_SLOT:
            return MERGED_LINE
        week = self.plan.week_of(day) if self.plan is not None else None
        if week is None or self.plan is None:
            return ""
        if week.start not in self.weeks:
            sessions = planned_week(self.athlete, self.plan, week, self.rules)
            self.weeks[week.start] = {(s.day, s.key, x.slot): x.line_id for s in sessions for x in s.lines}
        return self.weeks[week.start].get((day, key, slot), "")

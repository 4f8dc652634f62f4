"""What the demo's coach has learned: cues, a set-up, an open question, a note for a squad, words typed at the rack, reasons."""

from __future__ import annotations

from datetime import date, timedelta

from jarvok.app.acts import Who
from jarvok.app.athletes.reading import read_for_a_week
from jarvok.app.centre.in_force import rules_in_force
from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.facts.floor.models import SetKind, SetRecord
from jarvok.app.facts.people.models import Via
from jarvok.app.learning.actions import note_finding, say_why_missed
from jarvok.app.learning.weeks import weeks_of

BY_COMMAND = Who(None, Via.COMMAND)
FOUND = (  # place in the squad, kind, lift, sentence, test
    (0, "cue", "trap_bar_deadlift", "Chest through the bar.", ""),
    (2, "setup", "bench_press", "Rack pins two holes lower.", ""),
    (3, "question", "bench_press", "Nerve or strength off the chest?", "a press from pins at the chest"),
    (7, "cue", "trap_bar_deadlift", "Push the floor away, then stand.", ""),
)
SAID = ((1, "trap_bar_deadlift", "look at the far wall"), (4, "bench_press", "elbows under the bar"))
REASONS = ("work", "ill", "away")


def add_learned(today: date) -> None:
    """Write what was learned over what was done."""
    wrestling, handball = Squad.objects.get(sport="wrestling"), Squad.objects.get(sport="handball")
    people = list(wrestling.athletes.order_by("pk"))
    for at, kind, lift, sentence, test in FOUND:
        note_finding.run(BY_COMMAND, people[at], kind, lift, sentence, test, day=today - timedelta(days=5 * at + 4))
    note_finding.run(BY_COMMAND, handball, "note", "", "Sprints are faster the day after a lead-in day.")
    for at, lift, words in SAID:
        done = SetRecord.objects.filter(line__session__athlete=people[at], line__exercise_id=lift, kind=SetKind.WORK)
        last = done.order_by("line__session__day", "pk").last()
        if last is not None:
            last.note = words
            last.save(update_fields=["note"])
    team = read_for_a_week(Athlete.here.filter(squad=handball))
    rows = weeks_of(team, today - timedelta(weeks=3), today, rules_in_force())
    missed = [s for weeks in rows.values() for w in weeks for s in w.sessions if s.is_missed]
    by_pk = {a.pk: a for a in team}
    for session, reason in zip(sorted(missed, key=lambda s: s.day), REASONS, strict=False):
        say_why_missed.run(BY_COMMAND, by_pk[session.athlete_id], session.day, session.key, reason)

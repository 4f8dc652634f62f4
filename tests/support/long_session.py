"""A session of sixty sets in four lines, for what has to be logged many times."""

from __future__ import annotations

from typing import Protocol

MADE = """
from datetime import date, datetime, timezone
from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.floor.models import SessionLine, TrainingSession
athlete = Athlete.objects.get(name="Yara Lindqvale")
now = datetime.now(timezone.utc)
key = f"L{TrainingSession.objects.count()}"
t = TrainingSession.objects.create(athlete=athlete, day=date(2026, 11, 24), key=key, theme="long", started_at=now)
planned = dict(index=0, reps=5, or_more=False, seconds=None, metres=None, per_side=False, load_kg=40.0, wanted_kg=40.0,
    per_side_kg=[10], share_of_max=None, target_low_mps=None, target_high_mps=None, target_is_peak=False, target_rir=None,
    stop_loss_pct=20, method="", working=None)
for i in range(4):
    SessionLine.objects.create(session=t, order=i, slot=f"A{i + 1}", block="A", exercise_id="bench_press", text="15 × 5",
        is_main=True, ramp=[], planned=[planned] * 15, rest_s=60)
print(t.pk)
"""


class Shell(Protocol):
    def output(self, *args: str) -> str: ...


def long_session(server: Shell) -> str:
    """Store it for an athlete nobody else's test touches; returns its number."""
    return server.output("shell", "-v", "0", "-c", MADE).split()[-1]

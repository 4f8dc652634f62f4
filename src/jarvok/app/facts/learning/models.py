"""What was learned of an athlete or a squad, and why a session was missed."""

from __future__ import annotations

from django.db import models

from jarvok.app.facts.athletes.models import Athlete, Squad
from jarvok.app.facts.fact import Fact


class FindingKind(models.TextChoices):
    """What a finding is about, which says where it acts."""

    CUE = "cue", "Cue"
    SETUP = "setup", "Set-up"
    REST = "rest", "Rest"
    JUMPS = "jumps", "Jumps a set"
    LOAD = "load", "Load"
    RESERVE = "reserve", "Reps in reserve"
    VELOCITY = "velocity", "Velocity at an effort"
    LINE = "line", "Load–velocity line"
    FAST = "fast", "Fast load"
    VARIATION = "variation", "Variation"
    LEAD_IN = "lead_in", "Lead-in day"
    TAPER = "taper", "Taper"
    QUESTION = "question", "Open question"
    NOTE = "note", "Note"


class Finding(Fact):
    """A sentence with its evidence and what it changes. `ref` names what the application noticed, so that it asks once."""

    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, null=True, related_name="findings")
    squad = models.ForeignKey(Squad, on_delete=models.CASCADE, null=True, related_name="findings")
    kind = models.CharField(max_length=10, choices=FindingKind.choices)
    exercise_id = models.CharField(max_length=40, blank=True)
    sentence = models.CharField(max_length=200)
    value = models.FloatField(
        null=True
    )  # a rest in s, jumps a set, a velocity or its change in m/s, % of the max, days of a taper
    test = models.CharField(max_length=120, blank=True)  # of an open question: what would answer it
    evidence = models.JSONField(default=list)  # words and a reference each
    day = models.DateField()
    ref = models.CharField(max_length=80, blank=True)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.CheckConstraint(
                condition=models.Q(athlete__isnull=True) ^ models.Q(squad__isnull=True), name="a_finding_is_somebodys"
            ),
            models.UniqueConstraint(
                fields=["athlete", "ref"], condition=~models.Q(ref=""), name="what_was_noticed_is_asked_once"
            ),
        ]


class FindingState(models.TextChoices):
    """What the coach has made of it."""

    ACTS = "acts"
    DROPPED = "dropped"
    WITHDRAWN = "withdrawn"
    ANSWERED = "answered"  # an open question that is open no more


class FindingWord(Fact):
    """A coach's word on a finding; the newest speaks. `until` is the day from which it asks for a test again."""

    finding = models.ForeignKey(Finding, on_delete=models.CASCADE, related_name="words")
    state = models.CharField(max_length=10, choices=FindingState.choices)
    reason = models.CharField(max_length=200, blank=True)
    until = models.DateField(null=True)
    at = models.DateTimeField()

    class Meta:
        ordering = ["id"]


class MissedWord(Fact):
    """Why a planned session was not done; the newest speaks, an empty one takes it back."""

    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="missed_words")
    day = models.DateField()
    key = models.CharField(max_length=4)
    reason = models.CharField(max_length=20, blank=True)
    note = models.CharField(max_length=120, blank=True)
    at = models.DateTimeField()

    class Meta:
        ordering = ["id"]

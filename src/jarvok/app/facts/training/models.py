"""The plan as the coach wrote it, where it differs from what the arrangement proposes."""

from __future__ import annotations

from django.db import models

from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.fact import Fact


class LineEdit(Fact):
    """A line of a session as the coach typed it. The newest speaks; an empty text goes back to the proposal.

    `line_id` is what the line is known by; `slot` is where it stood, and all that is known of a line from before lines had ids.
    """

    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="line_edits")
    day = models.DateField()
    session_key = models.CharField(max_length=4)
    line_id = models.CharField(max_length=60, blank=True)
    slot = models.CharField(max_length=4)
    exercise_id = models.CharField(max_length=40)
    text = models.CharField(max_length=200, blank=True)
    at = models.DateTimeField(auto_now_add=True)
    undone_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["athlete", "day"])]


class MethodChoice(Fact):
    """The loading method a coach has picked for a lift over a block: its lines are written by it from day to day."""

    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="method_choices")
    exercise_id = models.CharField(max_length=40)
    method = models.CharField(max_length=20)
    from_day = models.DateField()
    until_day = models.DateField()
    reason = models.CharField(max_length=200, blank=True)
    at = models.DateTimeField(auto_now_add=True)
    withdrawn_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["athlete", "exercise_id"])]


class SessionMove(Fact):
    """A session the coach has put on another day of its week. The newest speaks; no day goes back."""

    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="session_moves")
    week_start = models.DateField()
    session_key = models.CharField(max_length=4)
    day = models.DateField(null=True)
    at = models.DateTimeField(auto_now_add=True)
    undone_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]


class WeekChoice(Fact):
    """How a week is arranged: for all weeks, or for the one of `monday`. The newest speaks.

    `by_order` says whether sessions are done in order, a missed one next, or on their days; nothing is the model's own way.
    """

    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="week_choices")
    arrangement = models.CharField(max_length=30)
    days = models.PositiveSmallIntegerField(default=0)  # 0 leaves the arrangement its usual number
    monday = models.DateField(null=True)
    by_order = models.BooleanField(null=True)
    at = models.DateTimeField(auto_now_add=True)
    undone_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]


class WrittenSession(Fact):
    """A session as the coach has put it together. The newest of its week and key speaks.

    `state` is written (the document stands on `day`), taken_out, or as_planned (back to the arrangement's proposal).
    """

    WRITTEN, TAKEN_OUT, AS_PLANNED = "written", "taken_out", "as_planned"

    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="written_sessions")
    week_start = models.DateField()
    session_key = models.CharField(max_length=4)
    state = models.CharField(max_length=12)
    day = models.DateField(null=True)
    document = models.JSONField(null=True)
    words = models.CharField(max_length=200)
    at = models.DateTimeField(auto_now_add=True)
    undone_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["athlete", "week_start"])]


class ToldWeek(Fact):
    """A week as its plan stood, day by day once each is over: what the arrangement proposed, and the week's place in the season.

    `document` holds the sessions of the days up to `through`, `dose` the week as the season had it. The coach's own sessions and
    edits are facts of their own and lie over it. What plans weeks may change; what a past day held may not.
    """

    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="told_weeks")
    monday = models.DateField()
    through = models.DateField()
    document = models.JSONField()
    dose = models.JSONField()
    at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["monday"]
        constraints = [models.UniqueConstraint(fields=["athlete", "monday"], name="a_week_is_told_once")]


class Template(Fact):
    """A session, a week or a phase kept for later. Saved again under its name it gets a new version; the old ones stay."""

    name = models.CharField(max_length=80)
    kind = models.CharField(max_length=10)  # session, week, phase
    version = models.PositiveSmallIntegerField(default=1)
    document = models.JSONField()
    note = models.CharField(max_length=200, blank=True)
    at = models.DateTimeField(auto_now_add=True)
    withdrawn_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["kind", "name", "-version"]
        constraints = [models.UniqueConstraint(fields=["kind", "name", "version"], name="a_version_is_saved_once")]


class OwnExercise(Fact):
    """An exercise of the coach's own, or the coach's edit of a shipped one of the same id. The newest speaks."""

    exercise_id = models.CharField(max_length=40)
    data = models.JSONField()
    at = models.DateTimeField(auto_now_add=True)
    withdrawn_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]

"""The plan as the coach wrote it, where it differs from what the arrangement proposes."""

from __future__ import annotations

from django.db import models

from jarvok.app.athletes.models import Athlete


class LineEdit(models.Model):
    """A line of a session as the coach typed it. The newest speaks; an empty text goes back to the proposal."""

    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="line_edits")
    day = models.DateField()
    session_key = models.CharField(max_length=4)
    slot = models.CharField(max_length=4)
    exercise_id = models.CharField(max_length=40)
    text = models.CharField(max_length=200, blank=True)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["athlete", "day"])]


class MethodChoice(models.Model):
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


class SessionMove(models.Model):
    """A session the coach has put on another day of its week. The newest speaks; no day goes back."""

    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="session_moves")
    week_start = models.DateField()
    session_key = models.CharField(max_length=4)
    day = models.DateField(null=True)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]

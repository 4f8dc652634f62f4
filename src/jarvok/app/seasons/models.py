"""Competitions, the phase lengths the coach has set, and the history of both."""

from __future__ import annotations

from django.db import models

from jarvok.app.athletes.models import Athlete


class Competition(models.Model):
    """A main competition a season is built for. `planned_from` is the day it was built on."""

    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="competitions")
    name = models.CharField(max_length=80)
    day = models.DateField()
    planned_from = models.DateField()
    pinned_weeks = models.JSONField(default=dict)
    withdrawn_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["day"]


class Change(models.Model):
    """One change of a competition or its phases, with what stood before: read by undo and by the margin."""

    competition = models.ForeignKey(Competition, on_delete=models.CASCADE, related_name="changes")
    words = models.CharField(max_length=200)
    before = models.JSONField()
    after = models.JSONField()
    at = models.DateTimeField(auto_now_add=True)
    undone_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-id"]

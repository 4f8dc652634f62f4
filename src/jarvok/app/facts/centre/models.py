"""What holds for the whole centre: the values the coach has changed, and the rooms with their kit."""

from __future__ import annotations

from django.db import models

from jarvok.app.facts.fact import Fact


class Centre(models.Model):
    """The centre itself: one row. `version` is raised by every act that touches neither an athlete nor a squad alone."""

    version = models.PositiveIntegerField(default=0)
    name = models.CharField(max_length=80, blank=True)
    begun_at = models.DateTimeField(null=True)
    backup_folder = models.CharField(max_length=300, blank=True)  # nothing for the one beside the data
    backed_up_on = models.DateField(null=True)
    backup_problem = models.CharField(max_length=300, blank=True)  # why the last daily copy could not be made
    days_kept_on = models.DateField(null=True)  # the day on which past days were last kept as they stood
    kept_days = models.PositiveSmallIntegerField(default=30)  # how long what serves for a while only is kept
    housekeeper = models.CharField(max_length=120, blank=True)  # the process that looks after the centre, and for how long
    housekeeper_until = models.DateTimeField(null=True)
    unit = models.CharField(max_length=2, default="kg")  # what stands on the plates where no room says it
    day_order = models.CharField(max_length=11, default="day first")  # how days are written, for whoever has no way of their own
    zone = models.CharField(max_length=60, blank=True)  # where it lies, such as "Europe/Oslo"; nothing for the server's own


class RuleChange(Fact):
    """A value of the job as the coach set it. The newest of a key speaks; no value goes back to the default."""

    key = models.CharField(max_length=60)
    value = models.FloatField(null=True)
    text = models.CharField(max_length=40, blank=True)  # for choices, such as the equation
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]


class KitRecord(Fact):
    """A room: bar, plates in pairs, collars, dumbbells and stack as [lightest, heaviest, step]. Masses in kg.

    `unit` is what is printed on its plates: kg or lb.
    """

    name = models.CharField(max_length=60, unique=True)
    unit = models.CharField(max_length=2, default="kg")
    bar_kg = models.FloatField(default=20)
    pairs = models.JSONField(default=list)
    collar_kg = models.FloatField(default=0)
    dumbbells = models.JSONField(default=list)
    stack = models.JSONField(default=list)
    has = models.JSONField(default=list)
    gear = models.JSONField(null=True)  # what stands there beside bars and weights; None for everything
    # bands and chains as measured here: {"name", "kind", "at", "bottom_kg", "top_kg"}
    attachments = models.JSONField(default=list)

    class Meta:
        ordering = ["id"]

"""Facts about athletes: who they are, their practice, restrictions, body mass and marks."""

from __future__ import annotations

from django.db import models

from jarvok.core.marks.mark import MarkKind


class Squad(models.Model):
    name = models.CharField(max_length=80, unique=True)
    sport = models.CharField(max_length=40)

    class Meta:
        ordering = ["id"]


class Athlete(models.Model):
    squad = models.ForeignKey(Squad, on_delete=models.PROTECT, related_name="athletes")
    name = models.CharField(max_length=80)
    birth_date = models.DateField(null=True)
    training_age_years = models.FloatField(default=2)
    body_mass_class = models.CharField(max_length=20, blank=True)
    class_limit_kg = models.FloatField(null=True)
    note = models.CharField(max_length=200, blank=True)
    # hidden numbers of the simulated lifter; only demo athletes have them, and only the simulator reads them
    simulated = models.JSONField(null=True)

    class Meta:
        ordering = ["squad_id", "name"]


class BodyMass(models.Model):
    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="masses")
    day = models.DateField()
    mass_kg = models.FloatField()

    class Meta:
        ordering = ["day"]


class Practice(models.Model):
    """A recurring sport practice of a squad. Monday is 0; hardness 1-10."""

    squad = models.ForeignKey(Squad, on_delete=models.CASCADE, related_name="practices")
    weekday = models.PositiveSmallIntegerField()
    hour = models.FloatField()
    minutes = models.PositiveSmallIntegerField()
    hardness = models.PositiveSmallIntegerField()

    class Meta:
        ordering = ["weekday", "hour"]


class Restriction(models.Model):
    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="restrictions")
    tag = models.CharField(max_length=40)
    words = models.CharField(max_length=120)
    side = models.CharField(max_length=10, blank=True)
    set_by = models.CharField(max_length=60)
    since = models.DateField()
    until = models.DateField(null=True)


class MarkRecord(models.Model):
    """Dated evidence of ability. Never changed: a wrong one is withdrawn, with the time."""

    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="marks")
    exercise_id = models.CharField(max_length=40)
    kind = models.CharField(max_length=20, choices=[(k.value, k.value) for k in MarkKind])
    day = models.DateField()
    load_kg = models.FloatField()
    reps = models.PositiveSmallIntegerField(default=1)
    rir = models.FloatField(default=0)
    note = models.CharField(max_length=200, blank=True)
    recorded_at = models.DateTimeField(auto_now_add=True)
    withdrawn_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-day", "-id"]
        indexes = [models.Index(fields=["athlete", "exercise_id", "day"])]


class MaxDecision(models.Model):
    """What the coach said of a proposed rise of a max: from the marks of `day`, accepted or left out."""

    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="max_decisions")
    exercise_id = models.CharField(max_length=40)
    day = models.DateField()
    accepted = models.BooleanField()
    decided_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]

"""The people of the centre, and what each of them did."""

from __future__ import annotations

from django.conf import settings
from django.db import models


class Role(models.TextChoices):
    """What a person may do; who may do what is decided in part by part, until then everybody is a head."""

    HEAD = "head"
    COACH = "coach"
    ASSISTANT = "assistant"
    MEDICAL = "medical"
    ATHLETE = "athlete"


class Person(models.Model):
    """Somebody who works with the application: with an account of their own, or only named."""

    user = models.OneToOneField(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="person")
    name = models.CharField(max_length=80)
    role = models.CharField(max_length=10, choices=Role.choices, default=Role.HEAD)
    unit = models.CharField(max_length=2, default="kg")
    ended_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]


class Via(models.TextChoices):
    """How somebody came to act."""

    PAGE = "page"
    LINK = "link"
    SENSOR = "sensor"
    IMPORT = "import"
    COMMAND = "command"


class WrongPassword(models.Model):
    """A try to sign in that failed: what was typed as the name, and from where. Kept for half an hour."""

    name = models.CharField(max_length=150)
    address = models.CharField(max_length=64)
    at = models.DateTimeField()

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["at"])]


class Act(models.Model):
    """One thing that somebody did: one row an action, named by every fact that it wrote.

    No person: from before people were recorded, or over a link whose maker is not known. `athlete` or `squad` is what it was
    done to; neither is the centre. `undoes` is the act it takes back.
    """

    person = models.ForeignKey(Person, on_delete=models.PROTECT, null=True, related_name="acts")
    via = models.CharField(max_length=8, choices=Via.choices, blank=True)
    link = models.CharField(max_length=64, blank=True)
    at = models.DateTimeField()
    verb = models.CharField(max_length=40)
    words = models.CharField(max_length=200, blank=True)
    athlete = models.ForeignKey("athletes.Athlete", on_delete=models.CASCADE, null=True, related_name="acts")
    squad = models.ForeignKey("athletes.Squad", on_delete=models.CASCADE, null=True, related_name="acts")
    undoes = models.ForeignKey("self", on_delete=models.PROTECT, null=True, related_name="undone_by")

    class Meta:
        ordering = ["id"]
        constraints = [
            models.CheckConstraint(
                condition=models.Q(athlete__isnull=True) | models.Q(squad__isnull=True), name="an_act_has_one_scope"
            ),
            models.UniqueConstraint(fields=["undoes"], condition=models.Q(undoes__isnull=False), name="an_act_is_undone_once"),
        ]
        indexes = [models.Index(fields=["athlete", "id"]), models.Index(fields=["squad", "id"])]

"""The people of the centre, and what each of them did."""

from __future__ import annotations

from importlib import import_module
from typing import Any

from django.conf import settings
from django.contrib.sessions.base_session import AbstractBaseSession
from django.db import models


class Role(models.TextChoices):
    """What a person may do; `jarvok.app.accounts.doors` says what that is."""

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
    unit = models.CharField(max_length=2, blank=True)  # of marks and body masses at the desk; nothing for the centre's
    day_order = models.CharField(max_length=11, blank=True)  # nothing for the centre's
    squads = models.ManyToManyField("athletes.Squad", related_name="people")  # a coach's and an assistant's own
    athlete = models.OneToOneField("athletes.Athlete", on_delete=models.SET_NULL, null=True, related_name="person")
    may_log = models.BooleanField(default=False)  # an athlete who logs their own sets
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


class SignedIn(AbstractBaseSession):
    """A browser that somebody signed in with: where, since when, and when it was last heard of."""

    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, null=True, related_name="signed_in")
    device = models.CharField(max_length=200, blank=True)
    begun_at = models.DateTimeField(null=True)
    seen_at = models.DateTimeField(null=True)

    @classmethod
    def get_session_store_class(cls) -> Any:
        """The store that keeps these rows, as the settings name it."""
        return import_module(settings.SESSION_ENGINE).SessionStore


class LinkKind(models.TextChoices):
    """What a link opens."""

    WELCOME = "welcome"  # an account of one's own: its first password, or a new one
    RACK = "rack"
    READY = "ready"  # an athlete's questions of the day
    CALENDAR = "calendar"  # what lies ahead of an athlete or a squad, for another calendar to follow


class Link(models.Model):
    """A secret address that opens one thing for a while. What it holds is known only as its hash.

    `maker` is whom it acts for; it is over with them, when it is ended, and at `until`. `person` is whom it lets in.
    """

    kind = models.CharField(max_length=8, choices=LinkKind.choices)
    token_hash = models.CharField(max_length=64, unique=True)
    maker = models.ForeignKey(Person, on_delete=models.PROTECT, null=True, related_name="links_made")
    person = models.ForeignKey(Person, on_delete=models.CASCADE, null=True, related_name="links")
    gathering = models.ForeignKey("room.Gathering", on_delete=models.CASCADE, null=True, related_name="links")
    rack = models.PositiveSmallIntegerField(null=True)
    attendance = models.ForeignKey("room.Attendance", on_delete=models.CASCADE, null=True, related_name="links")
    athlete = models.ForeignKey("athletes.Athlete", on_delete=models.CASCADE, null=True, related_name="links")
    squad = models.ForeignKey("athletes.Squad", on_delete=models.CASCADE, null=True, related_name="links")
    made_at = models.DateTimeField()
    until = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]


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
    page = models.CharField(max_length=12, blank=True)  # the open page it was done on: what a page did itself it has seen
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

"""Facts about athletes: who they are, their practice, restrictions, body mass and marks."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.db import models
from django.utils import timezone

from jarvok.app.facts.centre.models import KitRecord
from jarvok.app.facts.fact import Fact
from jarvok.core.marks.mark import MarkKind


class Squad(models.Model):
    name = models.CharField(max_length=80, unique=True)
    sport = models.CharField(max_length=40)
    version = models.PositiveIntegerField(default=0)  # raised by every act that touches it
    plan_act = models.BigIntegerField(default=0)  # the newest act that changed its calendar or its plan

    class Meta:
        ordering = ["id"]


class Here(models.Manager["Athlete"]):
    """Athletes who train here: those archived are left out of every list."""

    def get_queryset(self) -> models.QuerySet[Athlete]:
        """All but the archived."""
        return super().get_queryset().filter(archived_on__isnull=True)


DAYS_A_YEAR = 365.25


class Athlete(Fact):
    """Somebody who trains, or did: an archived athlete keeps everything and stands in no list."""

    squad = models.ForeignKey(Squad, on_delete=models.PROTECT, related_name="athletes")
    name = models.CharField(max_length=80)
    group = models.CharField(max_length=40, blank=True)
    position = models.CharField(max_length=40, blank=True)
    sex = models.CharField(max_length=10, blank=True)  # only where the coach wishes it
    birth_date = models.DateField(null=True)
    training_age_years = models.FloatField(default=2)  # as somebody said, on the day below; none: it stays as it is
    years_said_on = models.DateField(null=True)
    body_mass_class = models.CharField(max_length=20, blank=True)
    class_limit_kg = models.FloatField(null=True)
    note = models.CharField(max_length=200, blank=True)
    dominant_side = models.CharField(max_length=5, blank=True)
    limb_note = models.CharField(max_length=120, blank=True)  # what the coach sees of limb lengths, in words
    height_cm = models.FloatField(null=True)  # places people of like height at one rack
    goals = models.CharField(max_length=200, blank=True)
    traits = models.JSONField(default=list)  # ids of the chooser's table: build, style, past sports, goals
    usual_conditions = models.JSONField(default=dict)  # by lift, where the coach has said what is usual: kind and choice
    not_ranked = models.BooleanField(default=False)  # asks not to be shown beside others on the board
    declined = models.JSONField(default=list)  # what a week should hold for them, and the coach does not want
    sessions_a_week = models.PositiveSmallIntegerField(null=True)
    minutes_a_session = models.PositiveSmallIntegerField(null=True)
    supervised = models.BooleanField(default=False)  # supervision noted, asked for before a minor tests a single
    kit = models.ForeignKey(KitRecord, on_delete=models.SET_NULL, null=True, related_name="athletes")
    # hidden numbers of the simulated lifter; only demo athletes have them, and only the simulator reads them
    simulated = models.JSONField(null=True)
    version = models.PositiveIntegerField(default=0)  # raised by every act that touches them
    plan_version = models.PositiveIntegerField(default=0)  # how many of those changed a plan alone, and nothing that is known
    set_version = models.PositiveIntegerField(default=0)  # how many wrote sets of sessions alone, and nothing a plan is laid from
    measured = models.PositiveIntegerField(default=0)  # raised by every repetition that a sensor's stream stores
    plan_act = models.BigIntegerField(default=0)  # the newest act that changed their plan
    archived_on = models.DateField(null=True)

    objects = models.Manager["Athlete"]()
    here = Here()

    class Meta:
        ordering = ["squad_id", "name"]

    def years_of_lifting_on(self, day: date) -> float:
        """Years of lifting on a day: what was said, and the time since; of days before it was said, what was said."""
        if self.years_said_on is None:
            return self.training_age_years
        return self.training_age_years + max(0, (day - self.years_said_on).days) / DAYS_A_YEAR


class Erased(models.Model):
    """An athlete who was erased with everything: erased again in every backup that is put back."""

    athlete_id = models.BigIntegerField(unique=True)
    at = models.DateTimeField()

    class Meta:
        ordering = ["id"]


class BodyMass(Fact):
    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="masses")
    day = models.DateField()
    mass_kg = models.FloatField()

    class Meta:
        ordering = ["day"]


class Practice(Fact):
    """A recurring sport practice of a squad, or of one athlete in it, such as that of a second sport.

    Monday is 0; hardness 1-10. `since` and `until` are its first and last day where it does not go on for ever, `but_not` the
    days (as "2026-12-24") on which it falls out. `uid` names the event of an imported calendar.
    """

    squad = models.ForeignKey(Squad, on_delete=models.CASCADE, related_name="practices")
    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, null=True, related_name="own_practices")
    sport = models.CharField(max_length=40, blank=True)  # where it is not the squad's
    weekday = models.PositiveSmallIntegerField()
    hour = models.FloatField()
    minutes = models.PositiveSmallIntegerField()
    hardness = models.PositiveSmallIntegerField()
    since = models.DateField(null=True)
    until = models.DateField(null=True)
    but_not = models.JSONField(default=list)
    uid = models.CharField(max_length=200, blank=True)
    sequence = models.PositiveIntegerField(default=0)
    withdrawn_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["weekday", "hour"]

    @property
    def is_out(self) -> bool:
        """Whether it has been taken out."""
        return self.withdrawn_at is not None

    def to_raw(self) -> dict[str, Any]:
        """What a change of it may change, as plain data."""
        return {
            "weekday": self.weekday, "hour": self.hour, "minutes": self.minutes, "hardness": self.hardness,
            "since": self.since.isoformat() if self.since else None, "until": self.until.isoformat() if self.until else None,
            "but_not": list(self.but_not), "is_out": self.is_out,
        }  # fmt: skip

    def put_back(self, raw: dict[str, Any]) -> None:
        """Stand as such data says; it is not stored by this."""
        for key in ("weekday", "hour", "minutes", "hardness", "but_not"):
            setattr(self, key, raw[key])
        self.since = date.fromisoformat(raw["since"]) if raw["since"] else None
        self.until = date.fromisoformat(raw["until"]) if raw["until"] else None
        if raw["is_out"] != self.is_out:
            self.withdrawn_at = timezone.now() if raw["is_out"] else None

    def is_on(self, day: date) -> bool:
        """Whether it takes place on a day."""
        return (
            not self.is_out
            and day.weekday() == self.weekday
            and (self.since is None or day >= self.since)
            and (self.until is None or day <= self.until)
            and day.isoformat() not in self.but_not
        )


class Restriction(Fact):
    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="restrictions")
    tag = models.CharField(max_length=40)
    words = models.CharField(max_length=120)
    side = models.CharField(max_length=10, blank=True)
    set_by = models.CharField(max_length=60)
    since = models.DateField()
    until = models.DateField(null=True)
    # a licensed professional's note that a conservative test may be done while the restriction stands
    cleared_by = models.CharField(max_length=60, blank=True)
    cleared_on = models.DateField(null=True)


class Fault(Fact):
    """A technical fault in a lift, as the coach saw it, until it is gone."""

    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="faults")
    exercise_id = models.CharField(max_length=40)
    fault = models.CharField(max_length=40)
    since = models.DateField()
    until = models.DateField(null=True)

    class Meta:
        ordering = ["-since", "-id"]


class MarkRecord(Fact):
    """Dated evidence of ability. Never changed: a wrong one is withdrawn, and a corrected one names what it replaces.

    `measures` holds what a mark of its own kind consists of, such as `flight_s` or `distance_m`.
    """

    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="marks")
    exercise_id = models.CharField(max_length=40)
    kind = models.CharField(max_length=20, choices=[(k.value, k.value) for k in MarkKind])
    side = models.CharField(max_length=5, blank=True)
    day = models.DateField()
    load_kg = models.FloatField(default=0)
    unit = models.CharField(max_length=2, default="kg")  # in which the load was typed and is shown
    sets = models.PositiveSmallIntegerField(default=1)
    reps = models.PositiveSmallIntegerField(default=1)
    rir = models.FloatField(default=0)
    measures = models.JSONField(default=dict)
    conditions = models.JSONField(default=dict)  # kind and choice; what is not named is as usual
    replaces = models.ForeignKey("self", on_delete=models.PROTECT, null=True, related_name="replaced_by")
    note = models.CharField(max_length=200, blank=True)
    recorded_at = models.DateTimeField(auto_now_add=True)
    withdrawn_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-day", "-id"]
        indexes = [models.Index(fields=["athlete", "exercise_id", "day"])]


class MaxDecision(Fact):
    """What the coach said of a proposed rise of a max by its `evidence` (such as `set:40`) of a day.

    Accepted, left out, or, with `ask_again_on`, put off until then. Written anew, the last word counts.
    """

    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="max_decisions")
    exercise_id = models.CharField(max_length=40)
    day = models.DateField()
    evidence = models.CharField(max_length=40, blank=True)
    accepted = models.BooleanField()
    ask_again_on = models.DateField(null=True)
    decided_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]


class ImportedTable(Fact):
    """A table of athletes that was taken in: the athletes and squads it added, and what stood where it filled something in.

    `before` is by athlete and field: what stood, and what the table said. It can be taken back once.
    """

    at = models.DateTimeField()
    words = models.CharField(max_length=200)
    new = models.JSONField(default=list)
    squads = models.JSONField(default=list)
    before = models.JSONField(default=dict)
    undone_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-id"]


class SquadMove(Fact):
    """An athlete who goes to another squad on a day: ahead, done, or taken back before it came."""

    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="squad_moves")
    squad = models.ForeignKey(Squad, on_delete=models.CASCADE, related_name="moves")
    day = models.DateField()
    done_at = models.DateTimeField(null=True)
    withdrawn_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["day", "id"]

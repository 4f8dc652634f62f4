"""The room on a training day: who came, what they said, where they lift, the clocks, the sensors and what was tried."""

from __future__ import annotations

from django.db import models

from jarvok.app.facts.athletes.models import Athlete, MarkRecord, Squad
from jarvok.app.facts.fact import Fact
from jarvok.app.facts.floor.models import SessionLine


class Gathering(Fact):
    """A squad in the room on a day, with so many racks and one goal for the rests there."""

    squad = models.ForeignKey(Squad, on_delete=models.CASCADE, related_name="gatherings")
    day = models.DateField()
    racks = models.PositiveSmallIntegerField(default=4)
    goal = models.CharField(max_length=20, default="strength")
    stations = models.JSONField(default=dict)  # what a place is for where it is no rack: "jumps" or "runs" by its number
    compete = models.CharField(max_length=60, blank=True)  # the one number that is shown on the board, if any
    opened_at = models.DateTimeField()

    class Meta:
        ordering = ["-day", "-id"]
        constraints = [models.UniqueConstraint(fields=["squad", "day"], name="one_gathering_a_squad_and_day")]


class Attendance(Fact):
    """One athlete at a gathering: here or not, the rack, and when the coach last called them up to it."""

    gathering = models.ForeignKey(Gathering, on_delete=models.CASCADE, related_name="attendances")
    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="attendances")
    is_here = models.BooleanField(default=False)
    changed_at = models.DateTimeField()
    rack = models.PositiveSmallIntegerField(null=True)
    called_at = models.DateTimeField(null=True)
    # where the order at a rack was set by hand: the place from 0, and since when
    place = models.PositiveSmallIntegerField(null=True)
    placed_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["gathering", "athlete"], name="an_athlete_comes_once")]


class Answers(Fact):
    """What an athlete said on arriving. The newest counts; earlier ones stay. `by_athlete` when it came over a link."""

    attendance = models.ForeignKey(Attendance, on_delete=models.CASCADE, related_name="answers")
    data = models.JSONField()
    by_athlete = models.BooleanField(default=False)
    at = models.DateTimeField()

    class Meta:
        ordering = ["id"]


class DayWord(Fact):
    """The coach's word on the day: plan A, B or C, how B is less, why, and what had been suggested. The newest counts."""

    attendance = models.ForeignKey(Attendance, on_delete=models.CASCADE, related_name="words")
    plan = models.CharField(max_length=1)
    less = models.CharField(max_length=10, default="fewer")
    suggested = models.CharField(max_length=1)
    reason = models.CharField(max_length=200, blank=True)
    at = models.DateTimeField()

    class Meta:
        ordering = ["id"]


class ClockRun(Fact):
    """A clock that was started: what it is, for which rack (all when empty), and the moments that say what it shows."""

    gathering = models.ForeignKey(Gathering, on_delete=models.CASCADE, related_name="clocks")
    rack = models.PositiveSmallIntegerField(null=True)
    kind = models.CharField(max_length=12)
    figures = models.JSONField()
    started_at = models.DateTimeField()
    paused_at = models.DateTimeField(null=True)
    paused_s = models.FloatField(default=0)
    stopped_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]


class Sensor(Fact):
    """A sensor of the room, paired with a rack. Its token in the path is what stands for signing in."""

    name = models.CharField(max_length=40)
    sort = models.CharField(max_length=12)
    token = models.CharField(max_length=40, unique=True)
    rack = models.PositiveSmallIntegerField(null=True)
    rate_hz = models.FloatField(default=100)
    gates_m = models.JSONField(default=list)  # where timing gates stand, in m from the start
    added_at = models.DateTimeField()
    removed_at = models.DateTimeField(null=True)
    # a trial that it measures in place of what is up at its rack
    trial = models.ForeignKey("Trial", on_delete=models.SET_NULL, null=True, related_name="sensors")

    class Meta:
        ordering = ["id"]


class Reading(models.Model):
    """A jump, a split or a heart rate that a sensor saw, with the line and set it belongs to where one was up."""

    sensor = models.ForeignKey(Sensor, on_delete=models.CASCADE, related_name="readings")
    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, null=True, related_name="readings")
    line = models.ForeignKey(SessionLine, on_delete=models.CASCADE, null=True, related_name="readings")
    set_number = models.PositiveSmallIntegerField(default=0)
    trial = models.ForeignKey("Trial", on_delete=models.CASCADE, null=True, related_name="readings")
    values = models.JSONField()
    at = models.DateTimeField()
    taken_out_at = models.DateTimeField(null=True)  # it was none, or not this athlete's: nothing reads it

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["sensor", "id"])]


class DeviceColumns(Fact):
    """What the columns of a device's table mean, kept for the next file of the same device."""

    device = models.CharField(max_length=60, unique=True)
    mapping = models.JSONField()
    units = models.JSONField(default=dict)
    changed_at = models.DateTimeField()


class Trial(Fact):
    """A test of one athlete: of a max, guided set by set, a velocity ladder, a working-up single, a rest test or one of jumps a
    set, with what it was asked to do. What comes next is derived from its tries.
    """

    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="trials")
    kind = models.CharField(max_length=20)
    exercise_id = models.CharField(max_length=40)
    asked = models.JSONField(default=dict)
    day = models.DateField(null=True)  # none: that of its start
    started_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)
    outcome = models.CharField(max_length=300, blank=True)
    result = models.FloatField(null=True)
    mark = models.ForeignKey(MarkRecord, on_delete=models.SET_NULL, null=True, related_name="trials")

    class Meta:
        ordering = ["-id"]


class TrialEntry(Fact):
    """One try of a trial by its place (none before places were kept). One taken back keeps its row."""

    trial = models.ForeignKey(Trial, on_delete=models.CASCADE, related_name="entries")
    number = models.PositiveSmallIntegerField(null=True)
    data = models.JSONField()
    at = models.DateTimeField()
    taken_back_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(
                fields=["trial", "number"], condition=models.Q(taken_back_at__isnull=True), name="a_try_is_done_once"
            )
        ]


class OwnDefault(Fact):
    """What a trial found and the coach kept for an athlete: a rest in s, or jumps a set. The newest counts."""

    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="own_defaults")
    kind = models.CharField(max_length=10)
    exercise_id = models.CharField(max_length=40)
    value = models.FloatField()
    trial = models.ForeignKey(Trial, on_delete=models.SET_NULL, null=True)
    at = models.DateTimeField()

    class Meta:
        ordering = ["id"]

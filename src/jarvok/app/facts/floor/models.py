"""What was told, what was done, what a sensor measured and what the coach decided."""

from __future__ import annotations

from django.db import models

from jarvok.app.facts.athletes.models import Athlete
from jarvok.app.facts.fact import Fact
from jarvok.core.session.roles import BlockRole
from jarvok.core.velocity.definition import Definition


class TrainingSession(Fact):
    """A session that was started. Its lines are a snapshot of what the athlete was told."""

    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="sessions")
    day = models.DateField()
    key = models.CharField(max_length=4)
    theme = models.CharField(max_length=80)
    phase = models.CharField(max_length=20, blank=True)
    days_to_go = models.IntegerField(null=True)
    started_at = models.DateTimeField()
    finished_at = models.DateTimeField(null=True)
    # the day's plan: A as written, B less, C movement; what was written stays with each line
    plan = models.CharField(max_length=1, default="A")
    plan_reason = models.CharField(max_length=200, blank=True)
    srpe = models.FloatField(null=True)
    minutes = models.FloatField(null=True)
    told = models.JSONField(default=dict)  # its steps in order, versioned; none for sessions from before there were steps

    class Meta:
        ordering = ["-day", "-id"]
        constraints = [models.UniqueConstraint(fields=["athlete", "day", "key"], name="one_session_a_day_and_key")]


class SessionLine(models.Model):
    session = models.ForeignKey(TrainingSession, on_delete=models.CASCADE, related_name="lines")
    order = models.PositiveSmallIntegerField()
    slot = models.CharField(max_length=4)
    block = models.CharField(max_length=40)
    exercise_id = models.CharField(max_length=40)
    text = models.CharField(max_length=200)
    reason = models.CharField(max_length=400, blank=True)
    note = models.CharField(max_length=200, blank=True)  # beside the line: which side first, surface, footwear
    easier = models.CharField(max_length=40, blank=True)  # forms the athlete may take in place of what is written
    harder = models.CharField(max_length=40, blank=True)
    conditions = models.JSONField(default=dict)  # how the bar is racked and gripped, what supports: of its sets too
    is_main = models.BooleanField(default=False)
    role = models.CharField(max_length=10, default=BlockRole.SMALL, choices=[(r.value, r.value) for r in BlockRole])
    ramp = models.JSONField(default=list)
    planned = models.JSONField(default=list)
    rest_s = models.PositiveIntegerField(default=120)
    # where the day changed the line: the sets as written, and the change in words
    as_written = models.JSONField(default=list)
    change = models.CharField(max_length=120, blank=True)
    stands_in_for = models.ForeignKey("self", on_delete=models.CASCADE, null=True, related_name="replaced_by")
    left_out = models.BooleanField(default=False)

    class Meta:
        ordering = ["order"]


class SetKind(models.TextChoices):
    RAMP = "ramp"
    WORK = "work"


class SetRecord(Fact):
    """One set as done. An undone one keeps its row with the time it was taken back."""

    line = models.ForeignKey(SessionLine, on_delete=models.CASCADE, related_name="sets")
    kind = models.CharField(max_length=4, choices=SetKind.choices)
    number = models.PositiveSmallIntegerField()
    planned_load_kg = models.FloatField(null=True)
    planned_reps = models.PositiveSmallIntegerField(null=True)
    load_kg = models.FloatField(null=True)
    reps = models.PositiveSmallIntegerField()
    rir = models.FloatField(null=True)
    # where a set has two sides; `reps` is then the fewer of both
    left_reps = models.PositiveSmallIntegerField(null=True)
    right_reps = models.PositiveSmallIntegerField(null=True)
    is_all_out = models.BooleanField(default=False)  # as many as possible: nothing in reserve without anybody saying so
    trouble = models.CharField(max_length=20, blank=True)
    note = models.CharField(max_length=200, blank=True)
    step = models.CharField(max_length=60, blank=True)  # what was logged with one tap has one step
    form = models.CharField(max_length=6, blank=True)  # easier or harder than written, where the line holds such a form
    measures = models.JSONField(default=dict)  # results that are no load: rounds, time in s, height in cm
    has_gap = models.BooleanField(default=False)  # the sensor dropped out while it was lifted
    jumps = models.JSONField(default=list)  # typed where no mat saw them: height in cm, contact in s
    rack = models.PositiveSmallIntegerField(null=True)  # where it was lifted, when the athlete stood at a rack
    done_at = models.DateTimeField()
    taken_back_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(
                fields=["line", "kind", "number"],
                condition=models.Q(taken_back_at__isnull=True),
                name="a_set_is_done_once",
            )
        ]


class ChangeKind(models.TextChoices):
    SKIP = "skip"
    ADD = "add"
    LINE = "line"


class SessionChange(Fact):
    """A set passed over, one more than was told, or a line more: by a person's word, at the rack. Undo gives it a time."""

    line = models.ForeignKey(SessionLine, on_delete=models.CASCADE, related_name="changes")
    kind = models.CharField(max_length=4, choices=ChangeKind.choices)
    set_kind = models.CharField(max_length=4, choices=SetKind.choices)
    number = models.PositiveSmallIntegerField()
    step = models.CharField(max_length=60)  # what was passed over; of an added set the step that it repeats
    at = models.DateTimeField()
    taken_back_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]


class PainAnswer(models.TextChoices):
    """What became of a pain that was told on the floor."""

    CLEARED = "cleared"  # by a person's word: as before
    RESTRICTED = "restricted"  # by a person's word: restrictions stand now
    ASKED = "asked"  # asked again on a later arrival, whose answers count


class PainReport(Fact):
    """A pain that was told at a set: where, and why it was carried on, where it was. It stands until it is answered."""

    session = models.ForeignKey(TrainingSession, on_delete=models.CASCADE, related_name="pains")
    record = models.OneToOneField(SetRecord, on_delete=models.CASCADE, related_name="pain")
    area = models.CharField(max_length=20)
    carried_on = models.CharField(max_length=200, blank=True)
    answer = models.CharField(max_length=12, blank=True, choices=PainAnswer.choices)
    answered_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]


class Rep(models.Model):
    """One repetition that a sensor saw. Velocities in m/s, range in m, times in s of the stream."""

    line = models.ForeignKey(SessionLine, on_delete=models.CASCADE, related_name="reps")
    kind = models.CharField(max_length=4, choices=SetKind.choices)
    set_number = models.PositiveSmallIntegerField()
    number = models.PositiveSmallIntegerField()
    stream = models.CharField(max_length=40, blank=True)
    start_s = models.FloatField()
    mean_mps = models.FloatField()
    mean_propulsive_mps = models.FloatField()
    peak_mps = models.FloatField()
    time_to_peak_s = models.FloatField()
    range_m = models.FloatField()
    load_kg = models.FloatField(null=True)
    # from where to where the mean is taken
    definition = models.CharField(max_length=10, choices=[(d.value, d.value) for d in Definition], default=Definition.CROSSING)
    taken_out_at = models.DateTimeField(null=True)  # it was none, or not this athlete's: nothing reads it

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["stream", "number"], condition=~models.Q(stream=""), name="a_rep_is_seen_once")
        ]
        indexes = [models.Index(fields=["line", "kind", "set_number"])]


class AdviceRecord(Fact):
    """What the application said after a set, and what the coach made of it."""

    line = models.ForeignKey(SessionLine, on_delete=models.CASCADE, related_name="advice")
    after_number = models.PositiveSmallIntegerField()
    move = models.CharField(max_length=8)
    load_kg = models.FloatField(null=True)
    sentence = models.CharField(max_length=300)
    working = models.JSONField()
    outcome = models.CharField(max_length=12, blank=True)
    chosen_load_kg = models.FloatField(null=True)
    at = models.DateTimeField(auto_now_add=True)
    taken_back_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]


class SensorStream(models.Model):
    """A bar sensor's stream, bound to one set at a time. `durable_seq` is the last sample that need not be sent again.

    Of a sensor of the room it says which, and at which of that sensor's own samples the set began (`base`): another process, or
    the same one started again, goes on with it.
    """

    token = models.CharField(max_length=40, unique=True)
    session = models.ForeignKey(TrainingSession, on_delete=models.CASCADE, related_name="streams")
    line = models.ForeignKey(SessionLine, on_delete=models.CASCADE)
    kind = models.CharField(max_length=4, choices=SetKind.choices)
    set_number = models.PositiveSmallIntegerField()
    load_kg = models.FloatField(null=True)
    rate_hz = models.FloatField()
    simulated = models.BooleanField(default=False)
    durable_seq = models.IntegerField(default=-1)
    sensor_number = models.PositiveBigIntegerField(null=True)
    base = models.BigIntegerField(default=0)
    gaps = models.PositiveSmallIntegerField(default=0)  # how often something of it was left out
    started_at = models.DateTimeField()
    closed_at = models.DateTimeField(null=True)


class FloorEvent(models.Model):
    """Something the floor view must hear of, numbered so that a page that was away resumes where it left."""

    session = models.ForeignKey(TrainingSession, on_delete=models.CASCADE, related_name="events")
    kind = models.CharField(max_length=20)
    payload = models.JSONField()

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["session", "id"])]


class IdempotentWrite(models.Model):
    """The answer to a floor write, kept under the key it came with: the same key gets the same answer, once done."""

    key = models.CharField(max_length=80, primary_key=True)
    request = models.CharField(max_length=64)
    answer = models.JSONField()
    at = models.DateTimeField(auto_now_add=True)

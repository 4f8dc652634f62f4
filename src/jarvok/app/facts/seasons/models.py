"""Competitions, what else fills the calendar, how a season is arranged, and the history of all of it."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.db import models

from jarvok.app import clock
from jarvok.app.facts.athletes.models import Athlete, Practice, Squad
from jarvok.app.facts.fact import Fact
from jarvok.core.season.calendar import SpanKind
from jarvok.core.season.model import Rank


class Competition(Fact):
    """A competition of one athlete. `planned_from` is the day the season to it was built on.

    `pinned_weeks` are phase lengths set by the coach; `events` what is contested (`season.exposures.Event`), `division` the
    class the athlete enters where implements differ; `uid` names the event of an imported calendar,
    `sequence` its version. A row with a `block` is
    no competition but the last day of a block of weeks (`season.model.TrainingBlock`).
    """

    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="competitions")
    name = models.CharField(max_length=80)
    day = models.DateField()
    last_day = models.DateField(null=True)
    rank = models.CharField(max_length=16, default=Rank.MAIN, choices=[(r.value, r.value) for r in Rank])
    events = models.JSONField(default=list)
    weigh_in = models.DateField(null=True)
    block = models.JSONField(null=True)
    division = models.CharField(max_length=40, blank=True)
    uid = models.CharField(max_length=200, blank=True)
    sequence = models.PositiveIntegerField(default=0)
    planned_from = models.DateField()
    pinned_weeks = models.JSONField(default=dict)
    withdrawn_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["day", "id"]


class SeasonStyle(Fact):
    """How an athlete's season is arranged. `easy_weeks` are weeks made easier or full by hand, by their Monday, and
    `weeks_by_hand` those whose volume or top is set: {"volume_pct", "top_pct"}.

    `baseline` is the plan's facts as they stood when it was first built, or when the coach last said to keep it.
    """

    athlete = models.OneToOneField(Athlete, on_delete=models.CASCADE, related_name="season_style")
    arrangement = models.CharField(max_length=30, default="force_velocity")
    loading_weeks = models.PositiveSmallIntegerField(null=True)
    taper = models.JSONField(null=True)
    easy_weeks = models.JSONField(default=dict)
    weeks_by_hand = models.JSONField(default=dict)
    baseline = models.JSONField(null=True)


class Change(Fact):
    """One change of a season, with all its facts before and after: read by undo and by the margin."""

    # changes from before whole seasons were kept name their competition only, and cannot be undone
    competition = models.ForeignKey(Competition, on_delete=models.CASCADE, null=True, related_name="changes")
    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, null=True, related_name="season_changes")
    words = models.CharField(max_length=200)
    before = models.JSONField()
    after = models.JSONField()
    at = models.DateTimeField(auto_now_add=True)
    undone_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-id"]


class CalendarEntry(Fact):
    """Matches, camps, travel, exams, holidays and days away: of a squad, a group of it, or one athlete.

    `planned_from` is the day it was entered: a season of matches alone is built from there. `hour` is its hour of day where
    it has one; `sequence` the number of the version that an imported calendar held.
    """

    KINDS = ("match", *(k.value for k in SpanKind))

    squad = models.ForeignKey(Squad, on_delete=models.CASCADE, null=True, related_name="entries")
    group = models.CharField(max_length=40, blank=True)
    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, null=True, related_name="entries")
    kind = models.CharField(max_length=16)
    name = models.CharField(max_length=80)
    start = models.DateField()
    end = models.DateField()
    hour = models.FloatField(null=True)
    uid = models.CharField(max_length=200, blank=True)
    sequence = models.PositiveIntegerField(default=0)
    planned_from = models.DateField(default=clock.today)
    withdrawn_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["start", "id"]
        indexes = [models.Index(fields=["uid"])]

    @property
    def is_out(self) -> bool:
        """Whether it has been taken out."""
        return self.withdrawn_at is not None

    def to_raw(self) -> dict[str, Any]:
        """What a change of it may change, as plain data."""
        return {
            "kind": self.kind, "name": self.name, "start": self.start.isoformat(), "end": self.end.isoformat(),
            "hour": self.hour, "is_out": self.is_out,
        }  # fmt: skip

    def put_back(self, raw: dict[str, Any]) -> None:
        """Stand as such data says; it is not stored by this."""
        self.kind, self.name, self.hour = raw["kind"], raw["name"], raw["hour"]
        self.start, self.end = date.fromisoformat(raw["start"]), date.fromisoformat(raw["end"])
        if raw["is_out"] != self.is_out:
            self.withdrawn_at = clock.now() if raw["is_out"] else None


class CalendarChange(Fact):
    """One change of an entry or a practice, with what it was before and after: all of one act are one step of undo."""

    entry = models.ForeignKey(CalendarEntry, on_delete=models.CASCADE, null=True, related_name="changes")
    practice = models.ForeignKey(Practice, on_delete=models.CASCADE, null=True, related_name="changes")
    before = models.JSONField()
    after = models.JSONField()
    undone_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-id"]

    @property
    def of(self) -> CalendarEntry | Practice:
        """What was changed."""
        if self.entry is not None:
            return self.entry
        assert self.practice is not None, "a change is of an entry or a practice"
        return self.practice


class MinutesPlayed(Fact):
    """How long an athlete played in a match. Written anew, the last one counts."""

    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="minutes_played")
    entry = models.ForeignKey(CalendarEntry, on_delete=models.CASCADE, related_name="minutes_played")
    day = models.DateField()  # of the match, so that a week needs no other table
    minutes = models.PositiveSmallIntegerField()

    class Meta:
        ordering = ["day", "id"]
        constraints = [models.UniqueConstraint(fields=["athlete", "entry"], name="a_match_is_played_once")]


class FlagWord(Fact):
    """A flag the coach has answered with “keep it, because …”. It stays visible until it is lifted."""

    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="flag_words")
    check_id = models.CharField(max_length=30)
    where = models.CharField(max_length=120, blank=True)
    reason = models.CharField(max_length=200)
    at = models.DateTimeField(auto_now_add=True)
    lifted_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["id"]

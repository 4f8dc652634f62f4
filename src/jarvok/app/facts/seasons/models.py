"""Competitions, what else fills the calendar, how a season is arranged, and the history of all of it."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date
from typing import Any

from django.db import models

from jarvok.app import clock
from jarvok.app.facts.athletes.models import Athlete, Practice, Squad
from jarvok.app.facts.fact import Fact
from jarvok.core.season.calendar import SpanKind
from jarvok.core.season.model import Rank


class Competition(Fact):
    """A competition of a squad, a group of it, or one athlete; who of them takes part, and how, is an `Entry` each.

    `events` is what is contested (`season.exposures.Event`); `uid` names the event of an imported calendar, `sequence` its
    version. A row with a `block` is no competition but the last day of a block of weeks (`season.model.TrainingBlock`).
    """

    TOLD = ("name", "day", "last_day", "rank", "events", "weigh_in", "block")  # what an entry may hold otherwise
    DAYS = ("day", "last_day", "weigh_in")

    squad = models.ForeignKey(Squad, on_delete=models.CASCADE, null=True, related_name="competitions")
    group = models.CharField(max_length=40, blank=True)
    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, null=True, related_name="+")
    name = models.CharField(max_length=80)
    day = models.DateField()
    last_day = models.DateField(null=True)
    rank = models.CharField(max_length=16, default=Rank.MAIN, choices=[(r.value, r.value) for r in Rank])
    events = models.JSONField(default=list)
    weigh_in = models.DateField(null=True)
    block = models.JSONField(null=True)
    uid = models.CharField(max_length=200, blank=True)
    sequence = models.PositiveIntegerField(default=0)
    withdrawn_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["day", "id"]

    @property
    def is_out(self) -> bool:
        """Whether it has been taken out for all it was for."""
        return self.withdrawn_at is not None

    @property
    def told(self) -> dict[str, Any]:
        """What it says, as plain data."""
        return {k: _plain(getattr(self, k)) for k in self.TOLD}

    def tell(self, told: Mapping[str, Any]) -> None:
        """Say what such data says; it is not stored by this."""
        for key in self.TOLD:
            value = told.get(key)
            setattr(self, key, date.fromisoformat(value) if key in self.DAYS and isinstance(value, str) else value)

    def to_raw(self) -> dict[str, Any]:
        """What a change of it may change, whom it is for included, as plain data."""
        whose = {"squad": self.squad_id, "group": self.group, "athlete": self.athlete_id}
        return self.told | whose | {"is_out": self.is_out}

    def put_back(self, raw: dict[str, Any]) -> None:
        """Stand as such data says; it is not stored by this."""
        self.tell(raw)
        self.squad_id, self.group, self.athlete_id = raw["squad"], raw["group"], raw["athlete"]
        if raw["is_out"] != self.is_out:
            self.withdrawn_at = clock.now() if raw["is_out"] else None


class Entry(Fact):
    """An athlete's part in a competition: its facts, but for what is `own` to the athlete.

    `planned_from` is the day the season to it was built on, `pinned_weeks` are phase lengths set by the coach, `division` the
    class entered where implements differ. One that is withdrawn takes no part.
    """

    athlete = models.ForeignKey(Athlete, on_delete=models.CASCADE, related_name="entered")
    competition = models.ForeignKey(Competition, on_delete=models.CASCADE, related_name="entered")
    own = models.JSONField(default=dict)
    division = models.CharField(max_length=40, blank=True)
    planned_from = models.DateField()
    pinned_weeks = models.JSONField(default=dict)
    withdrawn_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["competition__day", "id"]

    @property
    def told(self) -> dict[str, Any]:
        """What the competition says for this athlete, as plain data."""
        return {**self.competition.told, **self.own}

    def _of(self, key: str) -> Any:
        return self.own[key] if key in self.own else getattr(self.competition, key)

    def _day_of(self, key: str) -> date | None:
        value = self._of(key)
        return date.fromisoformat(value) if isinstance(value, str) else value

    @property
    def name(self) -> str:
        """Its name."""
        return str(self._of("name"))

    @property
    def day(self) -> date:
        """Its first day."""
        day = self._day_of("day")
        assert day is not None, "a competition has a day"
        return day

    @property
    def last_day(self) -> date | None:
        """Its last day, where it lasts longer than one."""
        return self._day_of("last_day")

    @property
    def weigh_in(self) -> date | None:
        """The day of the weigh-in."""
        return self._day_of("weigh_in")

    @property
    def rank(self) -> str:
        """What it counts for this athlete."""
        return str(self._of("rank"))

    @property
    def events(self) -> list[dict[str, Any]]:
        """What is contested, as plain data."""
        return list(self._of("events"))

    @property
    def block(self) -> dict[str, Any] | None:
        """The block of weeks it ends, where it is none but that."""
        block: dict[str, Any] | None = self._of("block")
        return block

    @property
    def uid(self) -> str:
        """The event of an imported calendar."""
        return self.competition.uid

    @property
    def sequence(self) -> int:
        """The version of the competition."""
        return self.competition.sequence


def _plain(value: Any) -> Any:
    return value.isoformat() if isinstance(value, date) else value


class EntryResult(Fact):
    """What became of an entry; the newest speaks. `events` hold a number each, in the order of the entry's events, `marks` the
    result of the lift that each became; `keep` and `change` are what the coach makes of the way there.
    """

    entry = models.ForeignKey(Entry, on_delete=models.CASCADE, related_name="results")
    events = models.JSONField(default=list)
    marks = models.JSONField(default=list)
    place = models.CharField(max_length=60, blank=True)
    keep = models.CharField(max_length=200, blank=True)
    change = models.CharField(max_length=200, blank=True)
    at = models.DateTimeField()

    class Meta:
        ordering = ["id"]


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

    # changes from before whole seasons were kept name what was entered only, and cannot be undone
    entry = models.ForeignKey(Entry, on_delete=models.CASCADE, null=True, related_name="changes")
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
    """One change of an entry, a practice or a competition of several, with what it was before and after.

    All of one act are one step of undo.
    """

    entry = models.ForeignKey(CalendarEntry, on_delete=models.CASCADE, null=True, related_name="changes")
    practice = models.ForeignKey(Practice, on_delete=models.CASCADE, null=True, related_name="changes")
    competition = models.ForeignKey(Competition, on_delete=models.CASCADE, null=True, related_name="changes")
    before = models.JSONField()
    after = models.JSONField()
    undone_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-id"]

    @property
    def of(self) -> CalendarEntry | Practice | Competition:
        """What was changed."""
        found = self.entry or self.practice or self.competition
        assert found is not None, "a change is of an entry, a practice or a competition"
        return found


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

"""What every fact has: the act that wrote it."""

from __future__ import annotations

from contextvars import ContextVar
from typing import Any

from django.db import models

# the act that is going on: facts made while it lasts are its own (set by `jarvok.app.acts` alone)
going_on: ContextVar[Any] = ContextVar("going_on", default=None)


class Fact(models.Model):
    """A row that says who wrote it. No act: from before people were recorded."""

    act = models.ForeignKey("people.Act", on_delete=models.PROTECT, null=True, related_name="+")

    class Meta:
        abstract = True

    def name_the_act(self) -> None:
        """Belong to the act that is going on, unless there is one already."""
        if self.act_id is None and self._state.adding:
            self.act = going_on.get()

    def save(self, *args: Any, **options: Any) -> None:
        """Store the row; a new one under the act that is going on."""
        self.name_the_act()
        super().save(*args, **options)

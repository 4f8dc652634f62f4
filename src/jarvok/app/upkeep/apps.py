"""After the tables are up to date, what a migration cannot work out by itself is worked out."""

from __future__ import annotations

from typing import Any

from django.apps import AppConfig
from django.db import DEFAULT_DB_ALIAS
from django.db.models.signals import post_migrate

from jarvok.app.upkeep.up_to_date import is_up_to_date


class UpkeepConfig(AppConfig):
    name = "jarvok.app.upkeep"

    def ready(self) -> None:
        post_migrate.connect(_put_right, sender=self)


def _put_right(using: str, **_: Any) -> None:
    if using != DEFAULT_DB_ALIAS:
        return  # a copy that is looked through: it is put right once it is in its place
    if not is_up_to_date(using):
        return  # only some of the migrations were asked for
    put_right()


def put_right() -> None:
    """Work out what a migration cannot: ids of lines, and the days that are past as they stood."""
    from jarvok.app.upkeep.line_ids import give_line_ids
    from jarvok.app.upkeep.past_weeks import freeze_past_weeks

    give_line_ids()
    freeze_past_weeks()

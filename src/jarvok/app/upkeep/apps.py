"""After the tables are up to date, what a migration cannot work out by itself is worked out."""

from __future__ import annotations

from typing import Any

from django.apps import AppConfig
from django.db import connections
from django.db.migrations.executor import MigrationExecutor
from django.db.models.signals import post_migrate


class UpkeepConfig(AppConfig):
    name = "jarvok.app.upkeep"

    def ready(self) -> None:
        post_migrate.connect(_put_right, sender=self)


def _put_right(using: str, **_: Any) -> None:
    executor = MigrationExecutor(connections[using])
    if executor.migration_plan(executor.loader.graph.leaf_nodes()):
        return  # only some of the migrations were asked for
    from jarvok.app.upkeep.line_ids import give_line_ids
    from jarvok.app.upkeep.past_weeks import freeze_past_weeks

    give_line_ids()
    freeze_past_weeks()

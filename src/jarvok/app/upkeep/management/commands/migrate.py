"""Bring the tables up to date; those of an empty database are made from the models at once."""

from __future__ import annotations

from typing import Any

from django.apps import apps
from django.core.management.commands import migrate
from django.db import connections
from django.db.backends.base.base import BaseDatabaseWrapper
from django.db.migrations.executor import MigrationExecutor


def make_at_once(connection: BaseDatabaseWrapper) -> None:
    """Make every table as the models say and note all migrations as applied.

    A new centre has no rows for the migrations to carry over, and going through them one by one takes
    half a minute. `tests/app/test_new_tables.py` compares what both ways lead to.
    """
    executor = MigrationExecutor(connection)
    models = [m for m in apps.get_models() if m._meta.can_migrate(connection)]
    with connection.schema_editor() as editor:
        for model in models:
            editor.create_model(model)
        executor.recorder.ensure_schema()
        for app, name in executor.loader.graph.nodes:
            executor.recorder.record_applied(app, name)


class Command(migrate.Command):
    def handle(self, *args: Any, **options: Any) -> None:
        connection = connections[options["database"]]
        asks_for_all = not options["app_label"] and not options["plan"] and not options["check_unapplied"] and not options["fake"]
        if asks_for_all and not connection.introspection.table_names():
            make_at_once(connection)
        super().handle(*args, **options)

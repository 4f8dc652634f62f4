"""Whether the tables are those of this version."""

from __future__ import annotations

from django.db import DEFAULT_DB_ALIAS, connections
from django.db.migrations.executor import MigrationExecutor


def is_up_to_date(using: str = DEFAULT_DB_ALIAS) -> bool:
    """Whether no migration waits to be applied; of an empty database they all do."""
    executor = MigrationExecutor(connections[using])
    return not executor.migration_plan(executor.loader.graph.leaf_nodes())

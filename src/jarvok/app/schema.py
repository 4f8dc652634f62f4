"""The base of everything the API takes and sends."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel


class Schema(BaseModel):
    """Plain pydantic: answers are built from values, never from database rows, so no row access is looked for.

    Large answers are several times quicker to make than with the framework's own base class.
    """

    def dict(self, **options: Any) -> dict[str, Any]:
        """Return the values as plain data."""
        return self.model_dump(**options)

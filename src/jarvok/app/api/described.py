"""How the API describes itself: what is true of every road is said once, here."""

from __future__ import annotations

from typing import Any

from ninja import NinjaAPI
from ninja.openapi.schema import OpenAPISchema

UNCHANGED = "Nothing has changed since the answer whose ETag was sent as If-None-Match."


class Api(NinjaAPI):
    """The API, whose readers need not be sent again what they hold."""

    def get_openapi_schema(self, **given: Any) -> OpenAPISchema:
        """The description, each reading road with the answer that nothing has changed."""
        described = super().get_openapi_schema(**given)
        for road in described["paths"].values():
            if "get" in road:
                road["get"]["responses"].setdefault(304, {"description": UNCHANGED})
        return described

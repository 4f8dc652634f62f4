"""What is sent as JSON."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja.errors import HttpError
from ninja.parser import Parser

from jarvok.app.plain_json import read_json
from jarvok.core.errors import CoachError


class BoundedParser(Parser):
    """Reads bodies as JSON within bounds, or raises an error with a sentence."""

    def parse_body(self, request: HttpRequest) -> Any:
        """The plain data of a body."""
        try:
            return read_json(request.body)
        except CoachError as error:
            raise HttpError(422, error.message) from error
        except (RecursionError, ValueError) as error:  # no JSON, no UTF-8, or a number of thousands of digits
            raise HttpError(400, "What was sent could not be read. Nothing was stored.") from error

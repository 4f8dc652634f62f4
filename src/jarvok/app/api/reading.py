"""What is sent as JSON, read within bounds: no signs that no keyboard writes, no numbers that are none, no endless nesting."""

from __future__ import annotations

import json
import re
from math import isfinite
from typing import Any, NoReturn

from django.http import HttpRequest
from ninja.errors import HttpError
from ninja.parser import Parser

# escaped control characters, tab and the ends of lines left out; a backslash that was typed stands doubled and is none
_CONTROL = re.compile(rb"(?<!\\)(?:\\\\)*\\(?:b|u00(?:0[0-8efEF]|1[0-9a-fA-F]|7[fF]))")
# ends of lines and pages as they come with what is pasted from a text: a space
_PASTED = re.compile(rb"(?<!\\)((?:\\\\)*)\\(?:f|u000[bcBC])")
MOST_DIGITS = 18  # [T] what a database holds of a whole number
UNREADABLE = "What was sent could not be read. Nothing was stored."


class BoundedParser(Parser):
    """Reads bodies as JSON, or raises an `HttpError` with a sentence."""

    def parse_body(self, request: HttpRequest) -> Any:
        """The plain data of a body."""
        body = _PASTED.sub(rb"\1 ", request.body)
        if _CONTROL.search(body):
            raise HttpError(422, "There is a sign in it that cannot be shown. Type it anew, without what was pasted.")
        try:
            return json.loads(body, parse_constant=_no_number, parse_int=_int, parse_float=_float)
        except RecursionError as error:
            raise HttpError(400, UNREADABLE) from error
        except ValueError as error:  # no JSON, no UTF-8, or a number of thousands of digits
            raise HttpError(400, UNREADABLE) from error


def _int(digits: str) -> int:
    if len(digits) > MOST_DIGITS:
        raise HttpError(422, f"{digits[:12]}… is too large a number.")
    return int(digits)


def _float(digits: str) -> float:
    value = float(digits)
    if not isfinite(value):
        raise HttpError(422, f"{digits[:12]} is too large a number.")
    return value


def _no_number(name: str) -> NoReturn:
    raise ValueError(name)

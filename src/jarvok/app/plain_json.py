"""JSON from outside, read within bounds: no signs that no keyboard writes, no numbers that are none, no endless nesting."""

from __future__ import annotations

import json
import re
from math import isfinite
from typing import Any, NoReturn

from jarvok.core.errors import CoachError

# escaped control characters, tab and the ends of lines left out; a backslash that was typed stands doubled and is none
_CONTROL = re.compile(rb"(?<!\\)(?:\\\\)*\\(?:b|u00(?:0[0-8efEF]|1[0-9a-fA-F]|7[fF]))")
# ends of lines and pages as they come with what is pasted from a text: a space
_PASTED = re.compile(rb"(?<!\\)((?:\\\\)*)\\(?:f|u000[bcBC])")
# where half of a sign of two may stand, escaped or as bytes: seldom, and then it is looked at
_MAY_BE_HALF = re.compile(rb"\\u[dD][89a-fA-F]|\xed[\xa0-\xbf]")
MOST_DIGITS = 18  # [T] what a database holds of a whole number


def read_json(body: bytes) -> Any:
    """Return the plain data of a text. Raises `CoachError` where a sign or a number of it cannot be kept, and `ValueError` or
    `RecursionError` where it is no JSON."""
    body = _PASTED.sub(rb"\1 ", body)
    if _CONTROL.search(body):
        raise _unshowable()
    read = json.loads(body, parse_constant=_no_number, parse_int=_int, parse_float=_float)
    if _MAY_BE_HALF.search(body):
        try:
            json.dumps(read, ensure_ascii=False).encode()
        except UnicodeEncodeError:
            raise _unshowable() from None
    return read


def _unshowable() -> CoachError:
    return CoachError("There is a sign in it that cannot be shown. Type it anew, without what was pasted.")


def _int(digits: str) -> int:
    if len(digits) > MOST_DIGITS:
        raise CoachError(f"{digits[:12]}… is too large a number.")
    return int(digits)


def _float(digits: str) -> float:
    value = float(digits)
    if not isfinite(value):
        raise CoachError(f"{digits[:12]} is too large a number.")
    return value


def _no_number(name: str) -> NoReturn:
    raise ValueError(name)

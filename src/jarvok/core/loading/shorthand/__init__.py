"""Trade shorthand for one line of a session: read forgivingly, written one way. Grammar: docs/formats/shorthand.md."""

from jarvok.core.loading.reader import EXAMPLES, ShorthandError
from jarvok.core.loading.shorthand.parse import parse
from jarvok.core.loading.shorthand.write import write

__all__ = ["EXAMPLES", "ShorthandError", "parse", "write"]

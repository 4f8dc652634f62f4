"""Trade shorthand for one line of a session: read forgivingly, written one way. Grammar: docs/formats/shorthand.md."""

from jarvok.core.loading.shorthand.parse import apre_groups, parse
from jarvok.core.loading.shorthand.reader import EXAMPLES, ShorthandError
from jarvok.core.loading.shorthand.write import write, write_load

__all__ = ["EXAMPLES", "ShorthandError", "apre_groups", "parse", "write", "write_load"]

"""What has served is thrown away at once."""

from __future__ import annotations

from jarvok.app.acts import Who, acting, check_scope
from jarvok.app.upkeep import pruning


def run(who: Who) -> int:
    """Throw it away, some rows a transaction; return how many."""
    check_scope(who.person)
    gone = pruning.prune()
    with acting(who, "throw_away", f"{gone:,} rows that had served thrown away"):
        return gone

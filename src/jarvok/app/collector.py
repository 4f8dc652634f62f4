"""The collector of the interpreter, as a process that serves pages wants it."""

from __future__ import annotations

import gc

# a page that is worked out makes tens of thousands of objects that stay: at the usual seven hundred the collector walks through
# them again and again, for a fifth of the time
THRESHOLDS = (20_000, 20, 20)  # [T]


def settle() -> None:
    """Leave what is loaded by now, and lives as long as the process, out of the collector's rounds, which come seldom then."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(*THRESHOLDS)

"""The planned load of a session in AU (RPE × minutes), from its main sets and what the athlete's own sessions cost."""

from __future__ import annotations

from collections.abc import Sequence
from statistics import median

from jarvok.core.working import Input, Source, Working

USUAL_AU_A_SET = 35.0  # [J] a main set with what belongs to it: about five minutes at 7 of 10
LAST_SESSIONS, LEAST_SESSIONS = 8, 3  # [J] so many with RPE and minutes are looked at; with fewer the usual figure stands


def au_a_main_set(done: Sequence[tuple[int, float]]) -> Working:
    """Return the load of one main set for an athlete with its working; `working.result` is the figure in AU.

    `done` holds (main sets done, load in AU) of sessions with RPE and minutes, oldest first; those without a main set are
    passed over.
    """
    costs = [au / sets for sets, au in done if sets > 0][-LAST_SESSIONS:]
    own = len(costs) >= LEAST_SESSIONS
    value = median(costs) if own else USUAL_AU_A_SET
    return Working(
        f"{value:.1f} AU",
        "RPE × minutes over main sets, the median of the last sessions" if own else "the usual figure",
        Source("J", "Jarvok's default"),
        (Input("sessions with RPE and minutes", f"{len(costs)}"),),
        missing=() if own else (f"{LEAST_SESSIONS} sessions with RPE and minutes",),
    )


def au_of(working: Working) -> float:
    """Return the figure of a working in AU."""
    return float(working.result.removesuffix(" AU"))

"""The eight ways to set a load, one module each, and what is printed with every one of them."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Method:
    """One school of setting a load: its key, name, what it is good for and its printed limits."""

    key: str
    name: str
    how: str
    good_for: str
    limits: str


METHODS: tuple[Method, ...] = (
    Method("linear", "Linear", "last load plus a step", "beginners, the first weeks",
           "no variation, a plateau within a couple of months, fatigue unaccounted for"),
    Method("two_for_two", "2-for-2", "up after two sessions two reps over the goal", "novices",
           "invites failure and poor form; one load for all sets"),
    Method("percent", "Percent of the max", "a share of the working max", "everyone with a max",
           "the max moves daily; reps at a percentage differ by athlete and exercise"),
    Method("rm_zone", "RM zone", "heaviest for a rep range, last set to failure", "big groups, no max needed",
           "every day is a heavy day; light days and power work are lost; chronic failure"),
    Method("reserve", "Reps in reserve", "the load that leaves some repetitions", "trained athletes",
           "under-reported by beginners; unreliable above 12 reps or beyond 4 in reserve; poor for light power work"),
    Method("set_rep_best", "Set-rep best", "a share of the best for these sets and reps", "heavy and light days, goals",
           "needs a history in the scheme, 3 to 8 weeks to settle"),
    Method("apre", "APRE", "set 3 decides set 4, set 4 the next session", "fast adaptation, motivation",
           "failure sets; fixed steps are big for small athletes"),
    Method("velocity", "Velocity", "the load that moves at a target today", "trained groups with sensors",
           "needs profiles, honest intent and the device"),
)  # fmt: skip
# these look at last time or go to failure, whatever the week is for: an easy week and a taper are kept from them
BLIND_TO_THE_WEEK = frozenset({"linear", "two_for_two", "rm_zone", "apre"})
METHOD_BY_KEY = {method.key: method for method in METHODS}

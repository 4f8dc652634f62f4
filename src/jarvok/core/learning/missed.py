"""Why a planned session was not done. Common practice."""

from __future__ import annotations

REASONS = {
    "ill": "ill",
    "hurt": "hurt",
    "work": "school or work",
    "away": "away",
    "practice": "practice or match instead",
    "rested": "rested on purpose",
    "kit": "no room or kit",
    "stayed_away": "stayed away",
    "other": "something else",
}

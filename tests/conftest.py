"""For every test: generated cases are not timed. How long one takes says something of the machine, not of the code."""

from __future__ import annotations

from hypothesis import settings

settings.register_profile("untimed", deadline=None)
settings.load_profile("untimed")

"""Clocks that were started: what they are and the moments from which every page works out the same face."""

from __future__ import annotations

"""Debian's Chromium, as the tests start it."""

from __future__ import annotations

from pathlib import Path

SHELL, WHOLE = Path("/usr/bin/chromium-headless-shell"), Path("/usr/bin/chromium")
CHROMIUM = str(SHELL if SHELL.exists() else WHOLE)

"""Waiting for what a page says of itself, asked again and again: our pages let no script be made from text while they wait."""

from __future__ import annotations

from typing import Any

from playwright.sync_api import Page

EVERY_MS = 50


def until(page: Page, expression: str, arg: Any = None, timeout_s: float = 30) -> None:
    """Wait until an expression of the page, or what it promises, is true."""
    for _ in range(int(timeout_s * 1000 / EVERY_MS)):
        if page.evaluate(expression, arg):
            return
        page.wait_for_timeout(EVERY_MS)
    raise AssertionError(f"not within {timeout_s:g} s: {expression}")

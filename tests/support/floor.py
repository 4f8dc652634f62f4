"""Taps on the floor as a person makes them: the next one when the set before has gone."""

from __future__ import annotations

import re

from playwright.sync_api import Page

from support.waiting import until

UP = "document.querySelector('.floor-now h1')?.innerText + document.querySelector('.step-place')?.innerText"


def done_as_written(page: Page) -> None:
    """Log what is up as written, and wait until it is stored and the next step is up."""
    up = page.evaluate(UP)
    with page.expect_response(lambda r: r.request.method == "POST" and r.url.endswith("/sets")):
        page.get_by_role("button", name=re.compile("^Done as written")).click()
    until(page, f"up => {UP} !== up", up)

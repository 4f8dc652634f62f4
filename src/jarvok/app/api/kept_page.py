"""The answer of an athlete's page, kept as it is sent while nothing of the athlete, the squad or the centre has changed."""

from __future__ import annotations

import zlib
from collections.abc import Callable, Hashable

from django.http import HttpRequest, HttpResponse
from pydantic import BaseModel

from jarvok.app.accounts.permission import person_of
from jarvok.app.api.written import answered, text_of
from jarvok.app.athletes.kept_known import PAGES, keep_large, kept_of

MOST = 24  # [T] pages of one athlete: weeks leafed through, and whatever else may be asked for
QUICK = 1  # [T] how much is tried to make a kept page small: a fifth of its length with the quickest


def kept_page(request: HttpRequest, athlete_id: int, page: Hashable, work_out: Callable[[], BaseModel]) -> HttpResponse:
    """Answer with a page of an athlete that hangs on facts with versions, the day and the reader's role and habits alone.

    `page` is what was asked for. Nothing that was refused is kept, nor anything while a change is under way.
    """
    person, kept = person_of(request), kept_of([athlete_id])[athlete_id]
    asked = (page, person.role if person is not None else None)
    pages: dict[Hashable, bytes] = kept.get(PAGES, {})
    if asked in pages:
        return answered(zlib.decompress(pages[asked]))
    content = text_of(work_out())
    newest = list({**kept.get(PAGES, {}), asked: zlib.compress(content, QUICK)}.items())[-MOST:]
    keep_large(athlete_id, kept, PAGES, dict(newest))
    return answered(content)

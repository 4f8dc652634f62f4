"""The answer of an athlete's or a squad's page, kept as it is sent while nothing of them or of the centre has changed."""

from __future__ import annotations

import zlib
from collections.abc import Callable, Hashable

from django.http import HttpRequest, HttpResponse
from pydantic import BaseModel

from jarvok.app.accounts.permission import person_of
from jarvok.app.api.written import answered, text_of
from jarvok.app.athletes.kept_known import PAGES, Kept, keep_large, kept_of
from jarvok.app.athletes.kept_squads import kept_of_squad

Pages = dict[Hashable, bytes]
MOST = 24  # [T] pages of one athlete or squad: weeks leafed through, and whatever else may be asked for
QUICK = 1  # [T] how much is tried to make a kept page small: a fifth of its length with the quickest


def kept_page(request: HttpRequest, athlete_id: int, page: Hashable, work_out: Callable[[], BaseModel]) -> HttpResponse:
    """Answer with a page of an athlete that hangs on facts with versions, the day and the reader's role and habits alone.

    `page` is what was asked for. Nothing that was refused is kept, nor anything while a change is under way.
    """
    kept = kept_of([athlete_id])[athlete_id]
    return _answer(request, kept, page, work_out, lambda pages: keep_large(athlete_id, kept, PAGES, pages))


def kept_squad_page(request: HttpRequest, squad_id: int, page: Hashable, work_out: Callable[[], BaseModel]) -> HttpResponse:
    """The same of a squad's page, which hangs on everybody in it as well."""
    kept = kept_of_squad(squad_id)
    return _answer(request, kept, page, work_out, lambda pages: kept.update({PAGES: pages}))


def _answer(
    request: HttpRequest, kept: Kept, page: Hashable, work_out: Callable[[], BaseModel], keep: Callable[[Pages], None]
) -> HttpResponse:
    person = person_of(request)
    asked = (page, person.role if person is not None else None)
    pages: Pages = kept.get(PAGES, {})
    if asked in pages:
        return answered(zlib.decompress(pages[asked]))
    content = text_of(work_out())
    newest = list({**kept.get(PAGES, {}), asked: zlib.compress(content, QUICK)}.items())[-MOST:]
    keep(dict(newest))
    return answered(content)

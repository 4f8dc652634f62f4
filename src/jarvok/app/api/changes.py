"""Pages that plan hear at once that somebody else has changed a plan."""

from __future__ import annotations

import asyncio
import json
import time
from collections.abc import AsyncIterator

from asgiref.sync import sync_to_async
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse

from jarvok.app.accounts.permission import athletes_seen, person_of, squads_seen
from jarvok.app.api.floor.live import ASKED_EVERY_S, HEARTBEAT_S, Still, hearer, problem_answer
from jarvok.app.facts.people.models import Act, Person
from jarvok.app.facts.writing import given_back
from jarvok.app.hub import PLANS, hub
from jarvok.app.problems import Refused


def _may(request: HttpRequest) -> tuple[Still | None, Person | None, int]:
    still, person = hearer(request), person_of(request)
    return (still if person is not None else None), person, Act.objects.order_by("-pk").values_list("pk", flat=True).first() or 0


def _after(person: Person, newest: int) -> tuple[int, list[dict[str, str | int]]]:
    """The newest act seen now, and those since another that changed a plan the person sees: which, and on which page."""
    seen = [
        rows.filter(plan_act__gt=newest).values_list("plan_act", flat=True)
        for rows in (athletes_seen(person), squads_seen(person))
    ]
    numbers = {n for rows in seen for n in rows}
    acts = Act.objects.filter(pk__in=numbers).order_by("pk").values_list("pk", "page")
    return max(numbers, default=newest), [{"act": pk, "page": page} for pk, page in acts]


async def plan_changes(request: HttpRequest) -> HttpResponse | StreamingHttpResponse:
    """Server-sent events: one for each change of a plan that the person sees, from now on, with the page it was done on."""
    try:
        still, person, newest = await sync_to_async(given_back(_may))(request)
    except Refused as refused:
        return problem_answer(str(refused), 403)
    if still is None or person is None:
        return problem_answer("Sign in first.", 401)
    response = StreamingHttpResponse(_stream(person, newest, still), content_type="text/event-stream")
    response["Cache-Control"] = "no-cache"
    response["X-Accel-Buffering"] = "no"
    return response


async def _stream(person: Person, newest: int, still: Still) -> AsyncIterator[bytes]:
    event, asked = asyncio.Event(), time.monotonic()
    hub.listen([PLANS], event)
    try:
        yield b"retry: 1000\n\n"
        while True:
            if time.monotonic() - asked > ASKED_EVERY_S:
                if not await sync_to_async(given_back(still))():
                    return
                asked = time.monotonic()
            event.clear()
            newest, told = await sync_to_async(given_back(_after))(person, newest)
            for change in told:
                yield f"event: plan\ndata: {json.dumps(change)}\n\n".encode()
            try:
                await asyncio.wait_for(event.wait(), HEARTBEAT_S)
            except TimeoutError:
                yield b": still here\n\n"
    finally:
        hub.leave([PLANS], event)

"""Where sensors send: bar samples and messages in, a short answer out."""

from __future__ import annotations

import time
from typing import Any

from asgiref.sync import sync_to_async
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.views.decorators.csrf import csrf_exempt

from jarvok.app.floor.live_views import MOST_BYTES, problem_answer
from jarvok.app.room import sensors
from jarvok.core.errors import CoachError
from jarvok.core.sensors.stream import read_samples


async def _bar(paired: sensors.Paired, body: str, received_ms: float) -> dict[str, Any]:
    batch = read_samples(body)
    if not sensors.is_settled(paired):
        word = await sync_to_async(sensors.settle)(paired, batch.samples[0][0], received_ms)
        if word:
            last = batch.samples[-1][0]
            return {"accepted": True, "resume_from": last + 1, "durable_seq": last, "reps": 0, "problems": [], "word": word}
    answer, found = sensors.push_bar(paired, batch)
    durable = answer.durable_seq
    if found or sensors.has_faults(paired):
        kept = await sync_to_async(sensors.keep_bar)(paired, found, received_ms)
        durable = kept if kept is not None else durable
    return answer.__dict__ | {"problems": list(answer.problems), "durable_seq": durable}


@csrf_exempt  # the unguessable token in the path is the credential; a bridge has no cookies
async def sensor_messages(request: HttpRequest, token: str) -> HttpResponse:
    """Take what a paired sensor sends (POST); DELETE says that it is done for now."""
    received_ms = time.time() * 1000
    if request.method == "DELETE":
        await sync_to_async(sensors.forget)(token)
        return JsonResponse({"closed": True})
    if request.method != "POST":
        return problem_answer("Messages are sent with POST.", 405)
    paired = sensors._paired.get(token) or await sync_to_async(sensors.find)(token)
    if paired is None:
        return problem_answer("This sensor is not of this room.", 404, accepted="Add it under Sensors.")
    if len(request.body) > MOST_BYTES:
        return problem_answer("The batch is larger than 1 MB.", 413, accepted="Send smaller batches.")
    try:
        body = request.body.decode("utf-8", errors="replace")
        if paired.sort is sensors.Sort.BAR:
            return JsonResponse(await _bar(paired, body, received_ms))
        return JsonResponse(await sync_to_async(sensors.take_messages)(paired, body))
    except CoachError as error:
        return problem_answer(error.message, 422, error.accepted, error.where)

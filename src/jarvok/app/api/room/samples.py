"""What a paired sensor sends: taken, and answered shortly."""

from __future__ import annotations

import time
from typing import Any

from asgiref.sync import sync_to_async

from jarvok.app.api.problems import plain
from jarvok.app.room import paired as paired_sensors
from jarvok.app.room import sensors
from jarvok.core.sensors.stream import read_samples


async def take_messages(token: str, method: str, body: bytes) -> tuple[int, dict[str, Any]]:
    """Take what a paired sensor sends (POST); DELETE says that it is done for now: the status and the answer."""
    received_ms = time.time() * 1000
    if method == "DELETE":
        await sync_to_async(paired_sensors.forget)(token)
        return 200, {"closed": True}
    if method != "POST":
        return 405, plain("Messages are sent with POST.", 405)
    paired = paired_sensors.known(token) or await sync_to_async(paired_sensors.find)(token)
    if paired is None:
        return 404, plain("This sensor is not of this room.", 404, accepted="Add it under Sensors.")
    paired.heard_at = time.monotonic()
    text = body.decode("utf-8", errors="replace")
    if paired.sort is paired_sensors.Sort.BAR:
        return 200, await _bar(paired, text, received_ms)
    return 200, await sync_to_async(sensors.take_messages)(paired, text)


async def _bar(paired: paired_sensors.Paired, body: str, received_ms: float) -> dict[str, Any]:
    batch = read_samples(body)
    if paired.trial is not None:
        return await sync_to_async(sensors.take_trial_samples)(paired, batch)
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

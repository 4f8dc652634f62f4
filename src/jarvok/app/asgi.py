"""The ASGI entry point."""

import asyncio
import os
import sys
import warnings

from django.core.asgi import get_asgi_application

# the built pages are small files: reading them in one go under ASGI is what is wanted
warnings.filterwarnings("ignore", message="StreamingHttpResponse must consume synchronous iterators")
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "jarvok.app.settings")
pages = get_asgi_application()

import jarvok.app.urls  # noqa: E402, F401  every road, else the first request to each process waits for all of them to be loaded
from jarvok.app.api.read_ahead import keep_read_ahead  # noqa: E402  the applications have to be loaded first
from jarvok.app.between import keep_listening  # noqa: E402
from jarvok.app.collector import settle  # noqa: E402
from jarvok.app.gate import SensorGate  # noqa: E402
from jarvok.app.threads import LentThreads  # noqa: E402
from jarvok.app.upkeep.housekeeper import keep_house  # noqa: E402

sys.setswitchinterval(0.001)  # who stores a set does not wait long for who works out a page
served = SensorGate(LentThreads(pages))


async def application(scope, receive, send):  # type: ignore[no-untyped-def]
    """Serve, and look after the centre meanwhile where the server says when it begins and ends."""
    if scope["type"] != "lifespan":
        await served(scope, receive, send)
        return
    await receive()
    keeping = [asyncio.create_task(keep_house()), asyncio.create_task(keep_read_ahead()), asyncio.create_task(keep_listening())]
    await send({"type": "lifespan.startup.complete"})
    await receive()
    for task in keeping:
        task.cancel()
    await send({"type": "lifespan.shutdown.complete"})


settle()  # live streams would feel the collector's rounds

"""What an answer holds that is sent in parts."""

from __future__ import annotations

from typing import Any

from asgiref.sync import async_to_sync


def collected(response: Any) -> bytes:
    """All parts of a streamed answer."""

    async def gather() -> bytes:
        return b"".join([part async for part in response.streaming_content])

    return async_to_sync(gather)()

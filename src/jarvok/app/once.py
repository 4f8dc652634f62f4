"""A write is done once per key, whatever is sent twice."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Callable
from typing import Any

from django.db import transaction

from jarvok.app.facts.floor.models import IdempotentWrite
from jarvok.app.problems import Conflict
from jarvok.core.errors import CoachError


def once(key: str, request: object, act: Callable[[], dict[str, Any]]) -> dict[str, Any]:
    """Do a write once per key: a repeated key gets the first answer; the same key with other content is refused."""
    if not 8 <= len(key) <= 80:
        raise CoachError("A floor write carries an Idempotency-Key of 8 to 80 characters.", where="Idempotency-Key")
    digest = hashlib.sha256(json.dumps(request, sort_keys=True, default=str).encode()).hexdigest()
    with transaction.atomic():
        kept = IdempotentWrite.objects.filter(key=key).first()
        if kept is not None:
            if kept.request != digest:
                raise Conflict("This key was used for something else.")
            answer: dict[str, Any] = kept.answer
            return answer
        answer = act()
        IdempotentWrite.objects.create(key=key, request=digest, answer=answer)
        return answer

"""One shape for everything that goes wrong: problem+json with what was wrong, where, and what would be accepted."""

from __future__ import annotations

import logging
from typing import Annotated, Any

from django.core.exceptions import ObjectDoesNotExist
from django.db import OperationalError
from django.http import Http404, HttpRequest, HttpResponse
from ninja import Header, NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError

from jarvok.app.problems import Conflict, NeedsConfirmation
from jarvok.app.schema import Schema
from jarvok.core.errors import CoachError
from jarvok.core.loading.shorthand import ShorthandError

# what an address is of, by the part of it that says so, the most telling first
_NAMES = (
    ("sessions", "That session"), ("trials", "That trial"), ("tests", "That test"), ("room", "That room"),
    ("sensors", "That sensor"), ("library", "That exercise"), ("templates", "That template"),
    ("competitions", "That competition"), ("squads", "That squad"),
    ("athletes", "That athlete"),
)  # fmt: skip

log = logging.getLogger(__name__)


class Problem(Schema):
    title: str
    status: int
    where: str = ""
    accepted: str = ""
    position: int | None = None
    suggestion: str = ""
    stored_id: int | None = None
    stored: str = ""


# what every address may answer beside what was asked for
ERRORS = {401: Problem, 403: Problem, 404: Problem, 409: Problem, 422: Problem, 428: Problem}
IdempotencyKey = Annotated[str, Header(alias="Idempotency-Key")]


def plain(title: str, status: int, accepted: str = "", where: str = "") -> dict[str, Any]:
    """A problem as plain data, for the few answers that do not go through the API."""
    return {"title": title, "status": status, "where": where, "accepted": accepted, "position": None, "suggestion": ""}


BUSY = "The database is busy or the disk is full. Nothing was stored; what you sent is kept and sent again."


def _answer(api: NinjaAPI, request: HttpRequest, problem: Problem) -> HttpResponse:
    response = api.create_response(request, problem.dict(), status=problem.status)
    response["Content-Type"] = "application/problem+json"
    return response


def install(api: NinjaAPI) -> None:
    @api.exception_handler(CoachError)
    def coach_error(request: HttpRequest, error: CoachError) -> HttpResponse:
        problem = Problem(title=error.message, status=422, where=error.where, accepted=error.accepted)
        if isinstance(error, ShorthandError):
            problem.position, problem.suggestion = error.position, error.suggestion
        if isinstance(error, NeedsConfirmation):
            problem.status = 428
        return _answer(api, request, problem)

    @api.exception_handler(ValidationError)
    def invalid(request: HttpRequest, error: ValidationError) -> HttpResponse:
        first: dict[str, Any] = error.errors[0] if error.errors else {}
        where = ".".join(str(p) for p in first.get("loc", ()) if p not in ("body", "payload", "query", "path"))
        name = where.replace("_", " ") or "The request"
        title = f"{name[:1].upper()}{name[1:]}: {str(first.get('msg', 'cannot be read')).lower()}."
        return _answer(api, request, Problem(title=title, status=422, where=where))

    @api.exception_handler(ObjectDoesNotExist)
    @api.exception_handler(Http404)
    def missing(request: HttpRequest, error: Exception) -> HttpResponse:
        return _answer(
            api,
            request,
            Problem(
                title=f"{_named(request.path)} is not here.",
                status=404,
                accepted="It may have been removed, or the address is wrong.",
            ),
        )

    @api.exception_handler(Conflict)
    def conflict(request: HttpRequest, error: Conflict) -> HttpResponse:
        return _answer(api, request, Problem(title=str(error), status=409, stored_id=error.stored_id, stored=error.stored))

    @api.exception_handler(AuthenticationError)
    def signed_out(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
        return _answer(api, request, Problem(title="Sign in first.", status=401))

    @api.exception_handler(HttpError)
    def http_error(request: HttpRequest, error: HttpError) -> HttpResponse:
        return _answer(api, request, Problem(title=str(error), status=error.status_code))

    @api.exception_handler(OperationalError)
    def busy(request: HttpRequest, error: OperationalError) -> HttpResponse:
        log.warning("database: %s at %s", error, request.path)
        return _answer(api, request, Problem(title=BUSY, status=503, accepted="Make room on the disk if this stays."))

    @api.exception_handler(Exception)
    def unforeseen(request: HttpRequest, error: Exception) -> HttpResponse:
        log.exception("unforeseen error at %s", request.path)
        return _answer(api, request, Problem(title="Something failed on the server. Nothing was changed.", status=500))


def _named(path: str) -> str:
    """What was looked for, in words, from its address."""
    parts = path.split("/")
    return next((name for part, name in _NAMES if part in parts), "What you look for")

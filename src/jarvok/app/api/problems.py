"""One shape for everything that goes wrong: problem+json with what was wrong, where, and what would be accepted."""

from __future__ import annotations

import logging
from typing import Annotated, Any

from django.core.exceptions import ObjectDoesNotExist, RequestDataTooBig, SuspiciousOperation
from django.db import DataError, InternalError, OperationalError
from django.http import Http404, HttpRequest, HttpResponse
from django.http.multipartparser import MultiPartParserError
from ninja import Header, NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError

from jarvok.app.api.unreadable import words_for
from jarvok.app.problems import Changed, Conflict, NeedsConfirmation, Refused
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
    newest: int | None = None  # the act that changed a plan since it was read: sent again as seen, it is written over


# what every address may answer beside what was asked for
# whatever else is answered than what a road names is a problem of one of these kinds; the framework keeps what is under the dots
# once for each road, and would keep it nine times
OF_A_PROBLEM = (400, 401, 403, 404, 409, 413, 422, 428, 503)
ERRORS: dict[Any, type[Problem]] = {...: Problem}
IdempotencyKey = Annotated[str, Header(alias="Idempotency-Key")]


def plain(title: str, status: int, accepted: str = "", where: str = "") -> dict[str, Any]:
    """A problem as plain data, for the few answers that do not go through the API."""
    return {"title": title, "status": status, "where": where, "accepted": accepted, "position": None, "suggestion": ""}


MOST_SENT = "Up to 2 MB are accepted."
LONGEST_NUMBER = 18  # digits that 64 bits hold for certain
EARLIER_VISIT = "This page is from an earlier visit. Load it again; nothing was stored."
KEPT = "Nothing was stored; what you sent is kept and sent again."
BUSY = "The database is busy."
# what the database says, what that means, and what whoever looks after the machine can do
_TROUBLE = (
    ("full", "The disk is full.", "Make room on the disk."),
    ("no space left", "The disk is full.", "Make room on the disk."),
    ("read-only", "The disk cannot be written to.", "Look why the database takes nothing but readers."),
    (
        "readonly",
        "The disk cannot be written to.",
        "Look whether the folder belongs to another user.",
    ),
    ("unable to open", "The data cannot be opened.", "Look whether the disk is there."),
    ("disk i/o", "The disk does not answer.", "Look after the disk; there are backups."),
)


# what either engine raises where the fault is the machine's, and not of what was sent
OF_THE_MACHINE = (OperationalError, InternalError)


def database_words(error: Exception | None) -> tuple[str, str]:
    """What is wrong with the database in a sentence, and what would help."""
    said = str(error).lower()
    title, help_ = next(((title, help_) for part, title, help_ in _TROUBLE if part in said), (BUSY, ""))
    return f"{title} {KEPT}", help_


def _answer(api: NinjaAPI, request: HttpRequest, problem: Problem) -> HttpResponse:
    response = api.create_response(request, problem.dict(), status=problem.status)
    response["Content-Type"] = "application/problem+json"
    return response


def install(api: NinjaAPI) -> None:
    """Answer every error with a problem in words."""
    _install_for_what_was_asked(api)
    _install_for_how_it_was_sent(api)
    _install_for_the_server(api)


def _install_for_what_was_asked(api: NinjaAPI) -> None:
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
        title, where, accepted = words_for(first)
        return _answer(api, request, Problem(title=title, status=422, where=where, accepted=accepted))

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

    @api.exception_handler(Changed)
    def changed(request: HttpRequest, error: Changed) -> HttpResponse:
        accepted = "Yours is not saved. Look at theirs, or save yours over it."
        return _answer(api, request, Problem(title=str(error), status=409, accepted=accepted, newest=error.newest))

    @api.exception_handler(Conflict)
    def conflict(request: HttpRequest, error: Conflict) -> HttpResponse:
        return _answer(api, request, Problem(title=str(error), status=409, stored_id=error.stored_id, stored=error.stored))

    @api.exception_handler(Refused)
    def refused(request: HttpRequest, error: Refused) -> HttpResponse:
        return _answer(api, request, Problem(title=str(error), status=403))


def _install_for_how_it_was_sent(api: NinjaAPI) -> None:
    @api.exception_handler(AuthenticationError)
    def signed_out(request: HttpRequest, error: AuthenticationError) -> HttpResponse:
        return _answer(api, request, Problem(title="Sign in first.", status=401))

    @api.exception_handler(HttpError)
    def http_error(request: HttpRequest, error: HttpError) -> HttpResponse:
        if isinstance(error.__cause__, HttpError):  # what reading the body said, put by the framework into words of its own
            error = error.__cause__
        title = EARLIER_VISIT if str(error) == "CSRF check Failed" else str(error)
        return _answer(api, request, Problem(title=title, status=error.status_code))

    @api.exception_handler(RequestDataTooBig)
    def too_large(request: HttpRequest, error: RequestDataTooBig) -> HttpResponse:
        return _answer(api, request, Problem(title="This is too large. Nothing was stored.", status=413, accepted=MOST_SENT))

    @api.exception_handler(SuspiciousOperation)
    @api.exception_handler(MultiPartParserError)
    def not_read(request: HttpRequest, error: Exception) -> HttpResponse:
        return _answer(api, request, Problem(title="What was sent could not be read. Nothing was stored.", status=400))


def _install_for_the_server(api: NinjaAPI) -> None:
    @api.exception_handler(OperationalError)
    @api.exception_handler(InternalError)
    def busy(request: HttpRequest, error: OperationalError | InternalError) -> HttpResponse:
        log.warning("database: %s at %s", error, request.path)
        title, accepted = database_words(error)
        return _answer(api, request, Problem(title=title, status=503, accepted=accepted))

    @api.exception_handler(OverflowError)
    def endless_number(request: HttpRequest, error: OverflowError | DataError) -> HttpResponse:
        """A number that no row can have: in the address it names nothing, elsewhere it is refused."""
        if any(len(part) > LONGEST_NUMBER and part.isdecimal() for part in request.path.split("/")):
            return _answer(api, request, Problem(title=f"{_named(request.path)} is not there.", status=404))
        return _answer(api, request, Problem(title="A number is too large.", status=422))

    @api.exception_handler(DataError)
    def unfit_for_its_column(request: HttpRequest, error: DataError) -> HttpResponse:
        """PostgreSQL refuses a number that is too large as one of several kinds of data; the others are faults of ours."""
        return endless_number(request, error) if "out of range" in str(error) else unforeseen(request, error)

    @api.exception_handler(Exception)
    def unforeseen(request: HttpRequest, error: Exception) -> HttpResponse:
        log.exception("unforeseen error at %s", request.path)
        return _answer(api, request, Problem(title="Something failed on the server. Nothing was changed.", status=500))


def _named(path: str) -> str:
    """What was looked for, in words, from its address."""
    parts = path.split("/")
    return next((name for part, name in _NAMES if part in parts), "What you look for")

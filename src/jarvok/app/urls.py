"""Addresses: the API, the live endpoints, and the page for everything else."""

from __future__ import annotations

from collections.abc import Callable
from functools import wraps

from django.conf import settings
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from django.urls import URLPattern, URLResolver, include, path, re_path
from django.views.decorators.csrf import csrf_exempt, ensure_csrf_cookie

from jarvok.app.accounts.permission import person_of
from jarvok.app.api import answers, problems
from jarvok.app.api.accounts import router as accounts
from jarvok.app.api.athletes.overview import router as athletes
from jarvok.app.api.athletes.record import router as record
from jarvok.app.api.athletes.result_form import router as result_form
from jarvok.app.api.athletes.squads import router as squads
from jarvok.app.api.athletes.standing import router as standing
from jarvok.app.api.athletes.transfer import router as transfer
from jarvok.app.api.backups import router as backups
from jarvok.app.api.centre import router as centre
from jarvok.app.api.changes import plan_changes
from jarvok.app.api.described import Api
from jarvok.app.api.exports import router as exports
from jarvok.app.api.find import router as find
from jarvok.app.api.first_run import router as first_run
from jarvok.app.api.floor.live import events
from jarvok.app.api.floor.sessions import router as floor
from jarvok.app.api.history import router as history
from jarvok.app.api.learning.after import router as after
from jarvok.app.api.learning.beside import router as beside
from jarvok.app.api.learning.bests import router as bests
from jarvok.app.api.learning.day import router as day_review
from jarvok.app.api.learning.findings import router as findings
from jarvok.app.api.learning.progress import router as progress
from jarvok.app.api.learning.reports import router as reports
from jarvok.app.api.learning.weeks import router as learning
from jarvok.app.api.mine import router as mine
from jarvok.app.api.people import router as people
from jarvok.app.api.reading import BoundedParser
from jarvok.app.api.room.board import router as board
from jarvok.app.api.room.clocks import router as room_clocks
from jarvok.app.api.room.joining import router as joining
from jarvok.app.api.room.links import router as links
from jarvok.app.api.room.live import room_events
from jarvok.app.api.room.rooms import router as room
from jarvok.app.api.room.sensors import router as sensors
from jarvok.app.api.room.trial_sensors import router as trial_sensors
from jarvok.app.api.seasons.calendar import router as calendar
from jarvok.app.api.seasons.calendar_month import router as calendar_month
from jarvok.app.api.seasons.seasons import router as seasons
from jarvok.app.api.seasons.squad_season import router as squad_season
from jarvok.app.api.seasons.tapers import router as tapers
from jarvok.app.api.testing.max_tests import router as tests
from jarvok.app.api.testing.test_day import router as test_day
from jarvok.app.api.testing.trials import router as trials
from jarvok.app.api.today.page import router as today
from jarvok.app.api.training.chosen import router as chosen
from jarvok.app.api.training.library import router as library
from jarvok.app.api.training.methods import router as methods
from jarvok.app.api.training.plan import router as training
from jarvok.app.api.training.printing import router as printing
from jarvok.app.api.training.sessions import router as sessions
from jarvok.app.api.training.squad_table import router as squad_table
from jarvok.app.api.training.squads import router as squad
from jarvok.app.api.training.templates import router as templates
from jarvok.app.api.upkeep import router as upkeep
from jarvok.app.api.who import signed_in
from jarvok.app.api.written import Written
from jarvok.app.gate import answer

handler400, handler403, handler404, handler500 = answers.bad, answers.forbidden, answers.missing, answers.failed


def for_people(view: Callable[..., HttpResponse]) -> Callable[..., HttpResponse]:
    """What the API is, is told to whoever is signed in."""

    @wraps(view)
    def told(request: HttpRequest, *args: object, **kwargs: object) -> HttpResponse:
        return view(request, *args, **kwargs) if person_of(request) is not None else answers.problem(401)

    return told


api = Api(
    title="Jarvok",
    version="1",
    auth=signed_in,
    docs_url=None,
    docs_decorator=for_people,
    parser=BoundedParser(),
    renderer=Written(),
)
problems.install(api)
for router in (
    accounts,
    people,
    backups,
    upkeep,
    exports,
    mine,
    find,
    centre,
    today,
    athletes,
    standing,
    squads,
    record,
    result_form,
    tests,
    transfer,
    seasons,
    squad_season,
    calendar,
    calendar_month,
    history,
    tapers,
    training,
    methods,
    sessions,
    squad,
    squad_table,
    chosen,
    library,
    templates,
    printing,
    floor,
    room,
    board,
    joining,
    room_clocks,
    links,
    trials,
    test_day,
    sensors,
    trial_sensors,
    learning,
    beside,
    day_review,
    bests,
    progress,
    reports,
    findings,
    after,
    first_run,
):
    api.add_router("", router)


def roads() -> tuple[list[URLPattern | URLResolver], str, str]:
    """The API's addresses by their first word, so that each is held against those of its own word and not against all."""
    patterns, app, namespace = api.urls
    by_word: dict[str, list[URLPattern | URLResolver]] = {}
    for found in patterns:
        assert isinstance(found, URLPattern)
        word, slash, rest = str(found.pattern).partition("/")
        under, route = (f"{word}/", rest) if slash else ("", word)
        by_word.setdefault(under, []).append(path(route, found.callback, found.default_args, found.name))
    return [path(word, include(by_word[word])) for word in sorted(by_word, reverse=True)], app, namespace


@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    index = settings.WEB_DIST / "index.html"
    if not index.exists():
        return HttpResponse("The pages are not built yet: run make demo.", status=503, content_type="text/plain")
    response = HttpResponse(index.read_text("utf-8"))
    response["Cache-Control"] = "no-cache"
    return response


def worker(request: HttpRequest) -> HttpResponse:
    """The script that opens the pages without a network: it stands at the root, because it serves all of them."""
    script = settings.WEB_DIST / "worker.js"
    if not script.exists():
        raise Http404
    response = HttpResponse(script.read_bytes(), content_type="text/javascript; charset=utf-8")
    response["Cache-Control"] = "no-cache"
    return response


@csrf_exempt  # the unguessable token in the path is the credential; a bridge has no cookies
async def sensor(request: HttpRequest, token: str) -> HttpResponse:
    """What a sensor sends where the gate is not in front, as under the test client."""
    found = await answer(request.path, request.method or "", request.META.get("QUERY_STRING", "").encode(), request.body)
    status, data = found or (404, problems.plain("This stream is closed or was never opened.", 404))
    kind = "application/json" if status < 400 else "application/problem+json"
    return JsonResponse(data, status=status, content_type=kind)


urlpatterns = [
    path("api/streams/<str:token>", sensor),
    path("api/sensors/<str:token>/messages", sensor),
    path("api/floor/sessions/<int:session_id>/events", events),
    path("api/room/<int:room_id>/events", room_events),
    path("api/changes", plan_changes),
    path("api/", roads()),
    path("worker.js", worker),
    re_path(r"^(?!api/|static/).*$", page),
]

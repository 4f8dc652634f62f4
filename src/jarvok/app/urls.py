"""Addresses: the API, the live endpoints, and the page for everything else."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.urls import path, re_path
from django.views.decorators.csrf import csrf_exempt, ensure_csrf_cookie
from ninja import NinjaAPI
from ninja.security import django_auth

from jarvok.app.api import problems
from jarvok.app.api.accounts import router as accounts
from jarvok.app.api.athletes.overview import router as athletes
from jarvok.app.api.athletes.record import router as record
from jarvok.app.api.athletes.standing import router as standing
from jarvok.app.api.athletes.transfer import download
from jarvok.app.api.athletes.transfer import router as transfer
from jarvok.app.api.centre import router as centre
from jarvok.app.api.first_run import router as first_run
from jarvok.app.api.floor.live import events
from jarvok.app.api.floor.sessions import router as floor
from jarvok.app.api.history import router as history
from jarvok.app.api.room.board import router as board
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
from jarvok.app.api.today import router as today
from jarvok.app.api.training.chosen import router as chosen
from jarvok.app.api.training.library import router as library
from jarvok.app.api.training.methods import router as methods
from jarvok.app.api.training.plan import router as training
from jarvok.app.api.training.printing import router as printing
from jarvok.app.api.training.sessions import router as sessions
from jarvok.app.api.training.squad_table import router as squad_table
from jarvok.app.api.training.squads import router as squad
from jarvok.app.api.training.templates import router as templates
from jarvok.app.gate import answer

api = NinjaAPI(title="Jarvok", version="1", auth=django_auth, docs_url=None)
problems.install(api)
for router in (
    accounts,
    centre,
    today,
    athletes,
    standing,
    record,
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
    links,
    trials,
    test_day,
    sensors,
    trial_sensors,
    first_run,
):
    api.add_router("", router)


@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    index = settings.WEB_DIST / "index.html"
    if not index.exists():
        return HttpResponse("The pages are not built yet: run make demo.", status=503, content_type="text/plain")
    response = HttpResponse(index.read_text("utf-8"))
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
    path("api/export/athletes.<str:form>", download),
    path("api/", api.urls),
    re_path(r"^(?!api/|static/).*$", page),
]

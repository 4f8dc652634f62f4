"""Addresses: the API, the live endpoints, and the page for everything else."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.urls import path, re_path
from django.views.decorators.csrf import csrf_exempt, ensure_csrf_cookie
from ninja import NinjaAPI
from ninja.security import django_auth

from jarvok.app import problems
from jarvok.app.accounts.api import router as accounts
from jarvok.app.athletes.api import router as athletes
from jarvok.app.athletes.record_api import router as record
from jarvok.app.athletes.standing_api import router as standing
from jarvok.app.athletes.tests_api import router as tests
from jarvok.app.athletes.today import router as today
from jarvok.app.athletes.transfer_api import download
from jarvok.app.athletes.transfer_api import router as transfer
from jarvok.app.centre.api import router as centre
from jarvok.app.floor.api import router as floor
from jarvok.app.floor.live_views import events
from jarvok.app.gate import answer
from jarvok.app.room.api import router as room
from jarvok.app.room.links_api import router as links
from jarvok.app.room.live_views import room_events
from jarvok.app.room.sensors_api import router as sensors
from jarvok.app.room.trials_api import router as trials
from jarvok.app.seasons.api import router as seasons
from jarvok.app.seasons.bench_api import router as tapers
from jarvok.app.seasons.calendar_api import router as calendar
from jarvok.app.training.api import router as training
from jarvok.app.training.edit_api import router as sessions
from jarvok.app.training.library_api import router as library
from jarvok.app.training.methods_api import router as methods
from jarvok.app.training.print_pdf import router as printing
from jarvok.app.training.squad_api import router as squad
from jarvok.app.training.templates_api import router as templates

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
    calendar,
    tapers,
    training,
    methods,
    sessions,
    squad,
    library,
    templates,
    printing,
    floor,
    room,
    links,
    trials,
    sensors,
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

"""A session on paper: the road to it. What draws pages is loaded with the first page: few processes ever print."""

from __future__ import annotations

from datetime import date

from django.http import HttpRequest, HttpResponse
from ninja import Router

from jarvok.app.api.problems import ERRORS
from jarvok.app.api.training.squad_table import read_rack_sheet, squad_table
from jarvok.core.errors import CoachError

router = Router(tags=["print"])
RACKS = "racks"
OF_A_SQUAD = ("wall", "cards")


@router.get("/export/athletes/{int:athlete_id}/sessions/{day}/{key}/{kind}.pdf", response={**ERRORS}, include_in_schema=False)
def export(request: HttpRequest, athlete_id: int, day: date, key: str, kind: str, racks: int | None = None) -> HttpResponse:
    if kind not in (*OF_A_SQUAD, RACKS):
        raise CoachError("There is no such sheet.", where="kind", accepted=f"{', '.join(OF_A_SQUAD)}, {RACKS}")
    from jarvok.app.api.training.session_paper import cards, rack_pdf, wall_sheet

    if kind == RACKS:
        made = rack_pdf(read_rack_sheet(request, athlete_id, day, key, racks))
    else:
        draw = wall_sheet if kind == "wall" else cards
        made = draw(squad_table(athlete_id, day, key))
    response = HttpResponse(made, content_type="application/pdf")
    response["Content-Disposition"] = f'inline; filename="{kind}-{day}.pdf"'
    return response

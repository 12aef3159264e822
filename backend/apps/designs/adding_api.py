"""Where a new panel may stand, over HTTP: the edges of a panel, and the slats of a lattice."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router, Schema

from apps.designs import convert, queries
from apps.designs.api import project_row
from notchcore.design.adding import PanelEdges, SlatPlace, edges_of, lattice_of

router = Router(tags=["designs"])


class LatticeIn(Schema):
    """The panels round a room, and how slats shall go across it [mm, degrees]."""

    walls: list[str]
    stock: str
    pitch: float
    turn: float
    crossed: bool


@router.get("/projects/{project_id}/panels/{panel}/edges", response=PanelEdges, operation_id="panelEdges")
def panel_edges(request: HttpRequest, project_id: int, panel: str, item: str = "") -> PanelEdges:
    """Return the edges of a panel on which a wall may stand."""
    now = queries.current(project_row(request, project_id)).of(item)
    return edges_of(now.design, now.stocks, panel=panel, drawings=convert.drawings_for(now.project, now.design), bed=now.measured.bed)


@router.post("/projects/{project_id}/lattice", response=list[SlatPlace], operation_id="latticeOf")
def lattice(request: HttpRequest, project_id: int, body: LatticeIn, item: str = "") -> tuple[SlatPlace, ...]:
    """Return how the slats of a lattice would run; nothing is added."""
    now = queries.current(project_row(request, project_id)).of(item)
    return lattice_of(
        now.design,
        now.stocks,
        walls=body.walls,
        stock=body.stock,
        pitch=body.pitch,
        turn=body.turn,
        crossed=body.crossed,
        drawings=convert.drawings_for(now.project, now.design),
        bed=now.measured.bed,
    )

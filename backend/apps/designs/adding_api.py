"""Where a new panel may stand, over HTTP: the edges of a panel, and the slats of a lattice."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router, Schema

from apps.designs import convert, queries
from apps.designs.api import project_row
from notchcore.design.adding import PanelEdges, SlatPlace, corner_of, edges_of, lattice_of
from notchcore.design.braces import CornerRoom

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


class CornerIn(Schema):
    """Two panels in whose corner a sheet shall stand."""

    a: str
    b: str


@router.post("/projects/{project_id}/corner", response=CornerRoom | None, operation_id="cornerOf")
def corner(request: HttpRequest, project_id: int, body: CornerIn, item: str = "") -> CornerRoom | None:
    """Return how far from the corner of two panels a sheet across it may meet each; null where there is no place."""
    now = queries.current(project_row(request, project_id)).of(item)
    return corner_of(now.design, now.stocks, a=body.a, b=body.b, drawings=convert.drawings_for(now.project, now.design), bed=now.measured.bed)


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

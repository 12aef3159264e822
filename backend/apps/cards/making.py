"""Laying out and planning a test card at once: it is small, and a person waits for it."""

from __future__ import annotations

from apps.designs.models import Project
from apps.layouts.services import default_request, pack_project
from apps.plans.services import make_plan, planned
from notchcore.errors import NestError, PlanError


def laid_out(project: Project, *, make: bool = False) -> float | None:
    """Return how many minutes the card takes on the machine; None while it has no place on a sheet or no plan.

    Args:
        make: lay it out and plan it first
    """
    if make:
        try:
            nesting = pack_project(project, default_request(project, seconds=0.1))
            if nesting.unplaced:
                return None
            make_plan(project)
        except (NestError, PlanError):
            return None  # no sheet of this stock lies on the shelf: Lay out says so
    stored, inputs = planned(project)
    fresh = stored is not None and inputs is not None and inputs.layout_fresh and stored[0].made_from == inputs.made_from
    return stored[1].seconds / 60 if fresh and stored is not None else None

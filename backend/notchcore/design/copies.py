"""A panel again: moved, mirrored or turned, as large as it is."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace

from notchcore.design.between import AXES
from notchcore.design.edits import CopyOf
from notchcore.design.panel import Bound, Panel, resolved
from notchcore.design.turning import mirrored
from notchcore.geom.slab import Pose
from notchcore.geom.vectors import Vec3, add, cross, dot, scale, sub


def copied(item: CopyOf, of: Panel, *, panels: Mapping[str, Panel]) -> Panel:
    """Return a panel again, as it is before anything is put on it. Only the first falls out of its opening; a copy is cut for itself.

    Edges that end at a mate end there again where the mate stands to the copy as to the original: the move runs along its face. All others are
    as long as the original's: from its new place the mate would cut them elsewhere.
    """
    of = _at_length(of, [b for b in of.bounds if b.mate in panels and not _stays(panels[b.mate].pose.normal, item)], panels=panels)
    copy = replace(of, id=item.id, label=item.label, falls_from="", copies=1, pose=replace(of.pose, origin=add(of.pose.origin, item.move)))
    copy = mirrored(copy, AXES[item.mirror], about=item.about) if item.mirror else copy
    return replace(copy, pose=_turned(copy.pose, item)) if item.round else copy


def _turned(pose: Pose, item: CopyOf) -> Pose:
    """Return a pose turned about the item's line, by Rodrigues' formula."""
    assert item.round is not None
    axis, angle = AXES[item.round], math.radians(item.turn)

    def way(v: Vec3) -> Vec3:
        level = add(scale(v, math.cos(angle)), scale(cross(axis, v), math.sin(angle)))
        return add(level, scale(axis, dot(axis, v) * (1 - math.cos(angle))))

    return Pose(origin=add(item.centre, way(sub(pose.origin, item.centre))), x=way(pose.x), y=way(pose.y))


def _stays(normal: Vec3, item: CopyOf) -> bool:
    """Tell whether a plane lies to a copy as to its original."""
    if item.round and item.turn and abs(abs(dot(normal, AXES[item.round])) - 1) > 1e-9:
        return False
    return abs(dot(normal, item.move)) < 1e-6 and (item.mirror is None or abs(dot(normal, AXES[item.mirror])) < 1e-6)


def _at_length(panel: Panel, ends: Sequence[Bound], *, panels: Mapping[str, Panel]) -> Panel:
    """Return a panel whose edges end for good where these bounds end them now."""
    if not ends:
        return panel
    cut = resolved(replace(panel, bounds=tuple(ends)), panels)
    return replace(cut, bounds=tuple(b for b in panel.bounds if b not in ends))

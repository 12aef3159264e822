"""All features by name, as forms offer them."""

from __future__ import annotations

from dataclasses import dataclass

from notchcore.design.features.values import CableSlot, Hole, Keyhole, Notch, Ring, Scale, Socket, Text, Vents, Window

Feature = Hole | Ring | Window | Notch | Keyhole | CableSlot | Vents | Text | Scale | Socket


@dataclass(frozen=True, slots=True, kw_only=True)
class FeatureType:
    """One kind of feature to choose."""

    id: str
    label: str
    type: type[Feature]
    edge: str = ""  #: the anchor it begins with, when not the middle


FEATURES: tuple[FeatureType, ...] = (
    FeatureType(id="hole", label="Hole, or rows of holes", type=Hole),
    FeatureType(id="ring", label="Holes on a circle", type=Ring),
    FeatureType(id="window", label="Window", type=Window),
    FeatureType(id="text", label="Text", type=Text),
    FeatureType(id="notch", label="Finger notch", type=Notch, edge="top"),
    FeatureType(id="keyhole", label="Hanging hole", type=Keyhole),
    FeatureType(id="cable", label="Cable slot", type=CableSlot, edge="bottom"),
    FeatureType(id="vents", label="Air slits", type=Vents),
    FeatureType(id="scale", label="Ruler", type=Scale, edge="bottom_left"),
    FeatureType(id="socket", label="Socket for a sheet", type=Socket),
)

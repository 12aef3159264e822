"""All features by name, as forms offer them."""

from __future__ import annotations

from dataclasses import dataclass

from notchcore.design.features.values import Anchor, Artwork, CableSlot, Fold, GreyImage, Hole, HoleCircle, Keyhole, Notch, Scale, Socket, Text, Vents, Window
from notchcore.words.language import Called

Feature = Hole | HoleCircle | Window | Notch | Keyhole | CableSlot | Vents | Text | Scale | Socket | Fold | Artwork | GreyImage


@dataclass(frozen=True, slots=True, kw_only=True)
class FeatureType(Called):
    """One kind of feature to choose."""

    id: str
    label: str
    type: type[Feature]
    edge: Anchor = Anchor.CENTRE  #: the anchor it begins with


FEATURES: tuple[FeatureType, ...] = (
    FeatureType(id="hole", label="Hole, or rows of holes", type=Hole),
    FeatureType(id="ring", label="Holes on a circle", type=HoleCircle),
    FeatureType(id="window", label="Window", type=Window),
    FeatureType(id="text", label="Text", type=Text),
    FeatureType(id="notch", label="Finger notch", type=Notch, edge=Anchor.TOP),
    FeatureType(id="keyhole", label="Hanging hole", type=Keyhole),
    FeatureType(id="cable", label="Cable slot", type=CableSlot, edge=Anchor.BOTTOM),
    FeatureType(id="vents", label="Air slits", type=Vents),
    FeatureType(id="scale", label="Ruler", type=Scale, edge=Anchor.BOTTOM_LEFT),
    FeatureType(id="artwork", label="Drawing from a file", type=Artwork),
    FeatureType(id="picture", label="Photo or grey image", type=GreyImage),
    FeatureType(id="socket", label="Socket for a sheet", type=Socket),
    FeatureType(id="fold", label="Fold line", type=Fold),
)


def default_feature(kind: FeatureType) -> Feature:
    """Return a feature as it begins; its id and panel are for the caller to give."""
    return kind.type(id="new", panel="panel", anchor=kind.edge)

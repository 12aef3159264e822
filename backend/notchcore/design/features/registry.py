"""All features by name, as forms offer them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

from notchcore.design.features.values import (
    LAID,
    Anchor,
    Artwork,
    CableSlot,
    Fold,
    GreyImage,
    Hole,
    HoleCircle,
    Keyhole,
    Notch,
    OnSide,
    Recess,
    Scale,
    Socket,
    Text,
    Vents,
    Window,
)
from notchcore.words.language import Called

Feature = Hole | HoleCircle | Window | Notch | Keyhole | CableSlot | Vents | Text | Scale | Socket | Fold | Artwork | GreyImage | Recess


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
    FeatureType(id="recess", label="Recess, engraved to a depth", type=Recess),
    FeatureType(id="socket", label="Socket for a sheet", type=Socket),
    FeatureType(id="fold", label="Fold line", type=Fold),
)


def default_feature(kind: FeatureType) -> Feature:
    """Return a feature as it begins; its id and panel are for the caller to give."""
    return kind.type(id="new", panel="panel", anchor=kind.edge)


def mate_of(feature: Feature) -> str:
    """Return the panel that a feature is made for; "" for none."""
    return feature.mate if isinstance(feature, Socket | Recess) else ""


def is_behind(feature: Feature) -> bool:
    """Tell whether a feature is on the back of its panel."""
    return isinstance(feature, Text | Scale | Artwork | GreyImage | Recess) and feature.side is OnSide.BACK


def piece_stocks(feature: Feature, *, waiting: bool = False) -> dict[str, str]:
    """Return what the pieces of a feature are cut from, by layer; of a text there is one, without a name.

    Args:
        waiting: with what was chosen for layers that are no pieces now
    """
    if isinstance(feature, Text):
        return {"": feature.stock} if (waiting or feature.burned in LAID) and feature.stock else {}
    if isinstance(feature, Artwork):
        pieces = {layer for layer, how in feature.layers if how in LAID}
        return {s.layer: s.stock for s in feature.stocks if (waiting or s.layer in pieces) and s.stock}
    return {}


def restocked_pieces(feature: Feature, swap: Callable[[str], str]) -> Feature:
    """Return a feature whose pieces are cut from other stocks."""
    if isinstance(feature, Text):
        return replace(feature, stock=swap(feature.stock))
    if isinstance(feature, Artwork):
        return replace(feature, stocks=tuple(replace(s, stock=swap(s.stock)) for s in feature.stocks))
    return feature

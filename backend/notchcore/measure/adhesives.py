"""What holds sheets together beside their joints, and how long it takes. Defaults of the shop; the maker's word counts more."""

from __future__ import annotations

from dataclasses import dataclass

from notchcore.measure.materials import MATERIALS, Bond
from notchcore.words.language import Called


@dataclass(frozen=True, slots=True, kw_only=True)
class Adhesive(Called):
    """A glue, with the time until it may be let go and until it is as strong as it gets."""

    NAMED = ("name", "caution")

    name: str
    hold_min: float  #: minutes under clamps or tape
    cure_h: float  #: hours to full strength
    caution: str


WOOD = Adhesive(name="wood glue", hold_min=30, cure_h=24, caution="Wipe off what comes out before it dries.")
SOLVENT = Adhesive(name="solvent cement", hold_min=5, cure_h=24, caution="Away from the machine and from flames, windows open, gloves on.")
PASTE = Adhesive(name="paper glue", hold_min=10, cure_h=4, caution="Thinly: board drinks it and bends.")
CONTACT = Adhesive(name="contact glue", hold_min=15, cure_h=24, caution="Windows open, away from flames; keep to what its maker says of fumes.")
GLUES = {Bond.WOOD: WOOD, Bond.SOLVENT: SOLVENT, Bond.PASTE: PASTE}


def adhesive_for(one: str, other: str) -> Adhesive:
    """Return the glue for two materials of stock; unlike ones want contact glue."""
    a, b = MATERIALS[one].bonds, MATERIALS[other].bonds
    return next((GLUES[bond] for bond in a if bond in b), CONTACT)

"""Every tolerance of the core, with its reason."""

from __future__ import annotations

COINCIDENT = 1e-3  # [mm] faces nearer than this touch: below any sheet's own spread, above float noise
PARALLEL = 1e-6  # |n x n| below which two planes are parallel
OVER_RUN = 1e-7  # [mm] cutters reach this far past their cell, so that no film of material stays between two
SAME_POINT = 1e-6  # [mm] two vertices closer than this are one
SHORT_OF_MATE = 0.3  # [mm] an edge that stops this near to a face was meant to reach it
SHRINK = 0.01  # [mm] parts are shrunk by this before a collision test: touching is not colliding
LOOSE_PIECE = 0.01  # [mm2] crumbs below this are float noise, above it a finding
BAR_LEAST = 0.05  # [mm] meetings shorter than this are ignored
ARC_SAG = 0.004  # [mm] largest distance between a circle and the chords that stand for it
VOLUME_NOISE = 1e-3  # [mm3] mesh booleans of exact contacts leave this much
EXPORT_GRID = 1e-4  # [mm] vertices of solids in files lie on this grid
FILE_DIGITS = 4  # decimals in written files: a tenth of a micrometre
FILM = 1e-4  # [mm] a tongue or a crack narrower than this is a rounding error

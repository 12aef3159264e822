"""The second workshop: it makes things from nothing but what leaves the house, and says where they are not what was designed.

read       burned lines from SVG, DXF, PDF and G-code, each with a reader of its own
bench      a sheet cut by a round beam, the pieces that come free, and what was burned on which face of them
laws       what must hold between the pieces and the design
projects   random whole projects: every family, edit and feature, drawn from a seed

It knows nothing of `plan`, `nest` and `check` but the values that they hand out: files, and how a sheet is said to lie.
"""

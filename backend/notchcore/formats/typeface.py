"""The pages of the PDFs that people read, and their typeface: with letters of many languages, embedded, so that names print as they were typed."""

from __future__ import annotations

from functools import cache
from typing import Any, BinaryIO

#: what the pages call its three styles
TEXT, BOLD, SLANTED = "Board", "Board-Bold", "Board-Slanted"


@cache
def _registered() -> None:
    from font_roboto import Roboto, RobotoBold, RobotoItalic
    from reportlab.pdfbase.pdfmetrics import registerFont
    from reportlab.pdfbase.ttfonts import TTFont

    for name, path in ((TEXT, Roboto), (BOLD, RobotoBold), (SLANTED, RobotoItalic)):
        registerFont(TTFont(name, path))


def a4_pages(out: BinaryIO) -> Any:
    """Return a canvas of A4 pages on which the three styles can be set."""
    from reportlab.lib.pagesizes import A4
    from reportlab.pdfgen.canvas import Canvas

    _registered()
    return Canvas(out, pagesize=A4, invariant=1, pageCompression=1)

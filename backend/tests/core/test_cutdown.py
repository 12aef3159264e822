"""Boards cut down by saw: every blank lies on the bed, cuts go from edge to edge, and nothing but the kerf is lost."""

from __future__ import annotations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import Polygon, box
from shapely.ops import unary_union

from notchcore.errors import NestError, NotchCoreError
from notchcore.nest.cutdown import LEAST, CutDown, cut_down

BED = (600.0, 400.0)


def pieces_after(plan: CutDown) -> list[Polygon]:
    """Cut the board as the plan says, in its order: each cut must go right through one piece, from edge to edge."""
    pieces = [box(0, 0, plan.width, plan.height)]
    for c in plan.cuts:
        kerf = box(c.x0 - plan.saw / 2, c.y0, c.x0 + plan.saw / 2, c.y1) if c.x0 == c.x1 else box(c.x0, c.y0 - plan.saw / 2, c.x1, c.y0 + plan.saw / 2)
        hit = [p for p in pieces if p.buffer(-1e-6).intersects(kerf) or (plan.saw == 0 and p.buffer(-1e-6).intersects(kerf.buffer(1e-6)))]
        assert len(hit) == 1
        rest = hit[0].difference(kerf.buffer(1e-7, join_style="mitre"))
        fallen = list(getattr(rest, "geoms", [rest]))  # in two, or with its end trimmed off by less than the kerf
        assert len(fallen) == 2 or (len(fallen) == 1 and hit[0].area - rest.area < plan.saw * max(plan.width, plan.height))
        pieces.remove(hit[0])
        pieces += fallen
    return pieces


@settings(max_examples=120, deadline=None)
@given(st.floats(100, 3000), st.floats(100, 2000), st.floats(0.5, 5.0), st.sampled_from([BED, (300.0, 300.0), (900.0, 610.0)]))
def test_a_board_falls_into_blanks_that_the_bed_takes_by_cuts_from_edge_to_edge(width: float, height: float, saw: float, bed: tuple[float, float]) -> None:
    try:
        plan = cut_down(width, height, bed=bed, saw=saw)
    except NestError:
        assert max(width, height) <= max(bed) + 0.1
        assert min(width, height) <= min(bed) + 0.1
        return
    after = pieces_after(plan)
    for b in plan.blanks:
        w, h = (b.height, b.width) if b.turned else (b.width, b.height)
        assert w <= bed[0] + 0.1
        assert h <= bed[1] + 0.1
        shape = box(b.x, b.y, b.x + b.width, b.y + b.height)
        assert min(shape.symmetric_difference(p).area for p in after) < 1e-2 * max(width, height)
    kept = unary_union([box(b.x, b.y, b.x + b.width, b.y + b.height) for b in plan.blanks]).area
    assert kept == pytest.approx(sum(b.width * b.height for b in plan.blanks))  # none lies on another
    assert plan.waste == pytest.approx(1 - kept / (width * height), abs=1e-9)
    kerfs = saw * sum(abs(c.x1 - c.x0) + abs(c.y1 - c.y0) for c in plan.cuts)
    narrow = sum(p.area for p in after if min(p.bounds[2] - p.bounds[0], p.bounds[3] - p.bounds[1]) < LEAST + 1e-3)
    assert kept + narrow <= width * height <= kept + narrow + kerfs + 1e-3 * width * height


def test_a_board_worked_by_hand() -> None:
    """1203 x 803 less one kerf of 3 each way is twice 600 and twice 400: four whole beds by three cuts."""
    plan = cut_down(1203.0, 803.0, bed=BED, saw=3.0)
    assert [(b.width, b.height, b.turned) for b in plan.blanks] == [(600.0, 400.0, False)] * 4
    assert [(c.x0, c.y0, c.x1, c.y1) for c in plan.cuts][:1] in ([(601.5, 0.0, 601.5, 803.0)], [(0.0, 401.5, 1203.0, 401.5)])
    assert len(plan.cuts) == 3
    assert [c.stop for c in plan.cuts] in ([600.0, 400.0, 400.0], [400.0, 600.0, 600.0])


@pytest.mark.parametrize(("size", "saw"), [((600.0, 400.0), 3.0), ((400.0, 600.0), 3.0), ((0.0, 600.0), 3.0), ((1200.0, 800.0), 50.0)])
def test_what_needs_no_cutting_or_makes_no_sense_is_said(size: tuple[float, float], saw: float) -> None:
    with pytest.raises(NotchCoreError):
        cut_down(size[0], size[1], bed=BED, saw=saw)

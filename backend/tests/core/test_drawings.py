"""Drawings in: what a file shows arrives true to size, what is left out is told, and no file does harm."""

from __future__ import annotations

import io
import math
from itertools import pairwise

import ezdxf
import numpy as np
import pytest
from ezdxf.math import bulge_center, bulge_radius
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import LineString, Point, Polygon
from svgelements import Path as OtherPath

from notchcore.design.arrangement import Arrangement
from notchcore.design.carrying import carried
from notchcore.design.features.drawing import DrawnLine, closed_within, silhouette_of, tidied
from notchcore.design.features.values import Artwork, Burned
from notchcore.design.panel import Panel
from notchcore.formats.dxfin import read_dxf
from notchcore.formats.svgin import read_svg
from notchcore.formats.svgpath import path_lines
from notchcore.geom.areas import whole_areas
from notchcore.geom.profile import polygon_of, rectangle
from notchcore.geom.slab import Pose
from notchcore.geom.thinning import smoothed, thinned
from notchcore.geom.vectors import X, Y
from notchcore.measure.machine import Operation
from tests.strategies import make_stock

DOUBLING = "<defs>" + "".join(f'<g id="g{i}"><use xlink:href="#g{i + 1}"/><use xlink:href="#g{i + 1}"/></g>' for i in range(40))
DOUBLING += '<path id="g40" d="M0 0H9"/></defs><use xlink:href="#g0"/>'
ENTITIES = "".join(f'<!ENTITY a{i} "{f"&a{i - 1};" * 10}">' for i in range(1, 10))
LAUGHS = f'<?xml version="1.0"?><!DOCTYPE svg [<!ENTITY a0 "aaaaaaaaaa">{ENTITIES}]><svg>&a9;</svg>'.encode()
HEAD = '<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"'


def svg(body: str, attributes: str = 'width="100mm" height="60mm" viewBox="0 0 200 120"') -> bytes:
    return f"{HEAD} {attributes}>{body}</svg>".encode()


def codes(drawing) -> list[str]:
    return [n.code for n in drawing.notes]


class TestSvg:
    def test_sizes_come_from_the_view_box_and_the_units(self) -> None:
        d = read_svg(svg('<rect x="20" y="10" width="80" height="40" stroke="red"/>'))
        assert d.size == (80.0, 40.0)
        assert d.mm_per_unit == pytest.approx(0.5)
        assert d.layers() == ("red",)

    @pytest.mark.parametrize(
        ("attributes", "mm"),
        [
            ('viewBox="0 0 10 10"', None),
            ('width="4in"', 25.4 / 96),
            ('width="20cm" viewBox="0 0 100 100"', 2.0),
            ('width="100"', None),
            ('width="100mm" height="50mm" viewBox="0 0 100 100"', 0.5),
            ('width="100%" height="50mm" viewBox="0 0 100 100"', 0.5),
        ],
    )
    def test_a_size_that_the_file_does_not_say_is_not_guessed(self, attributes: str, mm: float | None) -> None:
        found = read_svg(svg('<path d="M0 0H9V9Z"/>', attributes)).mm_per_unit
        assert found == (None if mm is None else pytest.approx(mm))

    def test_circles_stay_circles_through_turns_and_even_scales(self) -> None:
        d = read_svg(svg('<g transform="translate(10 5) rotate(30) scale(2)"><circle cx="10" cy="10" r="5"/></g>'))
        assert d.lines[0].circle is not None
        assert d.lines[0].circle.radius == pytest.approx(10.0)
        assert read_svg(svg('<g transform="scale(2 1)"><circle cx="10" cy="10" r="5"/></g>')).lines[0].circle is None

    def test_layers_are_colours_or_named_groups_and_styles_count(self) -> None:
        body = (
            '<style>.cut{stroke:#f00}</style><path class="cut" d="M0 0H5V5Z"/><path style="stroke:blue" d="M9 0H5V5Z"/>'
            '<g xmlns:i="x" i:label="Engraving"><path d="M0 9H5V15Z"/></g><g display="none"><path d="M50 50h9v9z"/></g>'
        )
        assert read_svg(svg(body)).layers() == ("#f00", "blue", "Engraving")

    def test_one_colour_said_in_two_ways_is_one_and_a_layer_of_several_colours_is_told_apart(self) -> None:
        body = (
            "<style>/* x */ path.a, #b{stroke:#FF0000 !important} svg > line{stroke:navy} @media print{path{stroke:lime}} nonsense]{x:y}"
            "g:not(#sign) path{stroke:green} g[id=deep] > path:first-child{stroke:teal !important} p::before{stroke:lime}</style>"
            '<path class="a" d="M0 0h5v5z"/><rect id="b" width="9" height="9"/><path fill="red" d="M20 0h5v5z"/><line x2="30"/>'
            '<g><path stroke="blue" d="M30 0h5v5z"/></g><g id="deep"><path style="stroke:blue" d="M40 0h5v5z"/></g>'
            '<g id="sign" xmlns:i="x" i:label="Sign" color="#0f0"><path fill="currentColor" d="M0 9H5V15Z"/><path stroke="blue" d="M9 9H5V15Z"/></g>'
        )
        assert set(read_svg(svg(body)).layers()) == {"#FF0000", "navy", "green", "teal", "Sign, #0f0", "Sign, blue"}

    def test_a_style_sheet_that_would_take_minutes_is_given_up_and_told(self) -> None:
        rules = "".join(f"* > * path:nth-child({i}){{stroke:red}}" for i in range(4000))
        d = read_svg(svg(f"<style>{rules}</style>" + '<path d="M0 0h5v5z"/>' * 2000))
        assert "style_too_large" in {n.code for n in d.notes}

    def test_what_nobody_sees_is_left_out_and_told_unless_there_is_nothing_else(self) -> None:
        frame = '<path fill="none" d="M0 0h90v90h-90z"/>'
        d = read_svg(svg(frame + '<g fill="none"><path stroke="red" d="M0 0h9v9z"/></g><g opacity="0"><circle r="5"/></g>'))
        assert d.size == (9.0, 9.0)
        assert " ".join(n.says.text for n in d.notes) == "1 × element that is hidden left out. 1 × line that has no colour and is not seen left out."
        assert read_svg(svg(frame)).size == (90.0, 90.0)

    @pytest.mark.parametrize(
        ("body", "size"),
        [
            ('<rect width="50%" height="100%"/>', (100.0, 50.0)),
            ('<svg x="10%" width="100" height="50" viewBox="0 0 10 10"><rect width="10" height="5"/></svg>', (50.0, 25.0)),
            ('<svg width="100" height="50" viewBox="0 0 10 10" preserveAspectRatio="none"><rect width="10" height="50%"/></svg>', (100.0, 25.0)),
            ('<symbol id="s" viewBox="0 0 4 4"><rect width="2" height="4"/></symbol><use xlink:href="#s" width="40" height="20"/>', (10.0, 20.0)),
            ('<switch><foreignObject/><g><rect width="7" height="8"/></g><rect width="90" height="9"/></switch>', (7.0, 8.0)),
            ('<g transform="scale(2)"><use xlink:href="#r" y="9"/></g><defs><rect id="r" width="3" height="4"/></defs>', (6.0, 8.0)),
        ],
    )
    def test_frames_in_frames_and_shares_of_them_have_their_size(self, body: str, size: tuple) -> None:
        assert read_svg(svg(body, 'viewBox="0 0 200 50"')).size == pytest.approx(size)

    def test_of_very_many_curves_none_is_lost_but_they_are_coarser_and_that_is_told(self) -> None:
        d = read_svg(svg("".join(f'<path d="M0 {i}C9 9 9 9 5 {i}Z"/>' for i in range(12_000))))
        assert len(d.lines) == 12_000
        assert codes(d)[0] == "coarse"

    def test_rows_of_a_text_stand_where_each_says_and_are_set_about_their_anchor(self) -> None:
        rows = '<tspan x="50" y="20">HH</tspan><tspan x="50" dy="2em">H</tspan>'
        d = read_svg(svg(f'<rect width="100" height="100"/><text font-size="10" text-anchor="middle">{rows}</text>'))
        boxes = [Polygon(line.points).bounds for line in d.lines[1:]]
        assert len(boxes) == 3
        assert (boxes[0][0] + boxes[1][2]) / 2 == pytest.approx(50.0, abs=0.01)
        assert (boxes[2][0] + boxes[2][2]) / 2 == pytest.approx(50.0, abs=0.01)
        assert [b[1] for b in boxes] == pytest.approx([80.0, 80.0, 60.0], abs=0.01)

    @pytest.mark.parametrize("k", [0.004, 1.0, 300.0])
    def test_curves_are_as_near_as_a_hundredth_of_a_millimetre_asks_at_any_scale_of_the_file(self, k: float) -> None:
        """A round of four curves, one of two arcs and a rounded frame, 400 mm wide once they are placed."""
        c = 0.5522847498
        round_ = f"M1 0C1 {c} {c} 1 0 1C-{c} 1 -1 {c} -1 0C-1 -{c} -{c} -1 0 -1C{c} -1 1 -{c} 1 0Z"
        body = f'<g transform="scale({k})"><path d="{round_}"/><path d="M-.5 0A.5 .5 0 0 1 .5 0A.5 .5 0 0 1 -.5 0Z"/><rect rx=".2" width=".9" height=".9"/></g>'
        d = read_svg(svg(body))
        curves, arcs, frame = d.lines
        mm = 400 / d.size[0]
        ideal = OtherPath(round_)
        for p in (ideal.point(t) for t in np.linspace(0, 1, 200)):
            assert Polygon(curves.points).exterior.distance(Point(k * (p.x + 1), k * (p.y + 1))) * mm < 0.005
        assert arcs.circle is not None
        assert arcs.circle.radius * mm == pytest.approx(100.0, abs=0.001)
        assert curves.circle is None
        assert Polygon(frame.points).area / k**2 == pytest.approx(0.81 - (4 - math.pi) * 0.04, rel=5e-5)

    @settings(max_examples=60, deadline=None)
    @given(
        st.lists(
            st.tuples(st.sampled_from("MLHVCSQTAZmlhvcsqtaz"), st.lists(st.floats(-50, 50).map(lambda v: round(v, 2)), min_size=7, max_size=7)),
            min_size=2,
            max_size=8,
        )
    )
    def test_any_path_reaches_as_far_as_another_library_says(self, commands: list) -> None:
        takes = {"M": 2, "L": 2, "H": 1, "V": 1, "C": 6, "S": 4, "Q": 4, "T": 2, "Z": 0}
        d = "M0 0"
        for letter, v in commands:
            if letter in "Aa":
                d += f"{letter}{abs(v[0]) + 1} {abs(v[1]) + 1} {v[2]} {int(v[3] > 0)}{int(v[4] > 0)} {v[5]} {v[6]}"
            else:
                d += letter + " ".join(str(x) for x in v[: takes[letter.upper()]])
        box = OtherPath(d).bbox()
        points = [p for line, _ in path_lines(d, most=100_000, sag=0.01) for p in line]
        if not points or box is None:
            return
        mine = (min(p[0] for p in points), min(p[1] for p in points), max(p[0] for p in points), max(p[1] for p in points))
        reach = max(box[2] - box[0], box[3] - box[1], 1.0)
        # bare moves count for some readers and not for others: what I draw must lie within what they see, up to chords
        assert mine[0] >= box[0] - 0.01 * reach
        assert mine[3] <= box[3] + 0.01 * reach

    def test_text_becomes_outlines_of_its_height_and_says_that_the_face_is_another(self) -> None:
        d = read_svg(svg('<text x="10" y="50" font-size="20">H</text>'))
        assert d.size[1] == pytest.approx(14.0, abs=0.1)
        assert codes(d) == ["left_out"]

    @pytest.mark.parametrize(
        "body",
        [
            b"",
            b"\x00\xff\xfe not a file",
            b"<html><body>no</body></html>",
            b"<svg",
            svg('<path d="M0 0 L nan inf"/><rect width="1e999" height="5"/><circle r="NaN"/>'),
            svg("<g>" * 500 + '<path d="M0 0H9"/>' + "</g>" * 500),
            svg('<use xlink:href="#a"/><g id="a"><use xlink:href="#a"/></g>'),
            svg(DOUBLING),
            LAUGHS,
            b'<?xml version="1.0"?><!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/hostname">]><svg xmlns="http://www.w3.org/2000/svg"><text>&x;</text></svg>',
            svg("".join(f'<path d="M{i} 0h1v1z"/>' for i in range(70_000))),
            svg('<path d="M0 0' + "l1 1" * 200_000 + '"/>'),
            svg('<path d="M0 0 A 1 1 0 7 9 5 5"/>'),
        ],
    )
    def test_a_hostile_file_ends_in_notes(self, body: bytes) -> None:
        d = read_svg(body)
        assert d.notes or d.lines == ()
        assert sum(len(line.points) for line in d.lines) <= 200_000
        assert "hostname" not in str(d.notes)


class TestDxf:
    def file(self, units: int = 4) -> tuple:
        doc = ezdxf.new()
        doc.header["$INSUNITS"] = units
        return doc, doc.modelspace()

    def written(self, doc) -> bytes:
        out = io.StringIO()
        doc.write(out)
        return out.getvalue().encode()

    def test_single_lines_and_arcs_become_one_closed_line(self) -> None:
        doc, space = self.file()
        for a, b in (((0, 0), (40, 0)), ((40, 20), (0, 20)), ((0, 20), (0, 0))):
            space.add_line(a, b, dxfattribs={"layer": "CUT"})
        space.add_arc((40, 10), 10, -90, 90, dxfattribs={"layer": "CUT"})
        d = read_dxf(self.written(doc))
        (line,) = d.lines
        assert line.closed
        assert line.layer == "CUT"
        assert d.mm_per_unit == 1.0
        assert Polygon(line.points).area == pytest.approx(800 + math.pi * 50, rel=1e-3)

    @pytest.mark.parametrize(("units", "mm"), [(0, None), (1, 25.4), (5, 10.0)])
    def test_the_unit_is_that_of_the_header_or_unknown(self, units: int, mm: float | None) -> None:
        doc, space = self.file(units)
        space.add_circle((0, 0), 5)
        d = read_dxf(self.written(doc))
        assert d.mm_per_unit == mm
        assert d.lines[0].circle is not None

    def test_blocks_curves_and_text_come_in_and_the_rest_is_listed(self) -> None:
        doc, space = self.file()
        block = doc.blocks.new("leaf")
        block.add_lwpolyline([(0, 0), (10, 0), (10, 5)], close=True)
        space.add_blockref("leaf", (20, 0), dxfattribs={"xscale": 2, "yscale": 2})
        space.add_spline([(0, 0), (5, 9), (12, 3)])
        space.add_ellipse((0, 0), (8, 0), 0.5)
        space.add_text("H", height=5)
        space.add_point((0, 0))
        d = read_dxf(self.written(doc))
        assert len(d.lines) == 4
        assert any("POINT" in n.says.text for n in d.notes)

    def test_layers_that_are_off_and_colours_count_and_blocks_give_theirs(self) -> None:
        doc, space = self.file()
        doc.layers.add("plan").off()
        doc.layers.add("walls", color=5)
        leaf = doc.blocks.new("leaf")
        leaf.add_circle((0, 0), 1, dxfattribs={"layer": "0", "color": 0})
        space.add_blockref("leaf", (5, 5), dxfattribs={"layer": "walls", "color": 3})
        for i, more in enumerate(({"layer": "plan"}, {"layer": "walls"}, {"color": 1}, {"true_color": 0x804020}, {"invisible": 1})):
            space.add_circle((10 * i, 30), 4, dxfattribs=more)
        d = read_dxf(self.written(doc))
        assert d.layers() == ("walls, green", "walls, blue", "red", "#804020")
        assert any(n.says.text.startswith("2 × entity that is hidden") for n in d.notes)

    def test_an_arc_in_inches_is_as_true_as_one_in_millimetres(self) -> None:
        doc, space = self.file(1)
        space.add_lwpolyline([(0, 0, 1), (8, 0, 1)], format="xyb", close=True)
        space.add_arc((4, 0), 2, 0, 180)
        whole, half = read_dxf(self.written(doc)).lines
        assert whole.circle is not None
        assert whole.circle.radius == pytest.approx(4.0, abs=1e-5)
        middle = (4.0, 4.0)
        off = [2.0 - Point(middle).distance(LineString(pair)) for pair in pairwise(half.points)]
        assert max(off) * 25.4 < 0.004

    @pytest.mark.parametrize("bulge", [1.0, -0.4, 2.5, -0.01])
    def test_a_bulge_is_an_arc_on_its_side(self, bulge: float) -> None:
        doc, space = self.file()
        space.add_lwpolyline([(0, 0, bulge), (8, 6, 0)], format="xyb", close=True)
        space.add_lwpolyline([(-50, -50), (50, -50), (50, 50), (-50, 50)], close=True)
        line = next(line for line in read_dxf(self.written(doc)).lines if len(line.points) > 4)
        centre, radius = bulge_center((0, 0), (8, 6), bulge), bulge_radius((0, 0), (8, 6), bulge)
        assert all(math.dist(p, (centre.x + 50, centre.y + 50)) == pytest.approx(radius, abs=1e-4) for p in line.points)
        turn = 4 * math.atan(abs(bulge))
        assert Polygon(line.points).area == pytest.approx(radius**2 / 2 * (turn - math.sin(turn)), rel=1e-3, abs=0.02)

    @pytest.mark.parametrize("data", [b"", b"0\nSECTION\n2\nENTITIES\n0\nLINE\n10\nnan\n", b"999\nhello\n", b"0\nEOF\n", b"\x00" * 400])
    def test_a_hostile_file_ends_in_notes(self, data: bytes) -> None:
        d = read_dxf(data)
        assert d.lines == ()

    def test_a_block_that_holds_itself_ends(self) -> None:
        doc, space = self.file()
        block = doc.blocks.new("loop")
        block.add_blockref("loop", (1, 0))
        block.add_line((0, 0), (1, 1))
        space.add_blockref("loop", (0, 0))
        assert read_dxf(self.written(doc)).lines


class TestLines:
    @settings(max_examples=40, deadline=None)
    @given(st.integers(3, 30), st.randoms(use_true_random=False), st.floats(0.001, 0.09))
    def test_pieces_of_a_ring_in_any_order_and_direction_are_closed_within_their_gap(self, corners: int, random, gap: float) -> None:
        ring = [(20 * math.cos(2 * math.pi * i / corners), 20 * math.sin(2 * math.pi * i / corners)) for i in range(corners)]
        pieces = []
        for a, b in zip(ring, ring[1:] + ring[:1], strict=True):
            short = gap / 2 / math.dist(a, b)
            ends = [(a[0] + (b[0] - a[0]) * k, a[1] + (b[1] - a[1]) * k) for k in (short, 1 - short)]
            pieces.append(DrawnLine(layer="x", points=tuple(ends if random.random() < 0.5 else ends[::-1])))
        random.shuffle(pieces)
        loose = tidied(pieces, None)
        whole = closed_within(loose, 0.1)
        assert [line.closed for line in whole.lines] == [True]
        assert Polygon(silhouette_of(whole)).area == pytest.approx(Polygon(ring).area, rel=0.05)

    def test_a_ring_is_thinned_without_leaving_its_place(self) -> None:
        ring = tuple((100 * math.cos(t), 60 * math.sin(3 * t)) for t in np.linspace(0, 2 * math.pi, 9000, endpoint=False))
        ring = tuple(Polygon(ring).buffer(0.5).exterior.coords[:-1])
        some = thinned(ring, 400)
        assert len(some) <= 400
        assert Polygon(some).exterior.hausdorff_distance(Polygon(ring).exterior) < 0.6
        near = smoothed(ring, closed=True)
        assert len(near) < len(ring)
        assert Polygon(near).exterior.hausdorff_distance(Polygon(ring).exterior) < 0.0021

    def test_of_a_drawing_in_metres_small_things_stay_apart(self) -> None:
        circles = [DrawnLine(layer="x", points=tuple((x + 1e-4 * math.cos(a), 1e-4 * math.sin(a)) for a in range(6)), closed=True) for x in (0.0, 4e-4, 0.3)]
        d = tidied(circles, 1000.0)
        assert len(d.lines) == 3
        assert d.lines[1].points[0][0] - d.lines[0].points[0][0] == pytest.approx(4e-4, abs=1e-7)

    def test_doubles_and_crossings_are_told_with_a_place(self) -> None:
        eight = DrawnLine(layer="x", points=((0, 0), (10, 10), (10, 0), (0, 10)), closed=True)
        d = tidied([eight, eight], 1.0)
        assert codes(d) == ["drawn_twice", "crosses_itself"]
        assert d.notes[1].place == pytest.approx((5, 5))

    @settings(max_examples=30, deadline=None)
    @given(st.integers(1, 6))
    def test_a_ring_in_a_ring_is_its_hole_and_so_on_inwards(self, depth: int) -> None:
        rings = [[(-r, -r), (r, -r), (r, r), (-r, r)] for r in range(1, depth + 1)]
        area = sum((-1) ** (depth - r) * 4 * r * r for r in range(1, depth + 1))
        assert sum(p.area for p in whole_areas(rings)) == pytest.approx(area)


class TestArtwork:
    def panel(self, layers: tuple, **more: object):
        drawing = read_svg(svg('<path stroke="red" d="M0 0H40V20H0Z"/><circle stroke="blue" cx="20" cy="10" r="5"/><path stroke="green" d="M2 2L8 8"/>'))
        stock = make_stock("ply", 3.0)
        panel = Panel(id="p", label="p", stock="ply", envelope=rectangle(0, 0, x1=200, y1=100), pose=Pose(origin=(0, 0, 0), x=X, y=Y), t=3.0, layout_t=3.0)
        art = Artwork(id="a", panel="p", drawing="1", width=80.0, layers=layers, **more)  # type: ignore[arg-type]
        return carried(Arrangement(panels=(panel,)), (art,), added=(), edits={}, stocks={"ply": stock}, drawings={"1": drawing})

    def test_each_layer_is_burned_as_it_is_said_at_the_width_that_is_asked(self) -> None:
        (p,) = self.panel((("red", Burned.SCORE), ("blue", Burned.CUT), ("green", Burned.SCORE))).panels
        assert 20000 - polygon_of(p.envelope).area == pytest.approx(math.pi * 100, rel=2e-3)
        (outline, vein) = p.marks
        xs = [x for x, _ in outline.line]
        assert max(xs) - min(xs) == pytest.approx(80.0)
        assert (outline.operation, vein.closed) == (Operation.SCORE, False)
        assert len(p.envelope.circles) == 1

    def test_an_engraved_area_keeps_its_hole_and_a_layer_can_be_left_out(self) -> None:
        (p,) = self.panel((("red", Burned.ENGRAVE), ("blue", Burned.ENGRAVE), ("green", None)), turn=90.0).panels
        (area,) = p.marks
        assert abs(Polygon(area.line).buffer(0).area) == pytest.approx(80 * 40 - math.pi * 100, rel=2e-3)

    def test_a_drawing_that_is_not_there_is_a_finding(self) -> None:
        plan = self.panel(())
        assert [f.code for f in plan.findings] == []
        art = Artwork(id="a", panel="p", drawing="9")
        lost = carried(replace_drawing(plan), (art,), added=(), edits={}, stocks={"ply": make_stock("ply", 3.0)}, drawings={})
        assert [f.code for f in lost.findings] == ["drawing_lost"]


def replace_drawing(plan: Arrangement) -> Arrangement:
    return Arrangement(panels=plan.panels)

"""The rarer joints, each by what must hold of it: splice, inset, stack with dowels, blind and proud tees, shares, reliefs."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from shapely.geometry import LineString, Point, Polygon

from notchcore.check.choices import mended
from notchcore.check.dry_fit import as_cut, collisions
from notchcore.check.order import assembly_order
from notchcore.design.assembly import Assembly, FeatureKind, JointFeature, Part
from notchcore.design.design import Design
from notchcore.design.families.plate import PlateNumbers
from notchcore.design.joints.choice import MeetingChoice
from notchcore.design.joints.solve import solve
from notchcore.design.panel import Bound, MeetingRule, Panel
from notchcore.design.splits import split
from notchcore.design.styles import Style
from notchcore.errors import ValueOutside
from notchcore.geom.profile import Circle, Profile, bounds_of, circle_ring, polygon_of, rectangle
from notchcore.geom.slab import Pose, mesh_of
from notchcore.geom.vectors import X, Y, Z
from notchcore.measure.fit import Feel, Fits
from notchcore.measure.machine import Operation
from tests.solids import union_volume
from tests.strategies import make_stock

PLY, ACRYLIC = make_stock("ply", 3.0), make_stock("clear", 3.0, material="cast_acrylic")
STOCKS = {"ply": PLY, "clear": ACRYLIC}
FLOOR = Pose(origin=(0, 0, 0), x=X, y=Y)


def plate(pid: str, profile: Profile, pose: Pose = FLOOR, *, stock: str = "ply", t: float = 3.0, datum: float = 0.0, **more: object) -> Panel:
    return Panel(id=pid, label=pid, stock=stock, envelope=profile, pose=pose, t=t, layout_t=t, datum=datum, **more)  # type: ignore[arg-type]


def solved(*panels: Panel, rules: tuple[MeetingRule, ...] = (), **more: object) -> Assembly:
    return solve(list(panels), rules=rules, stocks=STOCKS, **more)  # type: ignore[arg-type]


def width_at(part: Part, feature: JointFeature) -> float:
    """Measure a gap or tongue on the part, along its axis through its middle."""
    mx, my = (sum(c[k] for c in feature.corners) / 4 for k in (0, 1))
    ax, ay = feature.axis
    line = LineString([(mx - 500 * ax, my - 500 * ay), (mx + 500 * ax, my + 500 * ay)])
    shape = polygon_of(part.profile)
    crossed = line.difference(shape) if feature.kind.is_gap else line.intersection(shape)
    return float(next(p.length for p in getattr(crossed, "geoms", [crossed]) if p.distance(Point(mx, my)) < 1e-6))


def seen(part: Part) -> Polygon:
    """Return a lying part in the world's plane."""
    shape = polygon_of(part.profile)
    corners = [part.pose.to_world((x, y))[:2] for x, y in shape.exterior.coords]
    return Polygon(corners, [[part.pose.to_world((x, y))[:2] for x, y in h.coords] for h in shape.interiors])


class TestSplices:
    def halves(self, height: float, at: float, *, scarf: bool = False, feel: Feel = Feel.SNUG) -> Assembly:
        whole = plate("wall", rectangle(0, 0, x1=300, y1=height))
        a, b = split(whole, at=at, lap=9.0)
        style = Style.SCARF if scarf else Style.PUZZLE
        return solved(a, b, rules=(MeetingRule(a=a.id, b=b.id, style=style),), feel=feel)

    @settings(max_examples=30, deadline=None)
    @given(st.floats(30, 250), st.floats(40, 260), st.booleans())
    def test_both_sides_together_are_the_sheet_that_was_divided(self, height: float, at: float, scarf: bool) -> None:
        assembly = self.halves(height, at, scarf=scarf)
        a, b = assembly.parts
        assert collisions(assembly.parts) == ()
        assert union_volume([a.slab(nominal=True), b.slab(nominal=True)]) == pytest.approx(300 * height * 3, abs=0.1)
        assert sum(mesh_of(p.slab(nominal=True)).volume() for p in (a, b)) == pytest.approx(300 * height * 3, abs=0.1)

    @settings(max_examples=20, deadline=None)
    @given(st.floats(60, 250), st.sampled_from([Feel.SLIDES, Feel.SNUG, Feel.MALLET]))
    def test_socket_less_head_is_the_clearance_and_both_are_as_their_ledgers_say(self, height: float, feel: Feel) -> None:
        assembly = self.halves(height, 150, feel=feel)
        (meeting,) = assembly.meetings
        a, b = assembly.parts
        heads = [f for f in a.features if f.kind is FeatureKind.FINGER]
        sockets = [f for f in b.features if f.kind is FeatureKind.NOTCH]
        assert len(heads) == len(sockets) == meeting.count >= 1
        for head, socket in zip(heads, sockets, strict=True):
            assert width_at(a, head) == pytest.approx(head.width.value, abs=1e-4)
            assert width_at(b, socket) == pytest.approx(socket.width.value, abs=1e-4)
            assert socket.width.value - head.width.value == pytest.approx(meeting.clearance.value, abs=1e-9)  # type: ignore[union-attr]

    def test_a_puzzle_holds_in_its_plane_and_goes_together_from_above(self) -> None:
        order = assembly_order(self.halves(80, 150).parts)
        assert order.locked == ()
        assert abs(order.steps[-1].direction[2]) == 1.0

    def test_edges_that_only_touch_and_slants_are_told(self) -> None:
        side_by_side = solved(plate("a", rectangle(0, 0, x1=50, y1=50)), plate("b", rectangle(50, 0, x1=100, y1=50)))
        assert [f.code for f in side_by_side.findings] == ["edges_side_by_side"]
        assert [f.code for f in self.halves(80, 150, scarf=True).findings] == ["scarf_needs_a_plate"]


class TestInsets:
    @settings(max_examples=20, deadline=None)
    @given(st.floats(8, 40), st.sampled_from([Feel.SLIDES, Feel.SNUG, Feel.MALLET]))
    def test_a_round_piece_is_smaller_than_its_opening_by_the_clearance(self, radius: float, feel: Feel) -> None:
        circle = Circle(x=60, y=60, radius=radius)
        ring = circle_ring(circle)
        host = plate("host", Profile(outer=rectangle(0, 0, x1=120, y1=120).outer, holes=(tuple(reversed(ring)),), circles=(circle,)))
        assembly = solved(host, plate("piece", Profile(outer=ring, circles=(circle,))), feel=feel)
        (meeting,) = assembly.meetings
        assert (meeting.kind, meeting.style) == ("inset", "drop-in")
        (feature,) = assembly.part("piece").features
        x0, _, x1, _ = bounds_of(assembly.part("piece").profile.outer)
        assert x1 - x0 == pytest.approx(2 * radius - meeting.clearance.value, abs=1e-3)  # type: ignore[union-attr]
        assert feature.width.value == pytest.approx(2 * radius - meeting.clearance.value, abs=1e-9)  # type: ignore[union-attr]
        assert collisions(assembly.parts) == ()

    @settings(max_examples=20, deadline=None)
    @given(st.floats(8, 40), st.floats(0.1, 2.9), st.floats(-0.4, 0.4))
    def test_a_disc_in_a_round_hole_tells_its_play_wherever_it_lies_in_it(self, radius: float, play: float, aside: float) -> None:
        hole, disc = Circle(x=60, y=60, radius=radius), Circle(x=60 + aside * play, y=60, radius=radius - play / 2)
        host = plate("host", Profile(outer=rectangle(0, 0, x1=120, y1=120).outer, holes=(tuple(reversed(circle_ring(hole))),), circles=(hole,)))
        assembly = solved(host, plate("piece", Profile(outer=circle_ring(disc), circles=(disc,))))
        (meeting,) = assembly.meetings
        assert (meeting.kind, meeting.style, meeting.feel) == ("inset", "drop-in", None)
        assert meeting.clearance is not None
        assert meeting.clearance.value == pytest.approx(play, abs=2e-3)
        x0, _, x1, _ = bounds_of(assembly.part("piece").profile.outer)
        assert x1 - x0 == pytest.approx(2 * disc.radius, abs=1e-3)
        assert assembly.findings == ()
        looser = as_cut(meeting, {"ply": make_stock("ply", 3.0, kerf=0.2)}, fits=Fits(kerf_left=True))
        assert looser == pytest.approx(play + 0.4, abs=2e-3)

    def test_a_piece_that_touches_a_far_larger_opening_on_one_side_is_not_held_by_it(self) -> None:
        hole = tuple(reversed(rectangle(20, 20, x1=100, y1=100).outer))
        host = plate("host", Profile(outer=rectangle(0, 0, x1=120, y1=120).outer, holes=(hole,)))
        assembly = solved(host, plate("piece", rectangle(20, 40, x1=50, y1=70)))
        assert [(m.kind, m.style, m.clearance) for m in assembly.meetings] == [("splice", "butt", None)]
        assert [f.code for f in assembly.findings] == ["edges_side_by_side"]
        tight = solved(host, plate("piece", rectangle(20, 20, x1=100, y1=98.5)))  # against three sides, drawn smaller
        assert [(m.kind, m.style) for m in tight.meetings] == [("inset", "drop-in")]

    def test_a_disc_that_lies_in_a_hole_by_chance_is_no_joint(self) -> None:
        hole, disc = Circle(x=60, y=60, radius=30), Circle(x=60, y=60, radius=20)
        host = plate("host", Profile(outer=rectangle(0, 0, x1=120, y1=120).outer, holes=(tuple(reversed(circle_ring(hole))),), circles=(hole,)))
        assert solved(host, plate("piece", Profile(outer=circle_ring(disc), circles=(disc,)))).meetings == ()

    def test_sheets_that_want_the_same_place_clash(self) -> None:
        assembly = solved(plate("a", rectangle(0, 0, x1=50, y1=50)), plate("b", rectangle(25, 25, x1=80, y1=80)))
        assert [f.code for f in assembly.findings] == ["meeting_clash"]


class TestStacks:
    def pair(self, choice: MeetingChoice | None = None) -> Assembly:
        above = Pose(origin=(20, 15, 3), x=(math.cos(0.4), math.sin(0.4), 0.0), y=(-math.sin(0.4), math.cos(0.4), 0.0))
        return solved(
            plate("low", rectangle(0, 0, x1=120, y1=90)), plate("top", rectangle(0, 0, x1=60, y1=40), above), choices={"low+top": choice} if choice else {}
        )

    def test_the_smaller_outline_is_scored_where_it_lies(self) -> None:
        assembly = self.pair()
        (mark,) = assembly.part("low").marks
        assert Polygon(mark.line).symmetric_difference(seen(assembly.part("top"))).area < 1e-6
        assert assembly.part("top").marks == ()

    def test_an_outline_that_would_lie_on_the_edge_is_not_scored(self) -> None:
        assembly = solved(plate("a", rectangle(0, 0, x1=60, y1=40)), plate("b", rectangle(0, 0, x1=60, y1=40), Pose(origin=(0, 0, 3), x=X, y=Y)))
        assert [p.marks for p in assembly.parts] == [(), ()]

    def test_dowel_holes_of_both_sheets_lie_on_each_other(self) -> None:
        assembly = self.pair(MeetingChoice(style=Style.DOWELS, count=2, width=5.0))
        low, top = assembly.part("low"), assembly.part("top")
        assert len(low.profile.holes) == len(top.profile.holes) == 2
        centres = [sorted(tuple(round(v, 4) for v in p.pose.to_world((c.x, c.y))[:2]) for c in p.profile.circles) for p in (low, top)]
        assert centres[0] == centres[1]
        assert all(Polygon(seen(top).exterior).buffer(-5).contains(Point(c)) for c in centres[0])
        assert assembly.meetings[0].count == 2

    def test_a_seat_is_engraved_a_little_wider_than_the_sheet_that_lies_in_it(self) -> None:
        assembly = self.pair(MeetingChoice(style=Style.RECESS))
        (mark,) = assembly.part("low").marks
        assert mark.operation is Operation.ENGRAVE
        assert Polygon(mark.line).area == pytest.approx(60.2 * 40.2)
        assert Polygon(mark.line).contains(seen(assembly.part("top")))
        assert assembly.meetings[0].style == "recess"

    def test_a_sheet_that_covers_the_other_has_no_seat_in_it(self) -> None:
        above = plate("top", rectangle(0, 0, x1=60, y1=40), Pose(origin=(0, 0, 3), x=X, y=Y))
        assembly = solved(plate("low", rectangle(0, 0, x1=60, y1=40)), above, choices={"low+top": MeetingChoice(style=Style.RECESS)})
        assert [f.code for f in assembly.findings] == ["recess_without_rim"]
        assert [p.marks for p in assembly.parts] == [(), ()]
        offered = mended(assembly.findings[0], assembly, design=Design(numbers=PlateNumbers(), stocks={"plate": "ply"})).repairs
        assert [r.says.text for r in offered] == ["Dowel holes instead", "Glue face instead"]
        for repair in offered:
            choices = {repair.target: MeetingChoice(style=Style(str(repair.values["style"])))}
            again = solved(plate("low", rectangle(0, 0, x1=60, y1=40)), above, choices=choices)
            assert "recess_without_rim" not in {f.code for f in again.findings}

    def test_a_seat_on_the_back_is_engraved_there(self) -> None:
        under = plate("under", rectangle(10, 10, x1=40, y1=30), Pose(origin=(0, 0, -3), x=X, y=Y))
        assembly = solved(plate("low", rectangle(0, 0, x1=100, y1=80)), under, choices={"low+under": MeetingChoice(style=Style.RECESS)})
        assert assembly.findings == ()
        (mark,) = assembly.part("low").marks
        assert mark.back
        assert Polygon(mark.line).contains(Polygon([(11, 11), (39, 11), (39, 29), (11, 29)]))

    def test_dowels_that_do_not_fit_are_told(self) -> None:
        assembly = self.pair(MeetingChoice(style=Style.DOWELS, count=9, width=12.0))
        assert [f.code for f in assembly.findings] == ["dowels_do_not_fit"]


WALL = plate("wall", rectangle(0, 0, x1=100, y1=100), Pose(origin=(0, 0, 0), x=Y, y=Z))
SHELF = plate("shelf", rectangle(-5, 0, x1=80, y1=100), Pose(origin=(0, 0, 50), x=X, y=Y), bounds=(Bound(mate="wall"),), inside=(40.0, 50.0))


class TestTees:
    def test_the_whole_edge_may_go_through_as_one_tab(self) -> None:
        assembly = solved(WALL, replace(SHELF, envelope=rectangle(-5, 20, x1=80, y1=80)), choices={"shelf+wall": MeetingChoice(style=Style.WHOLE)})
        (slot,) = [f for f in assembly.part("wall").features if f.kind is FeatureKind.SLOT]
        assert slot.length == pytest.approx(60.015)

    @settings(max_examples=20, deadline=None)
    @given(st.floats(-1.4, 1.4))
    def test_tabs_stand_out_by_what_is_asked(self, proud: float) -> None:
        assembly = solved(WALL, SHELF, choices={"shelf+wall": MeetingChoice(proud=proud)})
        assert bounds_of(assembly.part("shelf").profile.outer)[0] == pytest.approx(-proud, abs=1e-6)
        assert [m.style for m in assembly.meetings] == ["tabs"]

    def test_a_blind_edge_ends_at_the_face_and_its_place_is_scored_where_the_beam_reaches(self) -> None:
        choice = {"shelf+wall": MeetingChoice(style=Style.BLIND)}
        assembly = solved(WALL, SHELF, choices=choice)
        assert bounds_of(assembly.part("shelf").profile.outer)[0] == pytest.approx(3.0)
        (mark,) = assembly.part("wall").marks
        assert Polygon(mark.line).bounds == pytest.approx((0, 50, 100, 53))
        assert assembly.part("wall").profile.holes == ()
        from_behind = solved(replace(WALL, pose=Pose(origin=(0, 100, 0), x=(0, -1, 0), y=Z), datum=1.0), SHELF, choices=choice)
        assert [f.code for f in from_behind.findings] == ["blind_on_the_back"]

    @settings(max_examples=20, deadline=None)
    @given(st.integers(1, 6), st.floats(6, 30))
    def test_count_and_width_of_tabs_are_as_asked_where_they_fit(self, count: int, width: float) -> None:
        assembly = solved(WALL, SHELF, choices={"shelf+wall": MeetingChoice(count=count, width=width)})
        tabs = [f for f in assembly.part("shelf").features if f.kind is FeatureKind.TAB]
        assert 1 <= len(tabs) <= count
        assert all(6.0 - 1e-9 <= f.width.value <= width + 1e-9 for f in tabs)
        if width <= 100 / count - 9:
            assert len(tabs) == count

    def test_an_edge_flush_with_the_wall_is_not_short_of_what_is_glued_on_the_wall(self) -> None:
        behind = plate("frame", rectangle(20, 20, x1=80, y1=80), Pose(origin=(0, 0, 0), x=Y, y=Z), datum=1.0)
        assert [f for f in solved(WALL, SHELF, behind).findings if f.code == "meeting_short"] == []


class TestCrossings:
    def cross(self, **choice: object) -> Assembly:
        a = plate("a", rectangle(0, 0, x1=100, y1=40), Pose(origin=(0, 50, 0), x=X, y=Z), datum=0.5, rank=1)
        b = plate("b", rectangle(0, 0, x1=100, y1=40), Pose(origin=(50, 0, 0), x=Y, y=Z), datum=0.5)
        return solved(a, b, choices={"a+b": MeetingChoice(**choice)})  # type: ignore[arg-type]

    @settings(max_examples=20, deadline=None)
    @given(st.floats(0.1, 0.9), st.booleans())
    def test_the_share_is_cut_from_the_one_that_is_open_above_and_nothing_is_lost(self, share: float, flip: bool) -> None:
        assembly = self.cross(share=share, flip=flip)
        upper = assembly.part("b" if flip else "a")
        (lap,) = upper.features
        assert lap.length == pytest.approx(40 * share, abs=1e-6)
        assert max(y for _, y in lap.corners) == pytest.approx(40.0)
        assert union_volume([p.slab(nominal=True) for p in assembly.parts]) == pytest.approx(2 * 100 * 40 * 3 - 3 * 3 * 40, abs=0.05)
        assert assembly_order(assembly.parts).locked == ()

    def test_a_post_within_a_plate_goes_through_it_while_a_web_is_left(self) -> None:
        post = plate("post", rectangle(40, -30, x1=54, y1=30), Pose(origin=(0, 50, 0), x=X, y=Z), datum=0.5)
        assert [m.kind for m in solved(plate("floor", rectangle(0, 0, x1=100, y1=100)), post).meetings] == ["through"]
        near_the_edge = plate("floor", rectangle(37, 0, x1=137, y1=100))
        assert [m.kind for m in solved(near_the_edge, post).meetings] == ["through"]

    @pytest.mark.parametrize("wrong", [{"share": 0.05}, {"share": 0.95}, {"count": 0}, {"width": 0.2}, {"clearance": 9.0}, {"proud": float("nan")}])
    def test_choices_that_make_no_sense_are_refused(self, wrong: dict) -> None:
        with pytest.raises(ValueOutside):
            MeetingChoice(**wrong)


class TestReliefs:
    def test_brittle_sheets_get_a_round_hole_in_each_inner_corner_and_others_none(self) -> None:
        for stock, wanted in (("clear", True), ("ply", False)):
            wall, shelf = replace(WALL, stock=stock), replace(SHELF, stock=stock)
            plain, eased = solved(wall, shelf), solved(wall, shelf, relief=0.6)
            taken = polygon_of(plain.part("wall").profile).area - polygon_of(eased.part("wall").profile).area
            assert (taken > 0) is wanted
            if wanted:
                slots = len(plain.part("wall").profile.holes)
                # Of a circle of radius r through the corner, what lies in the slot is a half disc and the right triangle on it.
                r = 0.6
                assert taken == pytest.approx(4 * slots * (math.pi * r * r - (math.pi * r * r / 2 + r * r)), rel=0.04)  # chords
                assert {round(c.radius, 3) for c in eased.part("wall").profile.circles} == {0.6}
                tab = next(f for f in eased.part("shelf").features if f.kind is FeatureKind.TAB)
                assert width_at(eased.part("shelf"), tab) == pytest.approx(tab.width.value, abs=1e-6)

"""The dry fit: everything that can be found out before the fire."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from itertools import combinations

from notchcore.check.around import Around
from notchcore.check.cautions import cautions
from notchcore.check.choices import helpers_that_hold, mended, orphans
from notchcore.check.features import across_joints, lacking_letters, small_texts, too_deep, wrong_faces
from notchcore.check.freedom import Held, Hold, held_parts, told_moves
from notchcore.check.gather import gathered
from notchcore.check.looks import alike, told_apart
from notchcore.check.order import AssemblyOrder, assembly_order, never
from notchcore.check.play import ItemPlay
from notchcore.check.room import too_large, too_small
from notchcore.check.seats import shallow_seats, unequal_laces, wished_depths
from notchcore.check.strength import brittle_corners, grain_across_necks, long_levers, thin_webs, weak_tabs
from notchcore.check.told_together import told_together
from notchcore.design.alike import likes_of
from notchcore.design.assembly import Assembly, Meeting, Part
from notchcore.design.styles import ABOUT, Style
from notchcore.findings import Finding, Repair, RepairKind, Severity
from notchcore.geom.slab import box_of, boxes_touch, common_volume, shrunk
from notchcore.measure.fit import NO_FITS, Boundaries, Chances, Feel, Fits, chances_of, clearance_for, clearance_sd
from notchcore.measure.stock import Stock
from notchcore.tolerance import SHRINK, VOLUME_NOISE
from notchcore.units import Mm
from notchcore.words.facts import Count, Listed, Names, Sentence, Share, Volume, mm
from notchcore.words.render import say

OTHER_FEEL = {Feel.SLIDES: "mend.let_slide", Feel.SNUG: "mend.make_snug", Feel.MALLET: "mend.mallet"}
MOST_NAMED = 4  # parts in a sentence
NEAR: Mm = 1.0  # that parts of one thing come to each other somewhere
REWORK_LOOK = 0.15  # a joint that fails more often than this is worth a test cut


@dataclass(frozen=True, slots=True, kw_only=True)
class MeetingChances:
    """How one meeting will feel."""

    meeting: str
    chances: Chances
    rework: float  #: chance that it rattles or will not go


@dataclass(frozen=True, slots=True, kw_only=True)
class DryFit:
    """What was checked and what was found."""

    findings: tuple[Finding, ...]
    order: AssemblyOrder
    chances: tuple[MeetingChances, ...]
    expected_rework: float  #: joints
    cautions: tuple[Finding, ...] = ()  #: what somebody who knows should look at; never an error
    plays: tuple[ItemPlay, ...] = ()  #: of items that stand in rooms


def collisions(parts: tuple[Part, ...], pairs: Iterable[tuple[Part, Part]] | None = None) -> tuple[Finding, ...]:
    """Return pairs of parts that want the same place, by mesh boolean on nominal geometry shrunk by a hair.

    Clearance is left out: the overlap of a wanted press fit is not a mistake.

    Args:
        pairs: of those parts; all of them where none are given
    """
    found = []
    boxes = {p.id: box_of(p.slab(nominal=True)) for p in parts}
    small = {p.id: shrunk(p.slab(nominal=True), SHRINK) for p in parts}
    for a, b in combinations(parts, 2) if pairs is None else pairs:
        if not boxes_touch(boxes[a.id], boxes[b.id], reach=-SHRINK):
            continue
        thin = small[a.id]
        volume = common_volume(thin, b.slab(nominal=True)) if thin is not None else 0.0
        if volume > VOLUME_NOISE:
            found.append(
                Finding(
                    code="collision",
                    severity=Severity.MUST,
                    parts=(a.id, b.id),
                    facts={"volume_mm3": volume},
                    says=say("collision", a=a.ref, b=b.ref, volume=Volume(volume)),
                )
            )
    return tuple(found)


def unheld_parts(assembly: Assembly, holds: tuple[Held, ...]) -> tuple[Finding, ...]:
    """Return the parts that nothing holds, and how each still moves; those whose joints only slide are told together."""
    free = {h.part: h for h in holds if h.by is Hold.NOTHING}
    sliding = [m for m in assembly.meetings if m.feel is Feel.SLIDES and m.holds and (m.a in free or m.b in free)]
    slides = [p for p in free if any(p in (m.a, m.b) for m in sliding)]
    found = []
    if slides:
        refs = tuple(map(assembly.ref_of, slides))
        says = (
            say("only_slides", part=refs[0], moves=told_moves(free[slides[0]].moves))
            if len(refs) == 1
            else say("only_slides.several", parts=Names(refs, most=MOST_NAMED))
        )
        found.append(
            Finding(
                code="only_slides",
                severity=Severity.LOOK,
                parts=tuple(slides),
                facts={"parts": len(slides)},
                says=says,
                repairs=(Repair(says=say("mend.snug"), kind=RepairKind.FEELS, targets=tuple(m.id for m in sliding), values={"feel": Feel.SNUG.value}),),
            )
        )
    butted = {p for m in assembly.meetings if m.style is Style.BUTT for p in (m.a, m.b)}
    for p, held in free.items():
        if p in slides:
            continue
        ref = assembly.ref_of(p)
        says = say("unheld_part.butts", part=ref) if p in butted else say("unheld_part", part=ref, moves=told_moves(held.moves))
        found.append(Finding(code="unheld_part", severity=Severity.LOOK, parts=(p,), says=says))
    return tuple(found)


def _are_plates(assembly: Assembly) -> bool:
    """Tell whether parts are plates of which none is near another, and no assembly: nothing of them is meant to be held."""
    boxes = [box_of(p.slab()) for p in assembly.parts]
    return not assembly.meetings and not any(boxes_touch(a, b, reach=NEAR) for a, b in combinations(boxes, 2))


HOLDS = (Hold.NEIGHBOURS, Hold.GRIP, Hold.GLUE, Hold.WEIGHT)


def how_held(holds: tuple[Held, ...], parts: int) -> Sentence | None:
    """Return what holds the parts, for a thing in which each is held; None where not all that should be were looked at.

    Args:
        parts: how many are meant to be held
    """
    if parts > 1 and len(holds) < parts:
        return None
    counts = [(n, by) for by in HOLDS if (n := sum(h.by is by for h in holds))]
    if not counts:
        return say("fine.unheld_part")
    return say("fine.unheld_part.by", holds=Listed(tuple(say(f"held.{by.value}", number=n) for n, by in counts)))


def meeting_sd(meeting: Meeting, stocks: Mapping[str, Stock], *, boundaries: Boundaries, fits: Fits) -> Mm:
    """Return the spread of a meeting's clearance [mm]."""
    return clearance_sd(
        kerf_sd=stocks[meeting.kerf_stock].kerf.sd,
        thickness_sd=meeting.thickness_sd,
        boundaries=boundaries,
        kerf_share=meeting.kerf_share,
        machine_sd=fits.machine_sd,
        opening=meeting.kerf_stock,
    )


def as_cut(meeting: Meeting, stocks: Mapping[str, Stock], *, fits: Fits) -> Mm:
    """Return the clearance that a meeting comes out with [mm]: what was asked for, and the beam where nothing corrects for it.

    A slot that takes a sheet gains one kerf; where an opening and what enters it are both cut, each adds its share. A piece that falls out of an
    opening has the beam for its clearance anyway, and no share.
    """
    if meeting.clearance is None:
        return 0.0
    return meeting.clearance.value + (meeting.kerf_share * stocks[meeting.kerf_stock].kerf.value if fits.kerf_left else 0.0)


def meeting_chances(assembly: Assembly, stocks: dict[str, Stock], *, fits: Fits = NO_FITS) -> tuple[MeetingChances, ...]:
    """Return how each joint will feel, given how well thickness, kerf and the boundaries between feels are known."""
    stock_of_part = {p.id: stocks[p.stock] for p in assembly.parts}
    found = []
    for m in assembly.meetings:
        if m.clearance is None or m.feel is None:
            continue
        boundaries = fits.between(stock_of_part[m.a].key, stock_of_part[m.b].key)
        sd = meeting_sd(m, stocks, boundaries=boundaries, fits=fits)
        chances = chances_of(clearance=as_cut(m, stocks, fits=fits), sd=sd, boundaries=boundaries)
        found.append(MeetingChances(meeting=m.id, chances=chances, rework=chances.rattles + chances.wont_go))
    return tuple(found)


def _surer_feels(assembly: Assembly, stocks: Mapping[str, Stock], *, risky: list[MeetingChances], fits: Fits) -> tuple[Repair, ...]:
    """Return the feels with which none of the risky joints would be a gamble any more, the surest first."""
    stock = {p.id: stocks[p.stock].key for p in assembly.parts}
    meetings = {m.id: m for m in assembly.meetings}
    found = []
    for feel, key in OTHER_FEEL.items():
        worst = 0.0
        for o in risky:
            m = meetings[o.meeting]
            between = fits.between(stock[m.a], stock[m.b])
            moved = clearance_for(feel, between).value - (clearance_for(m.feel, between).value if m.feel else 0.0)
            then = chances_of(clearance=o.chances.clearance + moved, sd=o.chances.sd, boundaries=between)
            worst = max(worst, then.rattles + then.wont_go)
        if worst <= REWORK_LOOK:
            says = say(f"{key}.several" if len(risky) > 1 else key)
            found.append((worst, Repair(says=says, kind=RepairKind.FEELS, targets=tuple(o.meeting for o in risky), values={"feel": feel.value})))
    return tuple(r for _, r in sorted(found, key=lambda f: f[0]))


def _risky(assembly: Assembly, stocks: Mapping[str, Stock], *, chances: tuple[MeetingChances, ...], fits: Fits) -> tuple[Finding, ...]:
    risky = [o for o in chances if o.rework > REWORK_LOOK]
    if not risky:
        return ()
    worst = max(risky, key=lambda o: o.rework)
    meeting = next(m for m in assembly.meetings if m.id == worst.meeting)
    return (
        Finding(
            code="fit_not_sure",
            severity=Severity.LOOK,
            parts=(meeting.a, meeting.b),
            meeting=meeting.id,
            says=say(
                "fit_not_sure",
                risky=len(risky),
                all=Count(len(chances), "joint", "joints"),
                a=assembly.ref_of(meeting.a),
                b=assembly.ref_of(meeting.b),
                worst=Share(worst.rework),
            ),
            facts={"joints": len(risky), "worst": worst.rework},
            repairs=_surer_feels(assembly, stocks, risky=risky, fits=fits),
        ),
    )


def _locked(order: AssemblyOrder, parts: tuple[Part, ...]) -> tuple[Finding, ...]:
    if not order.locked:
        return ()
    names = Names(tuple(p.ref for p in parts if p.id in order.locked), most=4)
    return (
        Finding(
            code="locked_assembly",
            severity=Severity.MUST,
            parts=order.locked,
            says=say("locked_assembly", parts=names),
        ),
    )


def _not_found(order: AssemblyOrder, parts: tuple[Part, ...]) -> tuple[Finding, ...]:
    if not order.unknown:
        return ()
    names = Names(tuple(p.ref for p in parts if p.id in order.unknown))
    return (
        Finding(
            code="order_not_found",
            severity=Severity.LOOK,
            parts=order.unknown,
            says=say("order_not_found", unknown=len(names.refs), all=Count(len(parts), "part", "parts"), parts=names),
        ),
    )


def _kerf_left(assembly: Assembly, stocks: Mapping[str, Stock], *, fits: Fits) -> tuple[Finding, ...]:
    more = [as_cut(m, stocks, fits=fits) - m.clearance.value for m in assembly.meetings if m.clearance is not None]
    if assembly.on_line or max(more, default=0.0) <= 0:
        return ()
    return (Finding(code="kerf_left", severity=Severity.LOOK, says=say("kerf_left", looser=mm(max(more), digits=2)), facts={"looser_mm": round(max(more), 4)}),)


def dry_fit(assembly: Assembly, stocks: dict[str, Stock], *, fits: Fits = NO_FITS, around: Around | None = None, stop: Callable[[], bool] = never) -> DryFit:
    """Return all findings, gravest first, an assembly order, the chances of every joint, and cautions.

    Args:
        stop: asked while an order is looked for; once it says yes, the dry fit tells what it has found
        around: the design and what surrounds it; without it only what the parts themselves show is checked
    """
    hit = collisions(assembly.parts)
    order = AssemblyOrder(steps=()) if hit else assembly_order(assembly.parts, stop, joined=[(m.a, m.b) for m in assembly.meetings if ABOUT[m.style].spliced])
    order = gathered(order, assembly.parts, likes=likes_of(assembly.parts), met=[(m.a, m.b) for m in assembly.meetings])
    holds = () if hit or assembly.on_line else held_parts(assembly, stop)
    chances = meeting_chances(assembly, stocks, fits=fits)
    plates = assembly.on_line or _are_plates(assembly)
    checks: list[tuple[str, Sentence | None, tuple[Finding, ...]]] = [
        ("collision", say("fine.collision"), hit),
        ("locked_assembly", None if hit or order.unknown else say("fine.locked_assembly"), _locked(order, assembly.parts)),
        ("order_not_found", None if hit else say("fine.order_not_found"), _not_found(order, assembly.parts)),
        (
            "unheld_part",
            None if plates else how_held(holds, sum(not p.loose and not p.helper for p in assembly.parts)),
            () if plates else unheld_parts(assembly, holds),
        ),
        ("fit_not_sure", say("fine.fit_not_sure"), _risky(assembly, stocks, chances=chances, fits=fits)),
        ("kerf_left", say("fine.kerf_left"), _kerf_left(assembly, stocks, fits=fits)),
        ("weak_tab", say("fine.weak_tab"), weak_tabs(assembly.parts)),
        ("long_lever", say("fine.long_lever"), long_levers(assembly)),
        ("thin_web", say("fine.thin_web"), thin_webs(assembly.parts, stocks)),
    ]
    if around is not None:
        checks += _around(assembly, stocks, around=around)
    found = [*assembly.findings, *(f for _, _, some in checks for f in some)]
    if around is not None:
        found = [mended(f, assembly, design=around.design) for f in found]
    fine = [Finding(code=code, severity=Severity.FINE, says=says) for code, says, some in checks if says and not some and assembly.parts]
    rank = {Severity.MUST: 0, Severity.LOOK: 1, Severity.FINE: 2}
    return DryFit(
        findings=tuple(sorted((*told_together(found), *fine), key=lambda f: rank[f.severity])),
        order=order,
        chances=chances,
        expected_rework=sum(o.rework for o in chances),
        cautions=cautions(assembly, stocks, design=around.design) if around is not None else (),
    )


def _around(assembly: Assembly, stocks: dict[str, Stock], *, around: Around) -> list[tuple[str, Sentence | None, tuple[Finding, ...]]]:
    """Return what only a look at the design, the machine and the shelf can tell; test cards are small and sharp on purpose."""
    design = around.design
    checks: list[tuple[str, Sentence | None, tuple[Finding, ...]]] = [
        ("larger_than_bed", say("fine.larger_than_bed"), too_large(assembly, stocks, around=around)),
        ("orphan_choice", say("fine.orphan_choice"), orphans(assembly, design)),
        ("helper_holds", say("fine.helper_holds"), helpers_that_hold(assembly)),
        ("feature_across_joint", say("fine.feature_across_joint"), across_joints(assembly, design)),
        ("wrong_face", say("fine.wrong_face"), wrong_faces(assembly, design)),
        ("stocks_alike", told_apart(assembly, stocks, around=around), alike(assembly, stocks, around=around)),
    ]
    if not assembly.on_line:
        checks += [
            ("part_below_slats", say("fine.part_below_slats"), too_small(assembly, stocks, around=around)),
            ("letters_lacking", say("fine.letters_lacking"), lacking_letters(assembly, design)),
            ("text_too_small", say("fine.text_too_small"), small_texts(assembly, stocks, design=design)),
            (
                "recess_too_shallow",
                say("fine.recess_too_shallow"),
                (*shallow_seats(assembly, stocks, around=around), *wished_depths(assembly, design, stocks=stocks, around=around)),
            ),
            ("laces_unequal", say("fine.laces_unequal"), unequal_laces(assembly, design)),
            ("engraved_too_deep", say("fine.engraved_too_deep"), too_deep(assembly, design, around=around)),
            ("brittle_corner", say("fine.brittle_corner"), brittle_corners(assembly, stocks, design=design)),
            ("grain_across_neck", say("fine.grain_across_neck"), grain_across_necks(assembly, stocks, design=design)),
        ]
    return checks

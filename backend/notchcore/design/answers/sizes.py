"""Kerf of a test, roof panel, turned layer, pitch and gap, sheets needed, scale, inch fractions."""

from __future__ import annotations

import math
from fractions import Fraction

from notchcore.design.answers.values import Answer, Result, Shape, box, measure
from notchcore.errors import DesignError, require
from notchcore.findings import Finding, Severity
from notchcore.geom.vectors import Vec2
from notchcore.ledger import Quantity, Term, TermKind, Trust, total
from notchcore.measure.kerf import KerfTest, KerfTestKind, kerf_of
from notchcore.measure.materials import MATERIALS, minimum_web
from notchcore.measure.scale import checked_scale, model_of, real_of, stand_ins
from notchcore.measure.stock import Stock
from notchcore.units import MM_PER_INCH, Mm
from notchcore.words.facts import TRIMMED, Count, Fact, Figure, Listed, Sentence, Share, mm
from notchcore.words.render import say


def _chosen(label: Sentence, value: float) -> Term:
    return Term(kind=TermKind.SIZE, label=label, value=value, trust=Trust.CHOSEN)


def kerf_answer(*, kind: KerfTestKind, drawn: Mm, measured: Mm, count: int) -> Answer:
    """Return the kerf that one test shows."""
    test = KerfTest(kind=kind, drawn=drawn, measured=measured, count=count)
    k = kerf_of(test)
    sum_ = say(f"answer.kerf.{kind}", count=count, drawn=mm(drawn, digits=2), measured=mm(measured, digits=2))
    return Answer(
        says=say("answer.kerf", kerf=mm(k, digits=3), sum=sum_, half=mm(k / 2, digits=3)),
        results=(Result(label=say("result.kerf"), value=k), Result(label=say("result.half"), value=k / 2)),
        ledger=total((_chosen(say("term.kerf.this_test"), k),)),
        shapes=(
            Shape(points=box(0, 0, x1=40, y1=20), style="sheet"),
            Shape(points=box(40 + 10 * k, 0, x1=80 + 10 * k, y1=20), style="sheet"),
            Shape(points=((40 + 5 * k, -3), (40 + 5 * k, 23)), style="cut", closed=False),
            measure((40, -6), (40 + 10 * k, -6), times=10),
        ),
    )


def roof_panel(*, run: Mm, angle: float, eaves: Mm, sheet: Stock, wall: Stock) -> Answer:
    """Return the length of a roof panel along the slope: run / cos(a) + eaves; ridge plates meet at 180 - 2a.

    Args:
        run: from the ridge's middle to the wall's outer face, level [mm]
        angle: of the slope [degrees]
        eaves: overhang along the slope [mm]
    """
    require("run", run, least=1, most=10_000)
    require("angle", angle, least=5, most=80, unit="°")
    require("eaves", eaves, least=0, most=2000)
    a = math.radians(angle)
    length = total(
        (
            _chosen(say("term.run"), run),
            Term(kind=TermKind.ANGLE, label=say("term.slope", angle=f"{angle:g}°"), value=run / math.cos(a) - run),
            _chosen(say("term.eaves"), eaves),
        )
    )
    between = math.radians(90 - angle)
    slot = wall.t / math.sin(between) + sheet.t / abs(math.tan(between))
    rise = run * math.tan(a)
    out = (run + eaves * math.cos(a), rise - (run + eaves * math.cos(a)) * math.tan(a))
    n = (math.sin(a) * sheet.t, math.cos(a) * sheet.t)
    panel: tuple[Vec2, ...] = ((0, rise), out, (out[0] + n[0], out[1] + n[1]), (n[0], rise + n[1]))
    return Answer(
        says=say("answer.roof", length=mm(length.value, digits=2), ridge=f"{180 - 2 * angle:g}°", slot=mm(slot, digits=2)),
        results=(
            Result(label=say("result.panel_length"), value=length.value),
            Result(label=say("result.ridge"), value=180 - 2 * angle, kind="deg"),
            Result(label=say("result.gable"), value=rise),
            Result(label=say("result.wall_slot"), value=slot),
        ),
        ledger=length,
        shapes=(
            Shape(points=panel, style="sheet", label=sheet.name),
            Shape(points=tuple((-x, y) for x, y in panel), style="sheet"),
            Shape(points=box(run - wall.t, -rise * 0.9, x1=run, y1=0), style="mate", label=wall.name),
            measure((0, -rise * 0.2), (run, -rise * 0.2)),
        ),
    )


def turned_layer(*, layer: int, layers: int, twist: float) -> Answer:
    """Return how far layer i of n is turned: i * twist / (n - 1); post slots in its own frame stand at minus that.

    Args:
        layer: counted from 0 at the bottom
        twist: of the whole stack [degrees]
    """
    require("layers", layers, least=2, most=500, unit="")
    require("layer", layer, least=0, most=layers - 1, unit="")
    require("twist", twist, least=-3600, most=3600, unit="°")
    step = twist / (layers - 1)
    angle = layer * step
    side = 30.0

    def square(deg: float, r: float) -> tuple[Vec2, ...]:
        return tuple((r * math.cos(math.radians(deg + 45 + 90 * k)), r * math.sin(math.radians(deg + 45 + 90 * k))) for k in range(4))

    post = (0.6 * side * math.cos(math.radians(0)), 0.0)
    return Answer(
        says=say("answer.turned", layer=layer, last=layers - 1, angle=f"{angle:g}°", step=f"{step:g}°", slot=f"{-angle:g}°"),
        results=(
            Result(label=say("result.turn"), value=angle, kind="deg"),
            Result(label=say("result.post_slot"), value=-angle, kind="deg"),
            Result(label=say("result.turn_each"), value=step, kind="deg"),
        ),
        ledger=total((_chosen(say("from.formula", formula=f"{layer} × {twist:g}° / {layers - 1}"), angle),)),
        shapes=(
            Shape(points=square(0, side), style="guide"),
            Shape(points=square(angle, side), style="sheet"),
            Shape(points=box(post[0] - 2, -4, x1=post[0] + 2, y1=4), style="mate", label="post"),
        ),
    )


def pitch_and_gap(*, length: Mm, count: int, width: Mm, gaps_at_ends: bool, sheet: Stock | None) -> Answer:
    """Return gap and pitch of equal things over a length: gap = (L - n w) / (n + 1), or / (n - 1) without gaps at the ends.

    Raises:
        DesignError: the things do not go into the length
        ValueOutside: a number makes no sense
    """
    require("length", length, least=1, most=100_000)
    require("count", count, least=1 if gaps_at_ends else 2, most=2000, unit="")
    require("width", width, least=0.01, most=length)
    spaces = count + 1 if gaps_at_ends else count - 1
    gap = (length - count * width) / spaces
    if gap < 0:
        raise DesignError(
            say(
                "rows_do_not_fit_length",
                count=count,
                width=mm(width, digits=TRIMMED),
                taken=mm(count * width, digits=TRIMMED),
                length=mm(length, digits=TRIMMED),
            ),
            field="count",
        )
    findings: tuple[Finding, ...] = ()
    web = minimum_web(MATERIALS[sheet.material], sheet.t) if sheet else 0.0
    if sheet and gap < web:
        findings = (Finding(code="thin_web", severity=Severity.LOOK, says=say("thin_web.gap", sheet=sheet.name)),)
    first = gap if gaps_at_ends else 0.0
    shown = min(count, 60)
    return Answer(
        says=say("answer.pitch", gap=mm(gap, digits=2), pitch=mm(gap + width, digits=2), first=mm(first, digits=2)),
        results=(
            Result(label=say("result.gap"), value=gap),
            Result(label=say("result.pitch"), value=gap + width),
            Result(label=say("result.first"), value=first),
        ),
        ledger=total((_chosen(say("term.length"), length), _chosen(say("term.width_times", count=count), -count * width))),
        findings=findings,
        shapes=(
            Shape(points=box(0, 0, x1=length, y1=length / 8), style="sheet"),
            *(Shape(points=box(x, length / 40, x1=x + width, y1=length / 10), style="gap") for x in (first + i * (gap + width) for i in range(shown))),
            measure((first, -length / 30), (first + gap + width, -length / 30)),
        ),
    )


def _fitting(size: Mm, room: Mm, *, spacing: Mm) -> int:
    return int((room + spacing + 1e-9) // (size + spacing))


def sheets_needed(*, width: Mm, height: Mm, count: int, sheet_width: Mm, sheet_height: Mm, spacing: Mm, margin: Mm, price: float, may_turn: bool) -> Answer:
    """Return how many sheets equal rectangles need, laid in rows: an upper bound for the packing of any shape that fits into them.

    Raises:
        DesignError: the part is larger than the sheet within its margins
        ValueOutside: a number makes no sense
    """
    for name, value in (("part width", width), ("part height", height), ("sheet width", sheet_width), ("sheet height", sheet_height)):
        require(name, value, least=1, most=10_000)
    require("count", count, least=1, most=100_000, unit="")
    require("spacing", spacing, least=0, most=100)
    require("margin", margin, least=0, most=100)
    room = sheet_width - 2 * margin, sheet_height - 2 * margin
    ways = [(width, height), (height, width)] if may_turn else [(width, height)]
    w, h = max(ways, key=lambda way: _fitting(way[0], room[0], spacing=spacing) * _fitting(way[1], room[1], spacing=spacing))
    columns, rows = _fitting(w, room[0], spacing=spacing), _fitting(h, room[1], spacing=spacing)
    each = columns * rows
    if not each:
        raise DesignError(say("part_beyond_sheet"), field="width")
    sheets = math.ceil(count / each)
    used = count * width * height / (sheets * sheet_width * sheet_height)
    cells = [(margin + i * (w + spacing), margin + j * (h + spacing)) for j in range(min(rows, 40)) for i in range(min(columns, 40))]
    return Answer(
        says=say("answer.sheets", sheets=Count(sheets, "sheet", "sheets"), columns=columns, rows=rows, each=each, used=Share(used)),
        results=(
            Result(label=say("result.sheets"), value=sheets, kind="count"),
            Result(label=say("result.each"), value=each, kind="count"),
            Result(label=say("result.price"), value=sheets * price, kind="number"),
        ),
        ledger=total((_chosen(say("term.sheets_up", count=count, each=each), float(sheets)),)),
        shapes=(
            Shape(points=box(0, 0, x1=sheet_width, y1=sheet_height), style="sheet"),
            *(Shape(points=box(x, y, x1=x + w, y1=y + h), style="cut") for x, y in cells[:count]),
        ),
    )


def scale_answer(*, n: float, real: Mm | None, model: Mm | None, wanted: Mm | None, stocks: tuple[Stock, ...]) -> Answer:
    """Return lengths of a model in scale 1:N both ways, and which stock stands for a real thickness best.

    Raises:
        DesignError: neither or both of the lengths are given
        ValueOutside: the scale makes no sense
    """
    checked_scale(n)
    if (real is None) == (model is None):
        raise DesignError(say("one_of_two_lengths"), field="real")
    m = model if model is not None else model_of(float(real or 0.0), n)
    r = real if real is not None else real_of(float(m), n)
    results = [Result(label=say("result.model"), value=m), Result(label=say("result.real"), value=r)]
    stands: Fact = ""
    if wanted is not None and stocks:
        best = stand_ins(wanted, n, stocks=[(s.id, s.t) for s in stocks])
        names = {s.id: s for s in stocks}
        first = best[0]
        stands = say("answer.scale.stands", stock=names[first.stock].ref, real=mm(first.real, digits=2))
        results += [Result(label=say("result.stands_for", stock=names[b.stock].ref), value=b.real) for b in best[:5]]
    big = max(r, m, 1e-9)
    return Answer(
        says=say("answer.scale", n=f"{n:g}", real=mm(r, digits=2), model=mm(m, digits=2), stands=stands),
        results=tuple(results),
        ledger=total((_chosen(say("term.real_over", n=f"{n:g}"), m),)),
        shapes=(
            Shape(points=box(0, 0, x1=100 * r / big, y1=8), style="guide", label="real"),
            Shape(points=box(0, 14, x1=100 * m / big, y1=22), style="sheet", label="model"),
        ),
    )


def nearest_fraction(inches: float, denominator: int = 64) -> Fraction:
    """Return the fraction of an inch nearest to a value."""
    return Fraction(round(inches * denominator), denominator)


def fraction_words(value: Fraction) -> str:
    """Return a number as a whole one and a fraction in lowest terms, as it is said in a workshop: 2 1/4."""
    sign = "-" if value < 0 else ""
    whole, part = divmod(abs(value), 1)
    if not part:
        return f"{sign}{whole}"
    return f"{sign}{whole} {part.numerator}/{part.denominator}" if whole else f"{sign}{part.numerator}/{part.denominator}"


def inch_fractions(*, length: Mm) -> Answer:
    """Return a length in millimetres, inches, thousandths and the nearest fractions, each with what it is off."""
    require("length", length, least=-100_000, most=100_000)
    inches = length / MM_PER_INCH
    rows = [(d, nearest_fraction(inches, d)) for d in (8, 16, 32, 64)]
    near = {f: say("answer.inches.near", inches=fraction_words(f), off=f"{(float(f) - inches) * MM_PER_INCH:+.3f}") for _, f in rows}
    off = abs(float(rows[-1][1]) - inches) * MM_PER_INCH
    span = max(1, math.ceil(abs(inches)))
    ticks = [
        Shape(
            points=((k * MM_PER_INCH / 16, 0), (k * MM_PER_INCH / 16, 14 if k % 16 == 0 else 9 if k % 8 == 0 else 6 if k % 4 == 0 else 4)),
            style="guide",
            closed=False,
        )
        for k in range(min(span, 12) * 16 + 1)
    ]
    at = min(abs(length), 12 * MM_PER_INCH)
    return Answer(
        says=say("answer.inches", mm=f"{length:.4g}", inches=Figure(inches, 4), thou=Figure(inches * 1000, 1), near=Listed(tuple(near.values()))),
        results=(
            Result(label=say("result.millimetres"), value=length, kind="number"),
            Result(label=say("result.inches"), value=inches, kind="number"),
            Result(label=say("result.thousandths"), value=inches * 1000, kind="number"),
            Result(label=say("result.nearest"), value=off, kind="number"),
        ),
        ledger=Quantity(value=length, sd=0.0, terms=(_chosen(say("from.formula", formula=f"{inches:.4f} × 25.4"), length),)),
        shapes=(*ticks, Shape(points=((at, -5), (at, 18)), style="cut", closed=False, label=fraction_words(rows[-1][1]) + " in")),
    )

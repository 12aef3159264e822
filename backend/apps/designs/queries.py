"""What a project is right now: its design, stocks, assembly, and the fingerprints that tell what is stale."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from threading import Lock

from apps.designs import convert
from apps.designs.models import Project, Revision, Stage, StageResult
from apps.sheets.convert import Measured, machine_of
from apps.sheets.models import Sheet
from apps.sheets.models import Stock as StockRow
from notchcore.check.around import RULES, Around, OnShelf
from notchcore.design.assembly import Assembly
from notchcore.design.building import build
from notchcore.design.design import Design, as_chosen
from notchcore.design.items import Member, body_of, members_of, whole_of
from notchcore.errors import DesignError
from notchcore.fingerprint import fingerprint
from notchcore.ids import MAIN, own_name
from notchcore.measure.contrast import Lab, neighbours
from notchcore.measure.fit import Fits
from notchcore.measure.machine import Settings
from notchcore.measure.stock import Stock, StockEvidence
from notchcore.words.render import say

KEPT_ASSEMBLIES = 128


class Built:
    """An assembly that is kept, with the fingerprint of its finished parts: it is asked for at every look at the strip."""

    def __init__(self, assembly: Assembly) -> None:
        self.assembly = assembly

    @cached_property
    def parts_print(self) -> str:
        parts = sorted(self.assembly.parts, key=lambda p: p.id)
        shapes = [(p.id, p.stock, p.profile, p.marks, p.copies, p.spares, p.helper, p.falls_from) for p in parts]
        return fingerprint([*shapes, *(("reverse", p.id) for p in parts if p.reverse)])


_kept: OrderedDict[str, Built] = OrderedDict()
_lock = Lock()
_building: dict[str, Lock] = {}


@dataclass(frozen=True, kw_only=True)
class Current:
    """A project at its head revision; it is built when somebody asks what it comes to."""

    project: Project
    revision: Revision
    design: Design
    measured: Measured

    @cached_property
    def built(self) -> Built:
        return _built_for(self.project, self.design, measured=self.measured)

    @cached_property
    def members(self) -> tuple[Member, ...]:
        """The items that are there; the one when there are no others."""
        return members_for(self.project, self.design, measured=self.measured)

    def of(self, item: str) -> Current:
        """Return one item of the project as if it were all of it; the project itself for no item.

        Raises:
            DesignError: there is no such item, or it is left out
        """
        if not item:
            return self
        found = next((m for m in self.members if m.id == item), None)
        if found is not None:
            return replace(self, design=found.design)
        if not as_chosen(self.design).root_of(item):
            raise DesignError(say("no_such_item"))
        return replace(self, design=body_of(self.design, item))  # joined to another one, by itself

    def of_part(self, part: str) -> tuple[Current, str]:
        """Return the item that a part of the project belongs to, and the name that the part has in it."""
        found = next((p for p in self.assembly.parts if p.id == part), None)
        root = MAIN if found is None or not found.item else self.design.root_of(found.item) or found.item
        return (self, part) if root == MAIN else (self.of(root), own_name(root, part))

    @property
    def assembly(self) -> Assembly:
        return self.built.assembly

    @property
    def evidence(self) -> dict[str, StockEvidence]:
        return self.measured.evidence

    @property
    def stocks(self) -> dict[str, Stock]:
        return self.measured.stocks

    @property
    def fits(self) -> Fits:
        return self.measured.fits

    @property
    def settings(self) -> dict[str, Settings]:
        return self.measured.settings

    @cached_property
    def built_from(self) -> str:
        return _built_from(self.design, self.measured)

    @property
    def checked_from(self) -> str:
        """Fingerprint of what the dry fit depends on: shapes, how well thickness and kerf are known, and what surrounds them."""
        around = replace(around_of(self.project, self.design, measured=self.measured), design=self.design.shape)
        return fingerprint(RULES, self.evidence, self.fits, self.measured.setups, around)

    @property
    def parts_print(self) -> str:
        """Fingerprint of the finished parts: what a packing depends on."""
        return self.built.parts_print


def largest_of(sheets: list[tuple[float, float]]) -> tuple[tuple[float, float], ...]:
    """Return the sheets that do not fit in another: what fits none of them fits none at all. A new offcut changes nothing."""
    lying = sorted({(max(s), min(s)) for s in sheets}, reverse=True)
    return tuple(s for i, s in enumerate(lying) if all(s[1] > other[1] for other in lying[:i]))


def around_of(project: Project, design: Design, *, measured: Measured) -> Around:
    """Return what surrounds a project's parts: its machine, the sheets on the shelf, and the colours and depths of its stocks."""
    ids = [int(i) for i in design.stock_ids() if i.isdecimal()]
    sheets: dict[str, list[tuple[float, float]]] = {}
    for stock, w, h in Sheet.objects.filter(stock_id__in=ids, count__gt=0).values_list("stock_id", "width_mm", "height_mm"):
        sheets.setdefault(str(stock), []).append((w, h))
    swatches = {str(row.pk): look for row in StockRow.objects.filter(pk__in=ids) if (look := _swatch(row)) is not None}
    others = _on_shelf(project, ids) if any(n.hard_to_tell for n in neighbours(swatches)) else ()
    shelf = {k: largest_of(v) for k, v in sheets.items()}
    depths = {k: s.engrave.passes * s.engrave.depth for k, s in measured.settings.items() if s.engrave.depth > 0}
    pitch = machine_of(project.machine).slat_pitch
    return Around(design=as_chosen(design), bed=measured.bed, slat_pitch=pitch, sheets=shelf, swatches=swatches, others=others, depths=depths)


def _swatch(row: StockRow) -> Lab | None:
    """Return how a stock looks in the end; the colour on the screen is no swatch."""
    said = row.lab_finished or row.lab
    return (said[0], said[1], said[2]) if said else None


def _on_shelf(project: Project, used: Sequence[int]) -> tuple[OnShelf, ...]:
    """Return the shop's other stocks that lie there, may be cut, and have a swatch."""
    rows = StockRow.objects.filter(shop=project.shop_id, sheets__count__gt=0).exclude(pk__in=used).distinct().order_by("pk")
    looks = {str(row.pk): look for row in rows if (look := _swatch(row)) is not None}
    there = convert.measured_stocks(project, [int(k) for k in looks]).stocks
    return tuple(OnShelf(ref=s.ref, look=looks[k], t=s.thickness.value) for k, s in there.items() if s.hazard is None)


def _built_from(design: Design, measured: Measured) -> str:
    """Return the fingerprint of what parts depend on: kerf by way of the fits and of pieces that fall out of others, no chance or date."""
    used = [(k, measured.stocks[k]) for k in design.stock_ids() if k in measured.stocks]
    stocks = {k: (s.name, s.material, s.label, s.thickness, s.hazard, s.kerf if design.uses_kerf else None) for k, s in used}
    return fingerprint(design.shape, stocks, measured.fits.known, measured.bed)


def assembly_for(project: Project, design: Design, *, measured: Measured) -> Assembly:
    """Return the assembly, from memory when the same was built before in this process."""
    return _built_for(project, design, measured=measured).assembly


def _built_for(project: Project, design: Design, *, measured: Measured) -> Built:
    # A drawing never changes, but a project sees only its own.
    key = _built_from(design, measured) + (f" of {project.pk}" if design.drawing_ids() else "")
    with _lock:
        if key in _kept:
            _kept.move_to_end(key)
            return _kept[key]
        mine = _building.setdefault(key, Lock())
    with mine:  # a page asks for several things of a new revision at once: one request builds, the others wait for it
        with _lock:
            if key in _kept:
                return _kept[key]
        built = Built(_made(project, design, measured=measured))
        with _lock:
            _kept[key] = built
            _building.pop(key, None)
            while len(_kept) > KEPT_ASSEMBLIES:
                _kept.popitem(last=False)
    return built


def _made(project: Project, design: Design, *, measured: Measured) -> Assembly:
    if design.several:
        return whole_of(members_for(project, design, measured=measured))
    return build(design, measured.stocks, fits=measured.fits, drawings=convert.drawings_for(project, design), bed=measured.bed)


def members_for(project: Project, design: Design, *, measured: Measured) -> tuple[Member, ...]:
    """Return the items; one that nobody touched comes from memory."""
    return members_of(design, lambda body: assembly_for(project, body, measured=measured))


def current(project: Project) -> Current:
    """Return the project with everything that follows from its head revision and today's evidence."""
    revision = Revision.objects.select_related("author").get(project=project, number=project.head)
    design = convert.design_of(revision)
    return Current(project=project, revision=revision, design=design, measured=convert.measured_for(project, design))


def images_of(now: Current) -> dict[str, str]:
    """Return the grey images that a design engraves, by drawing."""
    return {k: d.image for k, d in convert.drawings_for(now.project, now.design).items() if d.image}


def result_of(now: Current, stage: Stage) -> StageResult | None:
    """Return what the dry fit or the packing came to for the parts as they are now; else its newest result, which is then out of date."""
    return kept_for(now.project, stage, made_from=lambda: now.checked_from if stage is Stage.DRY_FIT else now.parts_print)


def kept_for(project: Project, stage: Stage, *, made_from: Callable[[], str]) -> StageResult | None:
    """Return a stage's result that was made from something, else its newest one; None while there is none at all."""
    rows = StageResult.objects.filter(project=project, stage=stage).order_by("-created", "-pk")
    newest = rows.first()
    if newest is None or newest.made_from == (wanted := made_from()):
        return newest
    return rows.filter(made_from=wanted).first() or newest

"""Dry fit: checking a project, carrying out repairs, steps, what-if, and what was noted of a trial in scrap."""

from __future__ import annotations

import time
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import replace
from threading import Lock

from apps.accounts.models import Member
from apps.designs import convert, queries
from apps.designs.models import Project, Stage, TrialNote
from apps.designs.queries import Current
from apps.designs.services import SavedMeanwhile, keep_result, save_design
from notchcore.check.dry_fit import DryFit
from notchcore.check.steps import GuideStep, guide
from notchcore.check.whole import whole_fit
from notchcore.design.design import Design
from notchcore.design.items import Member as Fitted
from notchcore.design.mending import mended_project
from notchcore.errors import DesignError, MeasureError
from notchcore.findings import Finding, Repair, Severity
from notchcore.fingerprint import fingerprint
from notchcore.trace.photo import kept_image
from notchcore.words.facts import Sentence
from notchcore.words.render import plain, say

PROVEN_PARTS = 24  # repairs of more parts are carried out without being tried first: that would take too long
KEPT_GUIDES = 32
KEPT_ITEMS = 128
BUDGET_S = 60.0  # for the search for an order
ASK_S = 0.5
MOST_NOTES = 500
_guides: OrderedDict[str, tuple[GuideStep, ...]] = OrderedDict()
_items: OrderedDict[str, DryFit] = OrderedDict()
_lock = Lock()


def _checked(now: Current, design: Design, *, stop: Callable[[], bool] = lambda: False) -> DryFit:
    measured = now.measured if design is now.design else convert.measured_for(now.project, design)
    around = None if design.is_test else queries.around_of(now.project, design, measured=measured)
    since = time.monotonic()

    def out_of_time() -> bool:
        return time.monotonic() - since > BUDGET_S or stop()

    at = now if design is now.design else replace(now, design=design, measured=measured)

    def known(member: Fitted, fit: Callable[[], DryFit]) -> DryFit:
        """An item that nobody touched was fitted before."""
        key = f"{at.of(member.id).checked_from} of {now.project.pk}"  # a project sees only its own drawings
        with _lock:
            if key in _items:
                _items.move_to_end(key)
                return _items[key]
        made = fit()
        if not out_of_time():
            with _lock:
                _items[key] = made
                while len(_items) > KEPT_ITEMS:
                    _items.popitem(last=False)
        return made

    return whole_fit(at.members, measured.stocks, fits=measured.fits, around=around, stop=out_of_time, known=known if design.items else None)


def _stops(stop: Callable[[], bool]) -> Callable[[], bool]:
    """Return the same question, put to the database now and then only."""
    last = [time.monotonic(), False]

    def asked() -> bool:
        if not last[1] and time.monotonic() - last[0] > ASK_S:
            last[:] = [time.monotonic(), stop()]
        return bool(last[1])

    return asked


def check(project: Project, stop: Callable[[], bool] = lambda: False) -> DryFit:
    """Run the dry fit on the head revision and keep the result; after its time, or when somebody wants an end, with what was found by then."""
    now = queries.current(project)
    asked = _stops(stop)
    found = _checked(now, now.design, stop=asked)
    keep_result(
        project=project, stage=Stage.DRY_FIT, made_from=now.checked_from, revision=now.revision.number, payload=convert.DRY_FIT.dump_python(found, mode="json")
    )
    return found


def guide_of(now: Current, found: DryFit) -> tuple[GuideStep, ...]:
    """Return the steps of assembly in the design's order, from memory when nothing changed."""
    key = fingerprint(now.checked_from, now.design.order, now.design.apart, now.design.notes)
    with _lock:
        if key in _guides:
            return _guides[key]
    made = guide(now.assembly, found.order, stocks=now.stocks, wanted=now.design.order, apart=now.design.apart, notes=now.design.notes)
    with _lock:
        _guides[key] = made
        while len(_guides) > KEPT_GUIDES:
            _guides.popitem(last=False)
    return made


def _keys(fit: DryFit) -> dict[tuple[object, ...], Finding]:
    return {f.key: f for f in (*fit.findings, *fit.cautions) if f.severity is not Severity.FINE}


def _name_of(now: Current, finding: Finding, *, wanted: Repair) -> Sentence:
    """Return what a repair was called where it was offered."""
    row = queries.result_of(now, Stage.DRY_FIT)
    offered = _keys(convert.DRY_FIT.validate_python(row.payload)).get(finding.key) if row is not None else None
    asked = (wanted.kind, wanted.targets, wanted.values)
    same = (r.says for r in offered.repairs if (r.kind, r.targets, r.values) == asked) if offered is not None else ()
    return next(iter(same), say("mend.asked"))


def repair(*, project: Project, member: Member, base: int, finding: Finding, wanted: Repair) -> Project:
    """Carry out a repair as one revision, after having tried that it removes its finding and adds none.

    Raises:
        SavedMeanwhile: `base` is no longer the head
        DesignError: it does not belong to the design, or does not help here; nothing is changed
    """
    now = queries.current(project)
    if now.revision.number != base:
        raise SavedMeanwhile(head=now.revision)
    design = mended_project(now.design, finding.item, repair=wanted)
    name = _name_of(now, finding, wanted=wanted)
    if len(now.assembly.parts) <= PROVEN_PARTS:
        before, after = _keys(_checked(now, now.design)), _keys(_checked(now, design))
        if finding.key not in before:
            raise DesignError(say("mended_already"))
        if finding.key in after:
            raise DesignError(say("repair_does_not_cure", repair=name))
        # Of a design that could not be built nothing else was known: what it then shows to look at is not the repair's doing.
        grave = (Severity.MUST,) if not now.assembly.parts else (Severity.MUST, Severity.LOOK)
        added = [f.says for k, f in after.items() if k not in before and f.severity in grave]
        if added:
            raise DesignError(say("repair_brings_new", repair=name, new=added[0]))
    return save_design(project_id=project.pk, member=member, base=base, design=design, label=plain(say("revision.mended", what=name)))


def note(*, project: Project, member: Member, about: str, feel: str, text: str, photo: bytes | None) -> TrialNote:
    """Write down what was felt or seen on a trial.

    Raises:
        MeasureError: there is nothing to write down, or the photo is none
    """
    if not (text.strip() or feel or photo):
        raise MeasureError(say("note_empty"))
    if project.trial_notes.count() >= MOST_NOTES:
        raise MeasureError(say("notes_most", most=MOST_NOTES))
    picture = kept_image(photo)[0] if photo else ""
    return TrialNote.objects.create(
        project=project, revision=project.head, about=about[:200], feel=feel, text=text.strip()[:2000], photo=picture, author=member.user
    )

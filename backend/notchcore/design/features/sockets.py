"""Sockets: what stands in each, how tightly, and the meeting that it is, with a ledger and chances like any joint."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace

from notchcore.design.assembly import Meeting, Part
from notchcore.design.features.registry import Feature
from notchcore.design.features.values import Socket
from notchcore.design.joints.choice import MeetingChoice
from notchcore.design.panel import Panel, resolved
from notchcore.design.styles import Style
from notchcore.geom.profile import bounds_of
from notchcore.ids import MeetingId
from notchcore.ledger import Quantity, Term, TermKind, Trust, total
from notchcore.measure.fit import NO_FITS, Feel, Fits, clearance_for
from notchcore.measure.stock import Stock
from notchcore.units import Mm
from notchcore.words.render import say


@dataclass(frozen=True, slots=True, kw_only=True)
class Fitted:
    """What a socket is cut for."""

    width: Quantity  #: across: the sheet and its clearance
    run: Quantity  #: along
    clearance: Quantity
    feel: Feel
    sheet: Stock  #: that stands in it


@dataclass(frozen=True, slots=True, kw_only=True)
class Fitting:
    """What decides how sockets fit: measured boundaries, and what a person chose for single ones."""

    fits: Fits = NO_FITS
    choices: Mapping[str, MeetingChoice] | None = None

    def of(self, socket: Socket, host: Panel, *, panels: Mapping[str, Panel], stocks: Mapping[str, Stock]) -> Fitted:
        """Return how a socket fits what stands in it: its mate, or a loose sheet of the host's own stock."""
        mate = panels.get(socket.mate) if socket.mate and socket.mate != host.id else None
        sheet, own = stocks[mate.stock if mate is not None else host.stock], stocks[host.stock]
        choice = (self.choices or {}).get(meeting_of(socket, socket.panel))
        feel = choice.feel if choice is not None and choice.feel is not None else socket.feel
        by_hand = choice.clearance if choice is not None else None
        clearance = (
            clearance_for(feel, self.fits.between(own.key, sheet.key))
            if by_hand is None
            else total((Term(kind=TermKind.FIT, label=say("term.clearance.by_hand"), value=by_hand, source=say("from.design"), trust=Trust.CHOSEN),))
        )
        width = total((replace(sheet.thickness.terms[0], label=say("term.sheet_in_socket")), *clearance.terms))
        return Fitted(width=width, run=_run(socket, mate, panels=panels, clearance=clearance), clearance=clearance, feel=feel, sheet=sheet)


def _run(socket: Socket, mate: Panel | None, *, panels: Mapping[str, Panel], clearance: Quantity) -> Quantity:
    """Return the length of a socket: as typed, or as wide as what stands in it."""
    if socket.run > 0:
        return total((Term(kind=TermKind.SIZE, label=say("term.length"), value=socket.run, source=say("from.design"), trust=Trust.CHOSEN),))
    if mate is None:
        return total((Term(kind=TermKind.SIZE, label=say("term.length"), value=LOOSE_RUN, source=say("from.default.loose_sheet"), trust=Trust.DEFAULT),))
    x0, _, x1, _ = bounds_of(resolved(mate, panels).envelope.outer)
    wide = Term(kind=TermKind.SIZE, label=say("term.width_of", part=mate.label), value=x1 - x0, source=say("from.design"), trust=Trust.EXACT)
    return total((wide, *clearance.terms))


LOOSE_RUN: Mm = 30.0  # of a socket without a mate and without a length


def meeting_of(socket: Socket, host: str) -> str:
    """Return the id of the meeting that a socket is."""
    return str(MeetingId(host, str(socket.mate), socket.id))


def socket_meetings(
    features: Iterable[Feature], parts: tuple[Part, ...], *, panels: Mapping[str, Panel], stocks: Mapping[str, Stock], fitting: Fitting
) -> tuple[Meeting, ...]:
    """Return a meeting for each socket with a mate, both of which are there: also those in copies, and in pieces of divided panels.

    What is chosen for a socket holds for its copies.
    """
    found = []
    for f in features:
        mate = _piece(f.mate, parts) if isinstance(f, Socket) and f.mate != f.panel else None
        if not isinstance(f, Socket) or mate is None:
            continue
        own = meeting_of(f, f.panel)
        for host in (panels[p.id] for p in parts if p.id in panels):
            if host.id == mate or not any(o.feature == f.id for o in host.openings):
                continue
            fitted = fitting.of(f, host, panels=panels, stocks=stocks)
            found.append(
                Meeting(
                    id=meeting_of(f, host.id),
                    kind="socket",
                    a=host.id,
                    b=mate,
                    style=Style.SLOT,
                    angle_deg=90.0,
                    length=fitted.run.value,
                    feel=fitted.feel,
                    clearance=fitted.clearance,
                    kerf_share=1.0,
                    thickness_sd=fitted.sheet.thickness.sd,
                    kerf_stock=host.stock,
                    count=1,
                    follows="" if host.id == f.panel else own,
                )
            )
    return tuple(found)


def _piece(panel: str, parts: tuple[Part, ...]) -> str | None:
    """Return a panel's part, or of one that is divided the first piece."""
    return next((p.id for p in parts if p.panel == panel), None)

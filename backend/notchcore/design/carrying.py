"""What lies on panels goes along with them: features and copies, in the order in which they depend on each other.

A copy is taken of the plain panel and gets every feature of the original again, mirrored where the copy is; a piece that falls out
of an opening is a panel, so that features, copies and panels on its face can stand on it.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from enum import StrEnum

from notchcore.design.arrangement import Arrangement
from notchcore.design.copies import copied
from notchcore.design.edits import Added, CopyOf, OnSeen, PanelEdit, changed, left_out, lost, stood, waits
from notchcore.design.features import placed
from notchcore.design.features.drawing import Drawing
from notchcore.design.features.placed import AS_USUAL, Put
from notchcore.design.features.registry import Feature, mate_of
from notchcore.design.features.sockets import Fitting
from notchcore.design.panel import MeetingRule, Panel
from notchcore.design.plates import OnFace, of_plate, spacer_label
from notchcore.design.uprights import Upright
from notchcore.design.visible import Frame, visible_frame
from notchcore.errors import DesignError
from notchcore.findings import Finding
from notchcore.measure.stock import Stock
from notchcore.words.render import say


class Places(StrEnum):
    """What the places of features count from."""

    VISIBLE = "visible"  # the box around what is seen of a panel
    ENVELOPE = "envelope"  # ... with tabs and feet that are hidden in its mates: designs made before there was another way


@dataclass
class _Bench:
    """Panels on their way, and what waits to be put on them."""

    panels: dict[str, Panel]
    ghosts: dict[str, Panel]
    edits: Mapping[str, PanelEdit]
    stocks: Mapping[str, Stock]
    drawings: Mapping[str, Drawing]
    findings: list[Finding]
    plain: dict[str, Panel]  #: panels before anything was put on them
    added: tuple[Added, ...] = ()
    rules: tuple[MeetingRule, ...] = ()
    places: Places = Places.VISIBLE
    fitting: Fitting = AS_USUAL
    puts: dict[str, list[Put]] = field(default_factory=dict)  #: by panel, in order
    frames: dict[str, Frame] = field(default_factory=dict)  #: what is seen of panels, as far as it was asked for

    @property
    def everything(self) -> dict[str, Panel]:
        return {**self.ghosts, **self.panels}

    def frame(self, panel: str) -> Frame | None:
        """Return the box that places on a panel count from; None: with what is hidden, as it used to be."""
        return self.seen(panel) if self.places is Places.VISIBLE else None

    def seen(self, panel: str) -> Frame:
        """Return the box around what is seen of a panel."""
        if panel not in self.frames:
            self.frames[panel] = visible_frame(self.plain[panel], {**self.plain}, rules=self.rules)
        return self.frames[panel]

    def put(self, feature: Feature) -> None:
        panel = self.panels.get(feature.panel)
        if panel is None:  # a panel that is left out keeps what lies on it, for its copies
            findings: list[Finding] = []
            made, put = placed.put_on(
                self.ghosts[feature.panel],
                feature,
                everything=self.everything,
                stocks=self.stocks,
                drawings=self.drawings,
                findings=findings,
                visible=self.frame(feature.panel),
                fitting=self.fitting,
            )
            self.ghosts[feature.panel] = made[0]
            self.findings.append(placed.lost(feature))
        else:
            made, put = placed.put_on(
                panel,
                feature,
                everything=self.everything,
                stocks=self.stocks,
                drawings=self.drawings,
                findings=self.findings,
                visible=self.frame(feature.panel),
                fitting=self.fitting,
            )
            self._keep(made)
        if put is not None:
            self.puts.setdefault(feature.panel, []).append(put)

    def _keep(self, made: list[Panel]) -> None:
        """Take in a panel with what was put on it, and the pieces that fall out."""
        self.panels[made[0].id] = made[0]
        for fallen in made[1:]:
            edit = self.edits.get(fallen.id)
            piece = changed(fallen, edit, others=self.everything, stocks=self.stocks, drawings=self.drawings, findings=self.findings, rules=self.rules)
            self.plain[piece.id] = piece
            (self.ghosts if edit is not None and edit.gone else self.panels)[piece.id] = piece

    def stand(self, item: Added) -> None:
        if isinstance(item, CopyOf):
            new = tuple(self._copy(one) for one in (item, *self._spacers_of(item)))
        else:
            counts = isinstance(item, Upright) or (isinstance(item, OnFace) and item.from_corner)
            seen = self.seen(item.host)[:2] if isinstance(item, OnSeen) and counts else (0.0, 0.0)
            new = stood(
                item,
                self.added,
                panels=self.panels,
                ghosts=self.ghosts,
                edits=self.edits,
                stocks=self.stocks,
                drawings=self.drawings,
                findings=self.findings,
                corner=seen,
                rules=self.rules,
            )
            self.plain |= {name: self.panels[name] for name in new}
        for name in new:
            if left_out(name, self.edits):
                self.ghosts[name] = self.panels.pop(name)

    def _spacers_of(self, item: CopyOf) -> list[CopyOf]:
        """Return the copies of the spacers under a plate that is copied, but for those that a person left out."""
        there = [k for k in self.plain if k != item.of and of_plate(k) == item.of and not (k in self.edits and self.edits[k].gone)]
        return [replace(item, id=item.id + k.removeprefix(item.of), of=k, label=spacer_label(item.label, k)) for k in there]

    def _copy(self, item: CopyOf) -> str:
        edit = self.edits.get(item.id)
        copy = copied(item, self.plain[item.of], panels=self.everything)
        self.panels[item.id] = self.plain[item.id] = changed(
            copy, edit, others=self.everything, stocks=self.stocks, drawings=self.drawings, findings=self.findings, rules=self.rules
        )
        puts = []
        for put in self.puts.get(item.of, ()):
            if edit is not None and edit.across:  # its plane is a quarter turned: places count anew
                made, anew = placed.put_on(
                    self.panels[item.id],
                    replace(put.feature, panel=item.id),
                    everything=self.everything,
                    stocks=self.stocks,
                    drawings=self.drawings,
                    findings=self.findings,
                    visible=self.frame(item.id),
                    fitting=self.fitting,
                )
                again = anew or put
            else:
                made, again = placed.put_again(self.panels[item.id], put, everything=self.everything, findings=self.findings, mirrored=_flips(item, edit))
            self._keep(made)
            puts.append(again)
        self.puts[item.id] = puts
        return item.id


def _flips(item: CopyOf, edit: PanelEdit | None) -> bool:
    """Tell whether a copy's own plane runs the other way than its original's: mirrored, or turned over by hand, but not both."""
    return (item.mirror is not None) != (edit is not None and edit.turned)


def carried(
    plan: Arrangement,
    features: tuple[Feature, ...],
    *,
    added: tuple[Added, ...],
    edits: Mapping[str, PanelEdit],
    stocks: Mapping[str, Stock],
    drawings: Mapping[str, Drawing],
    places: Places = Places.VISIBLE,
    fitting: Fitting = AS_USUAL,
) -> Arrangement:
    """Return the arrangement with features, copies and what stands on those; what has no place any more is a finding.

    Args:
        added: panels that a person added; those that stand already are passed over
        drawings: those that artwork names, by id
        places: what places of features count from
        fitting: how tightly sheets stand in sockets

    Raises:
        DesignError: two features have one name
    """
    if not plan.panels:
        return plan
    if len({f.id for f in features}) != len(features):
        raise DesignError(say("two_features_of_one_name"))
    panels, ghosts = {p.id: p for p in plan.panels}, {p.id: p for p in plan.ghosts}
    bench = _Bench(
        panels=panels,
        ghosts=ghosts,
        edits=edits,
        stocks=stocks,
        drawings=drawings,
        findings=list(plan.findings),
        plain={**ghosts, **panels},
        added=added,
        rules=plan.rules,
        places=places,
        fitting=fitting,
    )
    told = {str(f.facts.get("panel")) for f in plan.findings}
    waiting = [a for a in added if a.id not in bench.everything and a.id not in told]
    left = list(features)
    while True:
        coming = {a.id for a in waiting}
        ready = [f for f in left if f.panel in bench.everything and mate_of(f) not in coming]
        for f in ready:
            bench.put(f)
        left = [f for f in left if f not in ready]
        if ready:
            continue  # what lies on a piece that has just fallen out comes before a copy of it
        item = next((a for a in waiting if not waits(a, bench.everything)), None)
        if item is None:
            break
        bench.stand(item)
        waiting.remove(item)
    for f in [f for f in left if f.panel in bench.everything]:  # what it is made for never came
        bench.put(f)
        left.remove(f)
    findings = [*bench.findings, *(lost(a, bench.everything) for a in waiting), *(placed.lost(f) for f in left)]
    return replace(plan, panels=tuple(bench.panels.values()), ghosts=tuple(bench.ghosts.values()), findings=tuple(findings))

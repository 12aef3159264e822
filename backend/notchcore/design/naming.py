"""What parts, and sentences about them, are called in a whole project: after the item that they belong to."""

from __future__ import annotations

from dataclasses import dataclass, replace

from notchcore.findings import Finding, Place
from notchcore.ids import in_item, is_in_item, meeting_in_item
from notchcore.words.facts import Fact, Kind, Listed, Names, Ref, Sentence, Span
from notchcore.words.render import say


@dataclass(frozen=True, slots=True, kw_only=True)
class Owner:
    """An item that things are named after."""

    id: str  #: "" for the first, whose parts keep their names
    label: str

    def named(self, part: str, label: str) -> str:
        """Return what a part is called; one of an item that is joined to this one is named after that already."""
        return f"{self.label}: {label}" if self.label and not is_in_item(part) else label


def told_of(finding: Finding, owner: Owner) -> Finding:
    """Return a finding about one item as it is told of the whole project: its repairs stay those of the item."""
    says = readdressed(finding.says, owner)
    if finding.field is not None and not finding.parts and owner.label and not finding.item:
        says = say("of_item", item=owner.label, says=says)  # it speaks of a number: of whose
    if not owner.id:
        return replace(finding, says=says)
    own = owner.id

    def place(p: Place) -> Place:
        return replace(p, part=in_item(own, p.part))

    return replace(
        finding,
        item=finding.item or own,  # of one that is joined to this, it is told already
        says=says,
        parts=tuple(in_item(own, p) for p in finding.parts),
        meeting=meeting_in_item(own, finding.meeting) if finding.meeting else None,
        place=place(finding.place) if finding.place else None,
        places=tuple(map(place, finding.places)),
    )


def readdressed(says: Sentence, owner: Owner) -> Sentence:
    """Return a sentence about one item with the names that its parts have in the whole project."""
    return Sentence(says.key, {k: _fact(f, owner) for k, f in says.facts.items()}, tuple(_span(s, owner) for s in says.spans))


def _fact(fact: Fact, owner: Owner) -> Fact:
    match fact:
        case Ref():
            return _ref(fact, owner)
        case Names(refs=refs):
            return replace(fact, refs=tuple(_ref(r, owner) for r in refs))
        case Sentence():
            return readdressed(fact, owner)
        case Listed(sentences=some):
            return replace(fact, sentences=tuple(readdressed(s, owner) for s in some))
        case _:
            return fact


def _ref(ref: Ref, owner: Owner) -> Ref:
    if not owner.id:
        return replace(ref, label=owner.named(ref.id, ref.label)) if ref.kind is Kind.PART else ref
    if ref.kind is Kind.PART:
        return Ref(ref.kind, in_item(owner.id, ref.id), owner.named(ref.id, ref.label))
    return replace(ref, id=meeting_in_item(owner.id, ref.id)) if ref.kind is Kind.MEETING else ref


def _span(span: Span, owner: Owner) -> Span:
    if span.ref is None:
        return span
    if owner.id and span.ref.kind is Kind.FEATURE:
        return replace(span, ref=None)  # it is found where its item is open
    ref = _ref(span.ref, owner)
    return replace(span, ref=ref, text=ref.label if span.text == span.ref.label else span.text)

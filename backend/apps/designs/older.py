"""Values as earlier landings wrote them, as they are written now: for migrations, and for projects that come in from a file."""

from __future__ import annotations

from typing import Any


def with_materials(stored: Any) -> Any:
    """Return what a project's file holds, with the material of its stocks that was once called their family."""
    if not isinstance(stored, dict) or not isinstance(stored.get("stocks"), dict):
        return stored
    stocks = {k: {"material": s["family"], **s} if isinstance(s, dict) and "family" in s else s for k, s in stored["stocks"].items()}
    return stored | {"stocks": stocks}


def sentence(text: str, spans: Any = None) -> dict[str, Any]:
    """Return a text as a sentence."""
    plain = [{"text": text, "mm": [], "digits": 0, "ref": None, "of": "length"}] if text else []
    return {"key": "as_written", "facts": {"text": text}, "spans": [{"of": "length", **s} for s in spans] if spans else plain}


def with_sentences(stored: Any) -> Any:
    """Return a stored value whose findings, repairs, notes, ledgers, ways of lying and parts without a place say what they say as sentences."""
    if isinstance(stored, list):
        return [with_sentences(v) for v in stored]
    if not isinstance(stored, dict):
        return stored
    made = {k: v if k in ("says", "segments") else with_sentences(v) for k, v in stored.items()}
    if "code" in made and isinstance(made.get("message"), str):  # a finding, or a note of a drawing
        said = made.pop("says", None)
        made["says"] = sentence(made.pop("message"), made.pop("segments", None))
        if isinstance(said, dict) and {"key", "facts"} <= said.keys() and not _nested(said["facts"]):
            made["says"] |= {"key": said["key"], "facts": said["facts"]}
    elif {"label", "kind", "targets", "values"} <= made.keys():
        made["says"] = sentence(made.pop("label"))
    elif {"kind", "marks", "turns"} <= made.keys():
        for name in ("why", "words"):
            if isinstance(made.get(name), str):
                made[name] = sentence(made[name]) if made[name] else None
    elif {"kind", "label", "value", "sd", "trust"} <= made.keys() and isinstance(made["label"], str):  # a line of a ledger
        made["label"] = sentence(made["label"])
        made["source"] = sentence(made["source"]) if made.get("source") else None
    elif {"part", "count", "why"} <= made.keys() and isinstance(made["why"], str):
        made["why"] = sentence(made["why"])
    return made


def _nested(facts: Any) -> bool:
    """Tell whether sentences are facts of a sentence: those had no pieces of their own."""
    if isinstance(facts, list):
        return any(map(_nested, facts))
    return isinstance(facts, dict) and ("key" in facts or any(map(_nested, facts.values())))

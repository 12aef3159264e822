"""How shapes of an SVG file look: from attributes, style sheets and the groups they are in."""

from __future__ import annotations

import re
import xml.etree.ElementTree as ET
from dataclasses import dataclass, field

INHERITED = ("stroke", "fill", "visibility", "color", "font-size", "text-anchor")
OWN = ("display", "opacity", "clip-path", "mask")
NOTHING = ("none", "transparent")
MOST_CSS = 200_000  # characters
MOST_ALIKE = 50  # rules for different elements with one mark in common
_RULE = re.compile(r"([^{}]{1,400})\{([^{}]{0,4000})\}")
_SIMPLE = re.compile(r"(\*|[\w-]+)?((?:[.#][\w-]+)*)")
Style = dict[str, str]


@dataclass(slots=True)
class Rule:
    """What a style sheet says of elements with a name, an id and classes; empty ones do not matter."""

    tag: str
    marks: frozenset[str]  #: "#id" and ".class"
    weight: tuple[int, int, int, int]  #: the more particular, then the later one counts
    said: Style


@dataclass
class StyleSheet:
    """Rules, found by one mark or the name that an element must have for them."""

    rules: dict[tuple[str, frozenset[str]], Rule] = field(default_factory=dict)
    found_by: dict[str, list[Rule]] = field(default_factory=dict)

    def read(self, css: str) -> None:
        """Take in the rules for single elements; those for elements in others, and with conditions, are passed over."""
        for names, body in _RULE.findall(re.sub(r"/\*.*?\*/", "", css[:MOST_CSS], flags=re.DOTALL)):
            for name in names.split(","):
                *around, last = name.replace(">", " ").split() or [""]
                simple = _SIMPLE.fullmatch(last) if set(around) <= {"svg", "*"} else None
                if simple and simple.group():
                    self._add("" if simple.group(1) in (None, "*") else simple.group(1), re.findall(r"[.#][\w-]+", simple.group(2)), declared(body))

    def _add(self, tag: str, marks: list[str], said: Style) -> None:
        key = (tag, frozenset(marks))
        if key not in self.rules:
            some = self.found_by.setdefault(min(marks, default=tag or "*"), [])
            if len(some) == MOST_ALIKE:
                return
            self.rules[key] = Rule(tag, key[1], (0, 0, 0, 0), {})
            some.append(self.rules[key])
        rule = self.rules[key]
        rule.weight = (sum(m[0] == "#" for m in marks), sum(m[0] == "." for m in marks), int(bool(tag)), len(self.rules))
        rule.said |= said

    def said(self, name: str, e: ET.Element) -> Style:
        """Return what the rules say of an element, the more particular ones last."""
        if not self.rules:
            return {}
        marks = {f".{c}" for c in e.get("class", "").split()} | ({f"#{e.get('id')}"} if e.get("id") else set())
        some = [rule for key in (*marks, name, "*") for rule in self.found_by.get(key, ()) if rule.tag in ("", name) and rule.marks <= marks]
        found: Style = {}
        for rule in sorted(some, key=lambda rule: rule.weight):
            found |= rule.said
        return found


def declared(text: str) -> Style:
    """Return what a list of declarations says."""
    pairs = (d.partition(":") for d in text.split(";"))
    return {k.strip().lower(): v.replace("!important", "").strip() for k, _, v in pairs if v}


def style_of(e: ET.Element, name: str, sheet: StyleSheet, above: Style) -> Style:
    """Return how an element looks, inside something that looks like `above`."""
    style = {k: above[k] for k in INHERITED if k in above}
    style |= {k: e.get(k, "").strip() for k in (*INHERITED, *OWN) if e.get(k)}
    style |= sheet.said(name, e) | declared(e.get("style", ""))
    return {k: above.get(k, "") if v == "inherit" else v for k, v in style.items()}


def hidden(style: Style) -> bool:
    """Tell whether nothing in an element is to be seen."""
    return style.get("display") == "none" or style.get("opacity", "1").strip("%") in ("0", "0.0", ".0")


def colour_of(style: Style) -> str:
    """Return the colour of a shape's line or, without one, of its area; empty when it has neither."""
    for said in (style.get("stroke") or "none", style.get("fill") or "black"):
        if said.lower() not in NOTHING:
            return style.get("color", "black") if said.lower() == "currentcolor" else said
    return ""

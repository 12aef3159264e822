"""How shapes of an SVG file look: from attributes, style sheets and the groups they are in."""

from __future__ import annotations

import contextlib
import xml.etree.ElementTree as ET
from collections.abc import Iterable
from dataclasses import dataclass, field

import cssselect2
import tinycss2

INHERITED = ("stroke", "fill", "visibility", "color", "font-size", "text-anchor")
OWN = ("display", "opacity", "clip-path", "mask")
NOTHING = ("none", "transparent")
MOST_CSS = 200_000  # characters
MOST_RULES = 5_000
LOOKED_AT = 1_600_000  # rules that are compared with an element, over all elements: two or three seconds
Style = dict[str, str]


@dataclass
class StyleSheet:
    """The rules of all style sheets of a file, and what they say of each element; those with conditions are passed over."""

    matcher: cssselect2.Matcher = field(default_factory=cssselect2.Matcher)
    rules: int = 0
    _said: dict[ET.Element, tuple[Style, Style]] = field(default_factory=dict)

    def read(self, css: str) -> None:
        """Take in a style sheet; what is wrong in it, or beyond MOST_RULES, is left out."""
        for rule in tinycss2.parse_stylesheet(css[:MOST_CSS], skip_comments=True, skip_whitespace=True):
            if rule.type != "qualified-rule" or self.rules >= MOST_RULES:
                continue
            self.rules += 1
            with contextlib.suppress(cssselect2.SelectorError):
                said = tuple(_declarations(rule.content))
                for selector in cssselect2.compile_selector_list(rule.prelude):
                    if selector.pseudo_element is None:
                        self.matcher.add_selector(selector, said)

    def look_at(self, root: ET.Element) -> bool:
        """Find what the rules say of every element; False when there was too much to compare, and some stay without."""
        left = LOOKED_AT
        for element in cssselect2.ElementWrapper.from_xml_root(root).iter_subtree() if self.rules else ():
            left -= self._compared(element)
            if left < 0:
                return False
            plain: Style = {}
            urgent: Style = {}
            for _, _, _, said in self.matcher.match(element):  # the more particular ones last
                for name, value, important in said:
                    (urgent if important else plain)[name] = value
            if plain or urgent:
                self._said[element.etree_element] = plain, urgent
        return True

    def _compared(self, element: cssselect2.ElementWrapper) -> int:
        """Return with how many rules an element is compared."""
        m = self.matcher
        some = [m.id_selectors.get(element.id), m.lower_local_name_selectors.get(element.local_name.lower()), m.other_selectors]
        return sum(len(rules) for rules in (*some, *(m.class_selectors.get(c) for c in element.classes)) if rules)

    def said(self, e: ET.Element) -> tuple[Style, Style]:
        """Return what the rules say of an element, and what of it counts more than the element's own word."""
        return self._said.get(e, ({}, {}))


def _declarations(tokens: list[tinycss2.ast.Node]) -> Iterable[tuple[str, str, bool]]:
    for d in tinycss2.parse_blocks_contents(tokens, skip_comments=True, skip_whitespace=True):
        if d.type == "declaration":
            yield d.lower_name, tinycss2.serialize(d.value).strip(), d.important


def declared(text: str) -> Style:
    """Return what a list of declarations says."""
    return {name: value for name, value, _ in _declarations(tinycss2.parse_component_value_list(text))} if text else {}


def style_of(e: ET.Element, sheet: StyleSheet, *, above: Style) -> Style:
    """Return how an element looks, inside something that looks like `above`."""
    style = {k: above[k] for k in INHERITED if k in above}
    style |= {k: e.get(k, "").strip() for k in (*INHERITED, *OWN) if e.get(k)}
    plain, important = sheet.said(e)
    style |= plain | declared(e.get("style", "")) | important
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

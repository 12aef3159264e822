"""A language made for the tests: English with accents, a third longer, in brackets. What stands outside the brackets is not in a catalogue."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from playwright.sync_api import Page, Route

ENGLISH = Path(__file__).parent.parent / "frontend" / "src" / "words" / "english"
LANGUAGE = "en-XA"
_ACCENTS = str.maketrans("aceinosuyACEINOSUY", "áçéíñöšüýÁÇÉÍÑÖŠÜÝ")
#: what the server sends for people to read: names that they gave, and what its own catalogue says
_TOLD = frozenset(
    "author batch by caution colours counted detail entering family finish group label log maker mate name names options revision_label says shelf shop source "
    "sources text title username what wide words".split()
)
_ALL_TEXTS = """() => {
  const out = [];
  for (const e of document.querySelectorAll('body *')) {
    if (['SCRIPT', 'STYLE'].includes(e.tagName) || !e.checkVisibility({ visibilityProperty: true, opacityProperty: true })) continue;
    for (const a of ['aria-label', 'title', 'placeholder', 'alt']) if (e.hasAttribute(a)) out.push(e.getAttribute(a));
    for (const n of e.childNodes) if (n.nodeType === 3 && n.data.trim()) out.push(n.data.trim());
  }
  return out;
}"""
_ALL_CUT = """() => [...document.querySelectorAll('body *')].filter((e) => {
  if (!e.checkVisibility() || !e.textContent.trim() || e instanceof SVGElement) return false;
  const css = getComputedStyle(e);
  return ['hidden', 'clip'].includes(css.overflowX) && e.scrollWidth > e.clientWidth + 1 && e.clientWidth > 1 && css.textOverflow !== 'ellipsis';
}).map((e) => `${e.tagName} ${e.className}: ${e.textContent.trim().slice(0, 60)}`)"""


def pseudo(message: str) -> str:
    """Return a message of the catalogue in the language of the tests; its facts and the syntax of its plurals stay."""
    out, depth = [], 0
    for c in message:
        depth += {"{": 1, "}": -1}.get(c, 0)
        out.append(c.translate(_ACCENTS) if depth % 2 == 0 else c)
    return f"⟦{''.join(out)}{'·' * (len(message) // 3)}⟧"


def catalogue() -> dict[str, dict[str, str]]:
    return {f.stem: {k: pseudo(v) for k, v in json.loads(f.read_text()).items()} for f in sorted(ENGLISH.glob("*.json"))}


def said(key: str) -> str:
    """Return a label that has no facts, as the language of the tests says it."""
    station, name = key.split(".")
    return catalogue()[station][name]


class Listener:
    """A page in the language of the tests, and all that its server told it."""

    def __init__(self, page: Page) -> None:
        self.page, self._heard = page, set[str]()
        page.route("**/api/**", self._hear)
        page.route(lambda url: "/api/" not in url and "/static/" not in url, self._in_tongue)
        page.route(f"**/words/{LANGUAGE}.json", lambda route: route.fulfill(json=catalogue()))

    @staticmethod
    def _in_tongue(route: Route) -> None:
        answer = route.fetch()
        route.fulfill(
            response=answer,
            body=answer.text().replace('lang="en"', f'lang="{LANGUAGE}"'),
        )

    def _hear(self, route: Route) -> None:
        answer = route.fetch()
        if answer.headers.get("content-type", "").startswith("application/json"):
            self._heard.update(_texts(answer.json()))
        route.fulfill(response=answer)

    def foreign(self) -> list[str]:
        """Return the texts in sight, or read out, that are neither in the catalogue nor the server's."""
        # first what stands there, then what was heard: an answer may come in while the page is read
        texts = self.page.evaluate(_ALL_TEXTS)
        heard = sorted(self._heard, key=len, reverse=True)
        return sorted({t for t in texts if re.search(r"[A-Za-z]{2}", _rest(t, heard))})

    def cut_off(self) -> list[str]:
        """Return what is wider than the place that it has."""
        over = self.page.evaluate("document.documentElement.scrollWidth - innerWidth")
        return ([f"the page, by {over} px"] if over > 0 else []) + self.page.evaluate(_ALL_CUT)


def _texts(data: Any, told: bool = False) -> Iterator[str]:
    if isinstance(data, dict):
        for key, value in data.items():
            yield from _texts(value, told or key in _TOLD)
    elif isinstance(data, list):
        for value in data:
            yield from _texts(value, told)
    elif told and isinstance(data, str) and len(data) > 1:
        yield data


def _rest(text: str, heard: list[str]) -> str:
    """Return what is left of a text without the catalogue's, the server's, and units."""
    while (without := re.sub(r"⟦[^⟦⟧]*⟧", " ", text)) != text:
        text = without
    for name in heard:
        if name in text:
            text = text.replace(name, " ")
    return re.sub(r"\b(mm|in|thou|min|kHz|ft|[0-9]{1,2} [A-Z][a-z]{2,3}|[A-Z][a-z]{2,3} [0-9]{1,2})\b", " ", text)

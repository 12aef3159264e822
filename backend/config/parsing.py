"""What comes in as JSON: only what any field can hold. Numbers without sense and signs that no database keeps are refused here, once."""

from __future__ import annotations

import json
from typing import Any, NoReturn

from django.http import HttpRequest
from ninja.parser import Parser

from apps.accounts.access import Refused
from notchcore.words.facts import Fact
from notchcore.words.render import say

LARGEST = 1e12  # of any number in a request: a thousand kilometres in millimetres, and far below what a column holds
DEEPEST = 60  # of a request's values in each other


def _refused(key: str, **facts: Fact) -> NoReturn:
    raise Refused(422, say("request.check", what=say(key, **facts)))


def _number(text: str) -> float:
    value = float(text)
    if not abs(value) <= LARGEST:
        _refused("request.number", number=text[:20])
    return value


def _whole(text: str) -> int:
    if len(text) > 14:
        _number(text[:400])
    return int(text)


def _checked(value: Any, depth: int = 0) -> None:
    if depth > DEEPEST:
        _refused("request.deep")
    if isinstance(value, str):
        if "\x00" in value:
            _refused("request.sign")
    elif isinstance(value, dict):
        for key, held in value.items():
            _checked(key, depth)
            _checked(held, depth + 1)
    elif isinstance(value, list):
        for held in value:
            _checked(held, depth + 1)


class SafeParser(Parser):
    """Reads the body of a request."""

    def parse_body(self, request: HttpRequest) -> Any:
        try:
            found = json.loads(request.body, parse_float=_number, parse_int=_whole, parse_constant=lambda text: _refused("request.no_number", number=text))
        except RecursionError:
            _refused("request.deep")
        _checked(found)
        return found

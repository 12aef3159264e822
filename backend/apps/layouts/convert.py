"""The packing as stored."""

from pydantic import TypeAdapter

from notchcore.nest.asked import Asked
from notchcore.nest.values import Nesting, NestRules

NESTING = TypeAdapter(Nesting)
RULES = TypeAdapter(NestRules)
ASKED = TypeAdapter(Asked)

"""The packing as stored."""

from pydantic import TypeAdapter

from notchcore.nest.values import Nesting, NestRules

NESTING = TypeAdapter(Nesting)
RULES = TypeAdapter(NestRules)

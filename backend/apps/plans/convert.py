"""The plan as stored."""

from pydantic import TypeAdapter

from notchcore.plan.cutplan import CutPlan

PLAN = TypeAdapter(CutPlan)

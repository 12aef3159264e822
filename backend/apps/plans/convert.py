"""The plan as stored."""

from pydantic import TypeAdapter

from notchcore.plan.cut_plan import CutPlan

PLAN = TypeAdapter(CutPlan)

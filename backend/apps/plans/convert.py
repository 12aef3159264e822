"""The plan as stored."""

from pydantic import TypeAdapter

from notchcore.plan.choices import PlanChoices
from notchcore.plan.cutplan import CutPlan

PLAN = TypeAdapter(CutPlan)
CHOICES: TypeAdapter[PlanChoices] = TypeAdapter(PlanChoices)

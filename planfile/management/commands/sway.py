"""``manage.py sway PLAN.json``: how the outfit of a plan file swings."""

from __future__ import annotations

from typing import Any

from mechanics.plan import Plan
from planfile.commands import PlanCommand
from planfile.convert import Scale
from planfile.sway_file import sway_document


class Command(PlanCommand):
    help = "Print how the outfit of a plan file swings (- reads standard input)."

    def answer(self, plan: Plan, unit: Scale) -> dict[str, Any]:
        """The sway file."""
        return sway_document(plan, unit)

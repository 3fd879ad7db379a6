"""``manage.py loading PLAN.json``: how each machine of a plan file gets on and off."""

from __future__ import annotations

from typing import Any

from mechanics.loading import loading
from mechanics.plan import Plan
from planfile.commands import PlanCommand
from planfile.convert import Scale
from planfile.loading_file import loading_document


class Command(PlanCommand):
    help = "Print how each machine of a plan file gets on and off (- reads standard input)."

    def answer(self, plan: Plan, unit: Scale) -> dict[str, Any]:
        """The loading file."""
        return loading_document(loading(plan), unit)

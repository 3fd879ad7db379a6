"""``manage.py evaluate PLAN.json``: the report of a plan file, with no database."""

from __future__ import annotations

from typing import Any

from mechanics.plan import Plan
from mechanics.report import evaluate
from planfile.commands import PlanCommand
from planfile.convert import Scale
from planfile.writing import report_document


class Command(PlanCommand):
    help = "Print the report of a plan file (- reads standard input)."

    def answer(self, plan: Plan, unit: Scale) -> dict[str, Any]:
        """The report file."""
        return report_document(evaluate(plan), unit)

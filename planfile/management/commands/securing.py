"""``manage.py securing PLAN.json``: how the load of a plan file is tied down."""

from __future__ import annotations

from typing import Any

from mechanics.plan import Plan
from mechanics.securing import secure
from planfile.commands import PlanCommand
from planfile.convert import Scale, usual_school
from planfile.securing_file import securing_document


class Command(PlanCommand):
    help = "Print how the load of a plan file is tied down (- reads standard input)."

    def answer(self, plan: Plan, unit: Scale) -> dict[str, Any]:
        """The securing file."""
        return securing_document(secure(plan, usual_school(unit.words["mass"])), unit)

"""Straps: an empty view."""

from aspects.registry import Aspect, Ground, Panel
from measures import UnitSystem
from mechanics.report import Report
from wording.arithmetic import Why
from wording.figures import Figure


def panel(ground: Ground) -> Panel:
    """What stands beside the planner."""
    return Panel(template="example/_panel.html", it=len(ground.report.plan.items))


def straps(report: Report, unit: UnitSystem, number: int) -> Why:
    """One strap for each item."""
    return Why(terms=[], total=f"{len(report.plan.items)} straps", limit="", source="An example.")


ASPECTS = (
    Aspect(
        slug="straps",
        title="Straps",
        order=60,
        address="haul_straps",
        urls="aspects.tests.example.urls",
        panel=panel,
        looks=("haul_straps",),
        figures=(Figure(code="figure.straps", title="Straps", make=straps),),
    ),
)

"""Export plan: the haul as a file."""

from aspects.registry import Aspect

ASPECTS = (
    Aspect(
        slug="export",
        title="Export plan",
        order=40,
        address="export_plan",
        urls="exchange.haul_urls",
        menu=True,
        looks=("export_plan",),
    ),
)

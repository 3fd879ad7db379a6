"""How it tows, among the views of a haul."""

from aspects.registry import Aspect
from aspects.sway.panel import panel

ASPECTS = (
    Aspect(
        slug="sway",
        title="How it tows",
        order=62,
        address="haul_sway",
        urls="aspects.sway.urls",
        menu=True,
        looks=("haul_sway",),
        panel=panel,
    ),
)

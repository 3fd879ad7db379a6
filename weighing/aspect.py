"""Against the scale: planned beside read."""

from aspects.registry import Aspect

ASPECTS = (
    Aspect(
        slug="scale",
        title="Against the scale",
        order=30,
        address="haul_scale",
        urls="weighing.haul_urls",
        menu=True,
        looks=("haul_scale",),
    ),
)

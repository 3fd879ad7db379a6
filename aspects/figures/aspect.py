"""All figures, with their arithmetic."""

from aspects.registry import Aspect

ASPECTS = (
    Aspect(
        slug="figures",
        title="All figures",
        order=10,
        address="haul_figures",
        urls="aspects.figures.urls",
        menu=True,
        looks=("haul_figures",),
    ),
)

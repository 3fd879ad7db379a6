"""Law and room: what the law may ask of a haul, and how far it needs to stop."""

from aspects.registry import Aspect

ASPECTS = (
    Aspect(
        slug="law",
        title="Law and room",
        order=64,
        address="haul_law",
        urls="aspects.law.urls",
        menu=True,
        looks=("haul_law",),
    ),
)

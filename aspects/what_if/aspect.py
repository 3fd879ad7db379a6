"""What if: other ways side by side."""

from aspects.registry import Aspect

ASPECTS = (
    Aspect(
        slug="what_if",
        title="What if",
        order=50,
        address="haul_what_if",
        urls="aspects.what_if.urls",
        looks=("haul_what_if",),
    ),
)

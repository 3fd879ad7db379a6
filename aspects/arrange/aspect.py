"""Arrange: the best order, facing and place."""

from aspects.registry import Aspect

ASPECTS = (
    Aspect(
        slug="arrange",
        title="Arrange",
        order=20,
        address="haul_arrange",
        urls="aspects.arrange.urls",
        looks=("haul_arrange",),
    ),
)

"""Truck, trailer and loads: reached from the head, where the outfit is named."""

from aspects.registry import Aspect

ASPECTS = (
    Aspect(
        slug="outfit",
        title="Change truck, trailer or loads",
        order=5,
        address="outfit",
        urls="aspects.outfit.urls",
        menu=True,
        changes=True,
    ),
)

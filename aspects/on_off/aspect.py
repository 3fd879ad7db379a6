"""On and off: what happens while a machine climbs."""

from aspects.on_off.card import card
from aspects.on_off.panel import panel
from aspects.registry import Aspect

ASPECTS = (
    Aspect(
        slug="on_off",
        title="On and off",
        order=35,
        address="haul_on_off",
        urls="aspects.on_off.urls",
        panel=panel,
        card=card,
        looks=("haul_on_off",),
    ),
)

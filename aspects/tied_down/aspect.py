"""Tied down: which tie from where to where."""

from aspects.registry import Aspect
from aspects.tied_down.card import card
from aspects.tied_down.panel import panel

ASPECTS = (
    Aspect(
        slug="tied_down",
        title="Tied down",
        order=37,
        address="haul_tied",
        urls="aspects.tied_down.urls",
        panel=panel,
        card=card,
        looks=("haul_tied", "haul_tied_table", "haul_tied_list", "haul_tied_tick"),
    ),
)

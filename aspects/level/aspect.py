"""Level: how it rides, and spring bars."""

from aspects.level.card import card
from aspects.level.panel import panel
from aspects.level.words import level_figure
from aspects.registry import Aspect
from wording.figures import Figure

ASPECTS = (
    Aspect(
        slug="level",
        title="Level",
        order=30,
        address="haul_ride",
        urls="aspects.level.urls",
        panel=panel,
        card=card,
        figures=(Figure(code="figure.level", title="What the tilt does", make=level_figure),),
        looks=("haul_ride",),
    ),
)

"""What the load card says of how the outfit rides."""

from __future__ import annotations

from aspects.registry import CardFigure, CardPart, Ground
from measures.writing import write_inches, write_length
from mechanics.attitude import LEVEL_M


def card(ground: Ground) -> CardPart:
    """The rear wheel arch to expect: its height where the book has that of the truck alone, else
    how far it sinks. Nothing where heights are wanting."""
    riding, truck, unit = ground.riding, ground.haul.truck, ground.unit
    if riding is None:
        return CardPart()
    squat = riding.loaded.rear_squat_m
    sinks = abs(squat) > LEVEL_M / 4
    way = "lower" if squat > 0 else "higher"
    apart = f"{write_inches(abs(squat), unit)} {way} than unhitched" if sinks else "as unhitched"
    unhitched = None if truck is None else truck.arch_rear
    if unhitched is None:
        figure = CardFigure(label="rear wheel arch", figure=apart)
    else:
        height = write_length(float(unhitched.si) - squat, unit, step=2)
        figure = CardFigure(label="rear wheel arch", figure=height, note=apart)
    return CardPart(figures=(figure,))

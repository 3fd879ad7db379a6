"""Reading what was typed or pressed on a step."""

from __future__ import annotations

from typing import Any

from django.core.exceptions import ValidationError

from book.fields import QuantityFormField
from measures import Quantity, UnitSystem
from walk.steps import Answer, Step

SIGNED = ("offset", "deck_start")
"""Boxes that may lie ahead of what they are taped from."""


def read_answer(step: Step, typed: str, unit: UnitSystem) -> Quantity | str:
    """The answer of a step.

    Raises:
        ValidationError: it is none; the message says what to do.
    """
    if step.answer is Answer.CHOICE:
        if typed not in dict(step.choices) or not typed:
            raise ValidationError("Choose one of the buttons.")
        return typed
    least = "any" if step.field in SIGNED else "positive"
    field = QuantityFormField(kind=step.answer.value, least=least, required=False)
    field.units = unit
    found: Any = field.clean(typed.strip())
    if not isinstance(found, Quantity):
        raise ValidationError("Type what the tape or plate says, or leave it out below.")
    return found

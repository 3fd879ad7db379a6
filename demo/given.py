"""Measures of the demo yard, as they are entered."""

from __future__ import annotations

from measures import Quantity


def pounds(number: float | None) -> Quantity | None:
    """A mass, or one that nobody knows."""
    return None if number is None else Quantity.parse(f"{number} lb")


def inches(number: float | None) -> Quantity | None:
    """A length, or one that nobody knows."""
    return None if number is None else Quantity.parse(f"{number} in")

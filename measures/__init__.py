"""How people write and read measures: text to exact numbers and back.

A quantity keeps the number and the unit it was given in, so that what was entered as
7,000 lb reads 7,000 lb for ever.
"""

from measures.quantity import Quantity
from measures.reading import (
    READERS,
    ReadingError,
    read_density,
    read_length,
    read_mass,
    read_volume,
)
from measures.writing import UnitSystem, write_length, write_mass

__all__ = [
    "READERS",
    "Quantity",
    "ReadingError",
    "UnitSystem",
    "read_density",
    "read_length",
    "read_mass",
    "read_volume",
    "write_length",
    "write_mass",
]

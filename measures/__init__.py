"""How people write and read masses and lengths: text to exact numbers and back.

A quantity keeps the number and the unit it was given in, so that what was entered as
7,000 lb reads 7,000 lb for ever.
"""

from measures.quantity import Quantity
from measures.reading import ReadingError, read_length, read_mass
from measures.writing import UnitSystem, write_length, write_mass

__all__ = [
    "Quantity",
    "ReadingError",
    "UnitSystem",
    "read_length",
    "read_mass",
    "write_length",
    "write_mass",
]

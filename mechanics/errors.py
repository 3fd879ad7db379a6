"""Errors of the mechanics. A limit that is passed is a finding, never one of these."""

from __future__ import annotations


class MechanicsError(Exception):
    """Base of every error the mechanics raises."""


class InputError(MechanicsError, ValueError):
    """An input that no real outfit can have.

    Attributes:
        path: where the value stands, in the words of the plan file
            (``trailer.axles[0].position``).
        expected: what would be right, as the rest of the sentence "expected ...".
    """

    def __init__(self, path: str, expected: str) -> None:
        self.path = path
        self.expected = expected
        super().__init__(path, expected)

    def __str__(self) -> str:
        return f"{self.path}: expected {self.expected}"


class BalanceError(MechanicsError, ArithmeticError):
    """Forces or moments of a result do not balance: a fault in the computation."""

    def __init__(self, what: str, residual: float) -> None:
        self.what = what
        self.residual = residual
        super().__init__(what, residual)

    def __str__(self) -> str:
        return f"{self.what} does not balance: {self.residual:g} is left over"

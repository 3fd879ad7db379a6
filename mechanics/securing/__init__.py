"""Tied down: what each tie holds in each direction, and what is left when any one fails.

``rope`` is where a tie runs, ``hold`` what ties hold together, ``findings`` the rule and what
practice adds to it, ``report`` one call for a plan. ``rack`` is the gear at hand,
``choices`` the ties that could be made of it, ``search`` the model that finds the fewest,
``suggested`` what it found, ``suggestion`` one call for an item.
"""

from mechanics.securing.choices import Crossing
from mechanics.securing.findings import Finding
from mechanics.securing.rack import RackPiece
from mechanics.securing.report import ItemTied, SecuringReport, TieUse, secure
from mechanics.securing.suggested import Standard, Suggestion
from mechanics.securing.suggestion import Purchase, suggest, to_buy

__all__ = [
    "Crossing",
    "Finding",
    "ItemTied",
    "Purchase",
    "RackPiece",
    "SecuringReport",
    "Standard",
    "Suggestion",
    "TieUse",
    "secure",
    "suggest",
    "to_buy",
]

"""Tied down: what each tie holds in each direction, and what is left when any one fails.

``rope`` is where a tie runs, ``hold`` what ties hold together, ``findings`` the rule and what
practice adds to it, ``report`` one call for a plan.
"""

from mechanics.securing.findings import Finding
from mechanics.securing.report import ItemTied, SecuringReport, TieUse, secure

__all__ = ["Finding", "ItemTied", "SecuringReport", "TieUse", "secure"]

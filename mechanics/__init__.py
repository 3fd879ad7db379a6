"""The mechanics of a hauled load: loads, checks and windows, and nothing of the web.

Direction of dependencies inside the package (each module may use those above it)::

    errors, units
    truck, hitch, trailer, item, rules      what is known: frozen inputs
    plan                                    one haul whole
    loads                                   what the axles and the hitch carry
    limits                                  each limit as a linear constraint
    checks                                  each limit compared with its value
    windows                                 where on the deck every limit holds
    report                                  all of it in one call

Every quantity inside is SI: kilograms (as a mass-equivalent at 1 g, the way a scale
reads) and metres; the unit stands in the name of each field (``mass_kg``,
``position_m``). Conversion happens at the edges, with :mod:`mechanics.units`.
"""

from mechanics.plan import Plan
from mechanics.report import Report, evaluate

__all__ = ["Plan", "Report", "evaluate"]

"""Bounds on the tongue mass, and on the whole trailer's: forms that several limits share."""

from __future__ import annotations

import math

from mechanics.limits.limit import Form
from mechanics.loads import Loads


def trailer_mass(loads: Loads) -> float:
    """The loaded trailer, in kilograms."""
    return loads.trailer.mass_kg


def tongue(loads: Loads) -> float:
    """What rests on the hitch, in kilograms; negative where the tongue lifts."""
    return loads.trailer.tongue_kg


def trailer_mass_forms(limit: float | None) -> tuple[Form, ...]:
    """``Me + sum m <= limit``; empty without a limit."""
    if limit is None:
        return ()
    return (Form(const=-limit, me=1.0, a=1.0, scale=max(limit, 1.0)),)


def tongue_form(
    base: float, slopes: tuple[float, float], limit: float, tolerance: float, lever: float
) -> Form:
    """``base + slope T <= limit`` as a bound on the tongue mass ``T``.

    ``slopes`` are for ``T < 0`` and ``T > 0``: the bars act only on a tongue that pushes
    down. Both have one sign, or the second is zero, so the load is monotone in the
    tongue and the limit is one bound on it.
    """
    below, above = slopes
    scale = max(limit, 1.0)
    if below == 0:
        return Form(const=base - limit, const_tolerance=tolerance, scale=scale)
    bound = _tongue_bound(limit - base, below, above)
    worst = _tongue_bound(limit - base - tolerance, below, above)
    sign = 1.0 if below > 0 else -1.0
    const = -sign * bound
    return Form(
        const=const,
        const_tolerance=0.0 if math.isinf(const) else -sign * (worst - bound),
        te=sign,
        a=sign,
        b=-sign / lever,
        scale=scale,
    )


def _tongue_bound(room: float, below: float, above: float) -> float:
    """The tongue mass at which ``slope T`` uses up ``room``; infinite where none does."""
    if (room >= 0) == (below > 0):
        return room / above if above else math.inf
    return room / below

"""How high a bank or blocks under the ramp's foot have to be so that nothing scrapes."""

from __future__ import annotations

from dataclasses import replace
from typing import Final

from mechanics.checks import Status
from mechanics.errors import InputError
from mechanics.loading.findings import Subject
from mechanics.loading.report import way
from mechanics.plan import Plan
from mechanics.units import M_PER_IN

STEP_M: Final = M_PER_IN
"""Blocks are a whole inch high."""

STATIONS: Final = 40
"""Stations with which a height is tried; the closest place is found between them."""


def foot_rise_that_clears(plan: Plan, index: int) -> float | None:
    """The least height of the ramp's foot, in m, at which the item clears what it drives over.

    In whole inches above where the foot stands now. ``None`` where it clears already, where
    its clearances are not known, or where no height below the tail's will do.
    """
    if not _scrapes(plan, index):
        return None
    trailer = plan.trailer
    if trailer.deck.height_m is None:
        return None
    drop = 0.0 if trailer.dovetail is None else trailer.dovetail.drop_m
    room = trailer.deck.height_m - drop - plan.site.foot_rise_m
    tries = int(room / STEP_M)
    low, high = 0, tries + 1
    # the flatter the ramp, the more there is to spare: halve the steps that are left
    while high - low > 1:
        middle = (low + high) // 2
        if _scrapes(_raised(plan, middle * STEP_M), index):
            low = middle
        else:
            high = middle
    return plan.site.foot_rise_m + high * STEP_M if high <= tries else None


def _raised(plan: Plan, by_m: float) -> Plan:
    site = replace(plan.site, foot_rise_m=plan.site.foot_rise_m + by_m)
    return replace(plan, site=site)


def _scrapes(plan: Plan, index: int) -> bool:
    try:
        found = way(plan, index, stations=STATIONS).finding(Subject.CLEARANCE)
    except InputError:
        return True
    return found is not None and found.status is Status.OVER

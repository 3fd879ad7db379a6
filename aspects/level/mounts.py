"""Which ball mount of the book would make it ride level."""

from __future__ import annotations

from book.figures import si
from book.models import HitchPart
from hauls.models import Haul
from measures.writing import UnitSystem, write_inches
from mechanics.attitude import LEVEL_M, attitude


def mount_words(haul: Haul, unit: UnitSystem) -> str:
    """How much drop a mount needs for the trailer to ride level, and which of the book has it.

    Empty where the mount on the hitch, or its drop, is not known, and where nothing is to be
    changed.
    """
    if haul.hitch is None:
        return ""
    riding = attitude(haul.draft.plan)
    on = [link.part for link in haul.hitch.links.all()]
    mount = next((p for p in on if p.kind == HitchPart.Kind.MOUNT and p.drop is not None), None)
    if riding is None or mount is None or riding.loaded.level:
        return ""
    # a ball that has to come down by so much wants so much more drop
    wanted = si(mount.drop) - riding.ball_change_m
    fits = [
        part
        for part in HitchPart.objects.filter(yard=haul.yard, kind=HitchPart.Kind.MOUNT)
        if part.pk != mount.pk
        and part.drop is not None
        and abs(si(part.drop) - wanted) <= LEVEL_M
        and (part.shank_size is None or part.shank_size == mount.shank_size)
    ]
    words = f"{_drop(si(mount.drop), unit)} now; {_drop(wanted, unit)} would ride level"
    if not fits:
        return f"Mount: {words}."
    return f"Mount: {words}, and the book has one: {' or '.join(part.name for part in fits)}."


def _drop(metres: float, unit: UnitSystem) -> str:
    way = "drop" if metres >= 0 else "rise"
    return f"{write_inches(abs(metres), unit)} of {way}"

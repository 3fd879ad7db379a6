"""What a trailer's tickets say about its plans: read against planned, and the bias in it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from django.contrib.contenttypes.models import ContentType

from book.models import Ticket, Trailer
from measures import UnitSystem
from measures.writing import write_mass
from mechanics.bias import Bias, learned

FIGURES: Final = {
    "steer": "steer axle",
    "drive": "drive axle",
    "trailer": "trailer axles",
    "tongue": "tongue",
    "axle_1": "trailer axle 1",
    "axle_2": "trailer axle 2",
    "axle_3": "trailer axle 3",
}
"""What a haul's ticket is compared by."""


@dataclass(frozen=True, kw_only=True, slots=True)
class Learned:
    """The bias of one figure, and in words."""

    name: str
    figure: str
    words: str
    bias: Bias

    @property
    def matters(self) -> bool:
        """Whether it stands out of the scatter."""
        return self.bias.matters


def differences(trailer: Trailer) -> dict[str, list[float]]:
    """Read less planned in kg, by figure, of every haul's ticket with this trailer."""
    kind = ContentType.objects.get_for_model(Trailer)
    found: dict[str, list[float]] = {name: [] for name in FIGURES}
    tickets = Ticket.objects.filter(
        yard=trailer.yard, content_type=kind, object_id=trailer.pk
    ).order_by("weighed_on", "pk")
    for readings in tickets.values_list("readings", flat=True):
        planned, read = readings.get("planned_kg", {}), readings.get("read_kg", {})
        for name in FIGURES:
            if name in planned and name in read:
                found[name].append(float(read[name]) - float(planned[name]))
    return found


def bias_of(trailer: Trailer, unit: UnitSystem) -> list[Learned]:
    """The learned bias of each figure; empty with fewer than three tickets."""
    found = []
    for name, apart in differences(trailer).items():
        bias = learned(apart)
        if bias is None:
            continue
        way = "more" if bias.mean_kg > 0 else "less"
        mean, within = write_mass(abs(bias.mean_kg), unit), write_mass(bias.within_kg, unit)
        words = (
            f"{mean} {way} than planned, give or take {within} ({bias.count} tickets)"
            if bias.matters
            else f"as planned within {within} ({bias.count} tickets)"
        )
        found.append(Learned(name=name, figure=FIGURES[name], words=words, bias=bias))
    return found

"""What is on a truck or on a trailer."""

from __future__ import annotations

from typing import TypedDict

from django.db import models

from book.models import Trailer, Truck
from yards.models import YardOwned


class On(TypedDict):
    """The one of the two that something is on, as its row keeps it."""

    truck: Truck | None
    trailer: Trailer | None


def on(thing: Truck | Trailer) -> On:
    """How a row keeps what it is on."""
    if isinstance(thing, Truck):
        return On(truck=thing, trailer=None)
    return On(truck=None, trailer=thing)


class OnTruckOrTrailer(YardOwned):
    """A row that is about one truck or about one trailer."""

    truck = models.ForeignKey(
        Truck, null=True, blank=True, on_delete=models.CASCADE, related_name="%(class)ss"
    )
    trailer = models.ForeignKey(
        Trailer, null=True, blank=True, on_delete=models.CASCADE, related_name="%(class)ss"
    )

    class Meta:
        abstract = True
        constraints = [
            models.CheckConstraint(
                condition=models.Q(truck__isnull=False) ^ models.Q(trailer__isnull=False),
                name="%(class)s_of_a_truck_or_trailer",
            )
        ]

    @property
    def thing(self) -> Truck | Trailer:
        """What it is on."""
        found = self.truck or self.trailer
        if found is None:
            raise ValueError(f"{self} is on no truck and no trailer")
        return found

"""A trip that could be chosen: some machines, an outfit, and the routes that may hold."""

from __future__ import annotations

from dataclasses import dataclass

from mechanics.dispatch.day import WHOLE_DAY, Outfit
from mechanics.dispatch.roster import Wanted
from mechanics.dispatch.routes import Route


@dataclass
class Group:
    """Routes of a trip that are as short as each other, and what is hoped of the best of them."""

    routes: list[Route]
    hope: float


@dataclass
class Choice:
    """A trip to choose. Of its ``groups``, the shortest first, the first counts until it is found
    not to hold; without any left there is no such trip."""

    outfit: Outfit
    transfers: frozenset[str]
    drivers: frozenset[str]
    groups: list[Group]
    held: Route | None = None
    reserve: float = 0.0

    @property
    def route(self) -> Route:
        """The route that counts."""
        return self.held or self.groups[0].routes[0]

    @property
    def metres(self) -> float:
        """How long that is."""
        return self.route.metres

    @property
    def most(self) -> float:
        """The reserve that is known or hoped of it."""
        return self.groups[0].hope if self.held is None else self.reserve

    @property
    def wanted(self) -> Wanted:
        """What it needs of a day."""
        return wanted_of(self.outfit, self.drivers, self.route)


def wanted_of(outfit: Outfit, drivers: frozenset[str], route: Route) -> Wanted:
    """What a trip needs of a day."""
    return Wanted(
        truck=outfit.truck,
        trailer=outfit.trailer,
        drivers=drivers,
        minutes=route.minutes,
        earliest=route.earliest,
        latest=min(route.latest, WHOLE_DAY),
    )

"""A day's machines, places, outfits and drivers in; who takes what where in which order out."""

from mechanics.dispatch.day import (
    Busy,
    Day,
    Driver,
    Locked,
    Outfit,
    Transfer,
)
from mechanics.dispatch.proposal import Proposal, Rides, Trip, Why, propose
from mechanics.dispatch.roster import Turn
from mechanics.dispatch.routes import Leg, Route, Stop

__all__ = [
    "Busy",
    "Day",
    "Driver",
    "Leg",
    "Locked",
    "Outfit",
    "Proposal",
    "Rides",
    "Route",
    "Stop",
    "Transfer",
    "Trip",
    "Turn",
    "Why",
    "propose",
]

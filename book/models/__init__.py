"""What the yard owns, as its plates, stickers, tickets and tapes say.

Every measure keeps the unit it was entered in. An empty box is not known, which is not
the same as none: a thing may be saved with gaps, and says which verdicts they block.
"""

from book.models.bulk import Bulk
from book.models.gear import Gear
from book.models.hitch import Hitch, HitchLink, HitchPart, TrailerPart
from book.models.intake import Intake
from book.models.machine import Configuration, Machine, MachinePart, MachinePoint
from book.models.photo import Photo
from book.models.place import Place, PlaceWay
from book.models.removed import Removed
from book.models.thing import Known, Thing, YardOfChange
from book.models.ticket import Aboard, Ticket
from book.models.trailer import Trailer, TrailerAddition, TrailerAnchor, TrailerAxle
from book.models.truck import Truck, TruckLoad

__all__ = [
    "Aboard",
    "Bulk",
    "Configuration",
    "Gear",
    "Hitch",
    "HitchLink",
    "HitchPart",
    "Intake",
    "Known",
    "Machine",
    "MachinePart",
    "MachinePoint",
    "Photo",
    "Place",
    "PlaceWay",
    "Removed",
    "Thing",
    "Ticket",
    "Trailer",
    "TrailerAddition",
    "TrailerAnchor",
    "TrailerAxle",
    "TrailerPart",
    "Truck",
    "TruckLoad",
    "YardOfChange",
]

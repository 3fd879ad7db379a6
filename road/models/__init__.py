"""Rows of the road: steps, where it stopped, defects, inspections, trips, brake gain."""

from road.models.defect import Defect
from road.models.gain import BrakeGain
from road.models.inspection import Inspection, Looked
from road.models.on import OnTruckOrTrailer, on
from road.models.step import ORDER, LookedAgain, Step, StepDone
from road.models.stopped import Stopped, StoppedLoad
from road.models.trip import Trip
from road.models.weather import HaulWeather

__all__ = [
    "ORDER",
    "BrakeGain",
    "Defect",
    "HaulWeather",
    "Inspection",
    "Looked",
    "LookedAgain",
    "OnTruckOrTrailer",
    "Step",
    "StepDone",
    "Stopped",
    "StoppedLoad",
    "Trip",
    "on",
]

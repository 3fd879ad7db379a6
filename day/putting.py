"""A day's plan put on the board: a haul for each way that something rides."""

from __future__ import annotations

from datetime import time
from typing import Final

from django.core.exceptions import ObjectDoesNotExist
from django.db import transaction

from book.models import Hitch, Place, Trailer
from day.asking import Asked
from day.proposing import Found, KeptTrip, Ride
from hauls.assigning import Job, assign, assigned
from hauls.grounds import grounded
from hauls.loads import Load, read_load
from hauls.models import Haul
from hauls.store import create_stood
from longwork.models import LongWork
from planfile.climbing import Place as End
from wording.phrases import listed
from yards.models import User, Yard

PUT: Final = "put"
"""In what came of the work: the hauls that were made of it."""


class PutError(ValueError):
    """The plan cannot be put on the board; the message says why and what to do."""


@transaction.atomic
def put_on_board(work: LongWork, number: int, *, user: User) -> list[Haul]:
    """Make the hauls of one of the plans found, once.

    Raises:
        PutError: that was done before, or something of it is not in the book any more.
    """
    work = LongWork.objects.select_for_update().get(pk=work.pk)
    if work.result.get(PUT):
        raise PutError("It is on the board already.")
    found, asked = Found.read(work.result), Asked.read(work.asked)
    if not 0 <= number < len(found.plans):
        raise PutError("There is no such plan. Choose one of those shown.")
    try:
        loads = [read_load(one.load, work.yard) for one in asked.wanted]
        made = [
            _haul(ride, trip, asked, loads, work.yard, user)
            for trip in found.plans[number].trips
            for ride in trip.rides
        ]
    except (ObjectDoesNotExist, ValueError) as error:
        raise PutError(
            "A truck, trailer, machine, place or driver of it is not there any more. Plan the day "
            "anew."
        ) from error
    work.result = {**work.result, PUT: [haul.pk for haul in made]}
    work.save(update_fields=["result"])
    return made


def _haul(
    ride: Ride, trip: KeptTrip, asked: Asked, loads: list[Load], yard: Yard, user: User
) -> Haul:
    hitch_key, trailer_key = trip.outfit.split("-")
    hitch = Hitch.objects.select_related("truck").get(pk=hitch_key, truck__yard=yard)
    trailer = Trailer.objects.get(pk=trailer_key, yard=yard)
    goal = Place.objects.get(pk=ride.goal, yard=yard)
    aboard = [loads[n] for n in ride.aboard]
    name = f"{listed([load.name for load in aboard])} to {goal.name}"
    origin = Place.objects.get(pk=ride.origin, yard=yard)
    draft = grounded(ride.draft.renamed(name[:200]), origin, End.LOADING)
    draft = grounded(draft, goal, End.UNLOADING)
    haul = create_stood(
        yard=yard,
        user=user,
        name=name[:200],
        hitch=hitch,
        trailer=trailer,
        loads=aboard,
        draft=draft,
    )
    job = Job(
        day=asked.day,
        starts=time(ride.starts // 60, ride.starts % 60),
        takes_minutes=ride.ends - ride.starts,
        driver=yard.members.get(pk=trip.driver),
        fetched_from=origin,
        taken_to=goal,
    )
    assign(haul, job, was=assigned(haul))
    return haul

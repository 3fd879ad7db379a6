"""What keeps a thing in its yard: hauls that are still to be done."""

from __future__ import annotations

from django.db.models import Q

from book.models import Bulk, Machine, Place, Thing, Trailer, Truck
from hauls.models import TO_DO, Haul
from wording.phrases import listed


def on_hauls(thing: Thing) -> str:
    """Which hauls that are still to be done need a thing."""
    needs: dict[type[Thing], Q] = {
        Truck: Q(truck=thing.pk),
        Trailer: Q(trailer=thing.pk),
        Machine: Q(links__machine=thing.pk),
        Bulk: Q(links__bulk=thing.pk),
        Place: Q(fetched_from=thing.pk) | Q(taken_to=thing.pk),
    }
    if type(thing) not in needs:
        return ""
    found = Haul.objects.filter(
        needs[type(thing)], yard=thing.yard_id, archived=False, state__in=TO_DO
    ).distinct()
    names = [f"“{haul.name}”" for haul in found[:3]]
    if not names:
        return ""
    count = found.count()
    more = f" and {count - 3} more" if count > 3 else ""
    return (
        f"It is on {listed(names)}{more}, still to be done. Finish, archive or replan "
        f"{'it' if count == 1 else 'them'} first."
    )


STAYS = (on_hauls,)

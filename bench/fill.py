"""Fill the demo yard of a scratch folder with 500 machines and 5,000 hauls."""

from __future__ import annotations

import os
import random

MACHINES, HAULS = 500, 5000


def main() -> None:
    """Add them to the yard in ``EYEBOLT_DATA``."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "eyebolt.settings")

    import django

    django.setup()

    from book.models import Machine
    from hauls.models import Haul, HaulItem
    from yards.models import Yard

    rng = random.Random(1)
    yard = Yard.objects.get()
    pattern = Machine.objects.get(yard=yard, name="Kestrel T6 compact loader")
    machines = []
    for n in range(MACHINES):
        machine = Machine.objects.get(pk=pattern.pk)
        machine.pk, machine.name = None, f"Machine {n:03}"
        machines.append(machine)
    machines = Machine.objects.bulk_create(machines)
    there = list(Haul.objects.filter(yard=yard))
    hauls = []
    for n in range(HAULS):
        like = rng.choice(there)
        hauls.append(
            Haul(
                yard=yard,
                name=f"Haul {n:04}",
                document={**like.document, "name": f"Haul {n:04}"},
                truck_id=like.truck_id,
                hitch_id=like.hitch_id,
                trailer_id=like.trailer_id,
                verdict=like.verdict,
            )
        )
    hauls = Haul.objects.bulk_create(hauls, batch_size=500)
    HaulItem.objects.bulk_create(
        (HaulItem(haul=haul, machine=rng.choice(machines), item_id="m1") for haul in hauls),
        batch_size=1000,
    )


if __name__ == "__main__":
    main()

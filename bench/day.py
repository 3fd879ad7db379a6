"""The day's figures, measured in the demo yard of a scratch folder: run in a process of its own,
which prints what it measured as lines of name and seconds."""

from __future__ import annotations

import json
import os
import statistics
import subprocess
import sys
import time
from collections.abc import Callable
from dataclasses import replace
from typing import Any, Final

CARDS: Final = 200
"""Hauls of the week that is drawn."""

RUNS: Final = 15


def bench_day(environment: dict[str, str]) -> dict[str, Any]:
    """What was measured, by name."""
    told = subprocess.run(
        [sys.executable, "-m", "bench.day"], env=environment, check=True, capture_output=True
    )
    found: dict[str, Any] = json.loads(told.stdout.splitlines()[-1])
    return found


def _median(work: Callable[[], Any]) -> float:
    times = []
    for _ in range(RUNS):
        begin = time.perf_counter()
        work()
        times.append(time.perf_counter() - begin)
    return statistics.median(times)


def main() -> None:
    """Measure, and print."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "eyebolt.settings")

    import django

    django.setup()

    from datetime import time as hour
    from datetime import timedelta

    from django.test import Client
    from django.utils import timezone

    from book.models import Machine, Place
    from day.asking import Asked, Driving, Wanted
    from day.board import booking_of, monday
    from day.clashes import clashes
    from day.proposing import ground
    from hauls.loads import Load
    from hauls.models import Haul
    from measures import UnitSystem
    from mechanics.dispatch import propose
    from yards.models import User, Yard

    yard, user = Yard.objects.get(), User.objects.get(username="demo")
    first = monday(timezone.localdate())
    there = list(Haul.objects.filter(yard=yard))
    made = [
        Haul(
            yard=yard,
            name=f"Haul {n}",
            document={**there[n % len(there)].document, "name": f"Haul {n}"},
            truck_id=there[n % len(there)].truck_id,
            hitch_id=there[n % len(there)].hitch_id,
            trailer_id=there[n % len(there)].trailer_id,
            verdict=there[n % len(there)].verdict,
            day=first + timedelta(days=n % 7),
            starts=hour(7 + n % 10, n % 60),
            takes_minutes=60,
        )
        for n in range(CARDS)
    ]
    Haul.objects.bulk_create(made)
    client = Client(headers={"host": "127.0.0.1"})
    client.force_login(user)
    client.get("/day/")
    found: dict[str, Any] = {"board": _median(lambda: client.get("/day/"))}
    week = list(
        Haul.objects.filter(yard=yard, day__range=(first, first + timedelta(days=6)))
        .select_related("truck", "trailer", "driver")
        .prefetch_related("links__machine")
    )
    found["cards"] = len(week)
    found["clashes"] = _median(
        lambda: list(clashes(one for haul in week if (one := booking_of(haul)) is not None))
    )
    Haul.objects.filter(pk__in=[one.pk for one in made]).delete()
    places = list(Place.objects.filter(yard=yard, from_yard__isnull=False)[:5])
    home = Place.objects.get(yard=yard, home=True)
    machines = list(Machine.objects.filter(yard=yard))
    drivers = tuple(
        Driving(user=one.pk, starts=420, ends=1020) for one in yard.members.order_by("pk")
    )
    # a day that nothing is on yet
    day = first + timedelta(days=28)
    for count in (8, 20):
        asked = Asked(
            day=day,
            wanted=tuple(
                Wanted(
                    load=str(Load(machine=machines[n % len(machines)]).key),
                    origin=home.pk if n % 3 else places[n % len(places)].pk,
                    goal=places[(n + 1) % len(places)].pk if n % 3 else home.pk,
                )
                for n in range(count)
            ),
            driving=drivers,
            unknown_too=True,
        )
        base = ground(yard, asked, UnitSystem.US)
        three = replace(base.day, outfits=base.day.outfits[:3])
        begin = time.perf_counter()
        until = begin + 30
        plan = propose(three, base.riding, left=lambda: until - time.perf_counter())  # noqa: B023
        found[f"plan {count}"] = time.perf_counter() - begin
        found[f"proved {count}"] = plan.proved
        found[f"told {count}"] = (
            f"{len(plan.trips)} trips, {len(plan.left)} left; at least {plan.least_trips} trips"
        )
    print(json.dumps(found))


if __name__ == "__main__":
    main()

"""A stand-in for a gauge: ``manage.py simulate_gauge``, or ``make gauge``."""

from __future__ import annotations

import time
from argparse import ArgumentParser
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError

from gauge.models import Gauge
from gauge.simulated import (
    ObedientDriver,
    RefusedError,
    SimulatedGauge,
    Slips,
    Traits,
    as_line,
    run,
)
from hauls.models import Haul
from mechanics.units import MassUnit


class Command(BaseCommand):
    """Send what a gauge would show while the machine of a haul moves."""

    help = "Send what a gauge would show while the machine of a haul moves."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """What is simulated."""
        parser.add_argument("--haul", default="", help="number or name; the newest with a load")
        parser.add_argument("--gauge", default="", help="name in the list; the yard's first")
        parser.add_argument("--item", type=int, default=0, help="which load moves, from 0")
        parser.add_argument("--heavier", type=float, default=1.04, help="truth over plan")
        parser.add_argument("--lag", type=float, default=0.4, help="seconds")
        parser.add_argument("--noise", type=float, default=3.0, help="kilograms")
        parser.add_argument("--drop-every", type=float, default=60.0, help="seconds; 0 never")
        parser.add_argument("--drop-for", type=float, default=4.0, help="seconds")
        parser.add_argument("--slips", action="store_true", help="rubbish, floods, a unit's lie")
        parser.add_argument("--seconds", type=float, default=0.0, help="0: until ended")
        parser.add_argument("--seed", type=int, default=1)

    def handle(self, *args: Any, **options: Any) -> None:
        """Run until ended."""
        haul = self._haul(options["haul"])
        gauge = self._gauge(haul, options["gauge"])
        plan = haul.draft.plan
        if not 0 <= options["item"] < len(plan.items):
            raise CommandError(f"{haul.name} has {len(plan.items)} loads, counted from 0.")
        unit = MassUnit(gauge.unit).kg
        step = 20.0 if gauge.unit == "lb" else 10.0
        traits = Traits(
            unit=gauge.unit,
            step=step if gauge.step is None else float(gauge.step.si) / unit,
            rating=2000.0 if gauge.rating is None else float(gauge.rating.si) / unit,
            lag_s=options["lag"],
            noise_kg=options["noise"],
        )
        stand_in = SimulatedGauge(
            plan=plan,
            index=options["item"],
            traits=traits,
            seed=options["seed"],
            heavier=options["heavier"],
        )
        driver = ObedientDriver(stand_in)
        begun = time.monotonic()
        port = settings.GAUGE_PORT
        self.stdout.write(
            f"{gauge.name} follows “{haul.name}”. Watch it on the haul's gauge page "
            f"(/hauls/{haul.pk}/gauge/?gauge={gauge.pk}). Ctrl-C ends it."
        )

        def gone() -> bool:
            every = options["drop_every"]
            since = (time.monotonic() - begun) % every if every else 0.0
            return bool(every) and since > every - options["drop_for"]

        def over() -> bool:
            return bool(options["seconds"]) and time.monotonic() - begun > options["seconds"]

        try:
            sent = run(
                stand_in,
                host=settings.GAUGE_HOST,
                port=port,
                key=gauge.key,
                after=driver.see,
                stop=over,
                gone=gone,
                spoiled=Slips(gauge.unit) if options["slips"] else as_line,
            )
        except RefusedError as error:
            raise CommandError(f"The gauge service refused it: {error}") from None
        except KeyboardInterrupt:
            return
        if not sent:
            raise CommandError(
                f"Nothing listens on {settings.GAUGE_HOST}:{port}. Start the server first, with "
                "make demo."
            )

    def _haul(self, wanted: str) -> Haul:
        hauls = Haul.objects.filter(archived=False)
        if wanted.isdigit():
            found = hauls.filter(pk=int(wanted)).first()
        elif wanted:
            found = hauls.filter(name__icontains=wanted).first()
        else:
            found = hauls.filter(yard__gauge__isnull=False, verdict__in=("ok", "near")).first()
        if found is None:
            raise CommandError("There is no such haul. Give its number, or a part of its name.")
        return found

    def _gauge(self, haul: Haul, wanted: str) -> Gauge:
        own = Gauge.objects.filter(yard=haul.yard)
        found = own.filter(name__icontains=wanted).first() if wanted else own.first()
        if found is None:
            raise CommandError("The yard has no such gauge. Add one under Weigh, Gauges.")
        return found

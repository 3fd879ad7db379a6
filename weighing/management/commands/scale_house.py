"""A stand-in for a public scale: ``manage.py scale_house HAUL`` prints a ticket."""

from __future__ import annotations

import json
import random
from argparse import ArgumentParser
from typing import Any

from django.core.management.base import BaseCommand, CommandError

from hauls.models import Haul
from mechanics.loads import compute_loads
from mechanics.scalehouse import pads, printed, printed_alone
from mechanics.units import KG_PER_LB
from planfile.errors import PlanFileError


class Command(BaseCommand):
    """Print the ticket that a scale with three pads would give for a haul, as JSON."""

    help = "Print the ticket that a scale with three pads would give for a haul, as JSON."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """Which haul, and by which chance."""
        parser.add_argument("haul", help="number or part of the name")
        parser.add_argument("--seed", default="1", help="the same seed gives the same ticket")
        parser.add_argument("--kilograms", action="store_true", help="print kilograms")

    def handle(self, *args: Any, **options: Any) -> None:
        """Print it."""
        wanted = options["haul"]
        hauls = Haul.objects.all()
        named = (
            hauls.filter(pk=int(wanted))
            if wanted.isdigit()
            else hauls.filter(name__icontains=wanted)
        )
        haul = named.first()
        if haul is None:
            raise CommandError("There is no such haul. Give its number, or a part of its name.")
        try:
            loads = compute_loads(haul.draft.plan)
        except PlanFileError as error:
            raise CommandError(f"Its plan cannot be read: {error}.") from None
        rng = random.Random(options["seed"])  # noqa: S311  a practice ticket, no secret
        hitched = printed(pads(loads), lambda: rng.uniform(-1, 1))
        steer, drive = printed_alone(loads, lambda: rng.uniform(-1, 1))
        unit, per = ("kg", 1.0) if options["kilograms"] else ("lb", KG_PER_LB)

        def shown(kg: float) -> str:
            return f"{round(kg / per)} {unit}"

        ticket = {
            "haul": haul.name,
            "steer": shown(hitched.steer_kg),
            "drive": shown(hitched.drive_kg),
            "trailer": shown(hitched.trailer_kg),
            "together": shown(hitched.together_kg),
            "steer_alone": shown(steer),
            "drive_alone": shown(drive),
        }
        self.stdout.write(json.dumps(ticket, indent=2, ensure_ascii=False))

"""``manage.py simulate_week``: a made-up week worked through the real services."""

from __future__ import annotations

from argparse import ArgumentParser
from datetime import timedelta
from typing import Any

from django.core.management.base import BaseCommand, CommandError
from django.utils import timezone
from django.utils.dateparse import parse_date

from day.board import monday
from demo.week import WeekError, simulate_week
from demo.yard import NAME
from yards.models import Yard


class Command(BaseCommand):
    help = "Work a made-up week of the demo yard through the real services."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--seed", type=int, default=1, help="the same seed, the same week")
        parser.add_argument("--first", default="", help="its Monday, 2026-05-25; else last week's")

    def handle(self, *args: Any, **options: Any) -> None:
        yard = Yard.objects.filter(name=NAME).first()
        if yard is None:
            raise CommandError("There is no demo yard. Make it first: manage.py load_demo")
        last = monday(timezone.localdate(timezone=yard.clock)) - timedelta(days=7)
        first = parse_date(options["first"]) if options["first"] else last
        if first is None or first.weekday():
            raise CommandError("Write a Monday like 2026-05-25.")
        try:
            week = simulate_week(yard, first, seed=options["seed"])
        except WeekError as error:
            raise CommandError(str(error)) from error
        self.stdout.write(
            f"{len(week.hauls)} hauls, {week.left} machines left, {week.defects} defects, "
            f"{week.tickets} tickets"
        )

"""``manage.py load_demo``: the demo yard, once."""

from argparse import ArgumentParser
from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand

from demo.yard import make_demo_yard


class Command(BaseCommand):
    help = "Make the demo yard; where it stands already, nothing is touched."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--week", action="store_true", help="with a week that was worked")

    def handle(self, *args: Any, **options: Any) -> None:
        if make_demo_yard() and options["week"]:
            call_command("simulate_week")

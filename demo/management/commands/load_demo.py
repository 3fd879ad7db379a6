"""``manage.py load_demo``: the demo yard, once."""

from typing import Any

from django.core.management.base import BaseCommand

from demo.yard import make_demo_yard


class Command(BaseCommand):
    help = "Make the demo yard; where it stands already, nothing is touched."

    def handle(self, *args: Any, **options: Any) -> None:
        make_demo_yard()

"""``manage.py add_yard``: a new yard with the person who owns it."""

from __future__ import annotations

import getpass
import sys
from argparse import ArgumentParser
from typing import Any

from django.conf import settings
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand, CommandError

from yards.forms import time_zones
from yards.models import User, Yard
from yards.services.people import sign_up


class Command(BaseCommand):
    help = "Make a yard and the person who owns it; asks for a password."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("yard", help='name of the business, such as "Home Farm"')
        parser.add_argument("person", help="name to sign in with; this person owns the yard")
        parser.add_argument("--metric", action="store_true", help="kilograms and millimetres")
        parser.add_argument(
            "--time-zone",
            default=settings.TIME_ZONE,
            help="time zone of the yard's clock, such as America/Chicago",
        )
        parser.add_argument(
            "--password-from-input", action="store_true", help="read the password from the input"
        )

    def handle(self, *args: Any, **options: Any) -> None:
        name, person = str(options["yard"]).strip(), str(options["person"]).strip()
        if not name or not person:
            raise CommandError("A yard and its owner need names.")
        if Yard.objects.filter(name=name).exists():
            raise CommandError(
                f"There is a yard “{name}” already. Its owner invites people under “People”."
            )
        if User.objects.filter(username=person).exists():
            raise CommandError(f"Somebody signs in as {person} already.")
        if options["time_zone"] not in time_zones():
            raise CommandError(f"There is no time zone “{options['time_zone']}”.")
        user = User(username=person, units="metric" if options["metric"] else "us")
        read = sys.stdin.readline if options["password_from_input"] else getpass.getpass
        password = read().rstrip("\n")
        try:
            user.full_clean(exclude=["password"])
            validate_password(password, user)
        except ValidationError as error:
            raise CommandError(" ".join(error.messages)) from None
        user.set_password(password)
        yard = sign_up(yard_name=name, user=user, time_zone=options["time_zone"])
        self.stdout.write(f"{yard.name} is made; {user.username} owns it and can sign in.")

"""``manage.py add_yard``: a new yard with its first person."""

from __future__ import annotations

import getpass
from argparse import ArgumentParser
from typing import Any

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand, CommandError
from django.db import transaction

from yards.models import Membership, User, Yard


class Command(BaseCommand):
    help = "Make a yard and the person who signs in to it; asks for a password."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("yard", help='name of the business, such as "Home Farm"')
        parser.add_argument("person", help="name to sign in with")

    @transaction.atomic
    def handle(self, *args: Any, **options: Any) -> None:
        if User.objects.filter(username=options["person"]).exists():
            raise CommandError(f"Somebody signs in as {options['person']} already.")
        password = getpass.getpass("Password: ")
        user = User(username=options["person"])
        try:
            validate_password(password, user)
        except ValidationError as error:
            raise CommandError(" ".join(error.messages)) from None
        user.set_password(password)
        user.save()
        yard, made = Yard.objects.get_or_create(name=options["yard"])
        Membership.objects.create(yard=yard, user=user)
        words = "is made" if made else "has one more person"
        self.stdout.write(f"{yard.name} {words}; {user.username} can sign in.")

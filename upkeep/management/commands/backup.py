"""``manage.py backup``: everything in one file, while the server runs."""

from __future__ import annotations

from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError
from django.utils import timezone

from upkeep.backup import BackupError, keep_newest, make
from upkeep.place import database_file


class Command(BaseCommand):
    """Back up the database and the photos into one file."""

    help = "Back up the database and the photos into one file, while the server runs."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("file", type=Path, help="the file, or a folder for one with the time")
        parser.add_argument(
            "--keep",
            type=int,
            default=0,
            metavar="N",
            help="in a folder, keep the newest N backups and remove older ones",
        )

    def handle(self, *args: Any, **options: Any) -> None:
        """Make it, and say what is in it."""
        target: Path = options["file"]
        if options["keep"] < 0 or (options["keep"] and not target.is_dir()):
            raise CommandError("--keep is for a folder, and a number from 1.")
        try:
            made = make(
                target,
                database=database_file(),
                media=Path(settings.MEDIA_ROOT),
                now=timezone.now(),
            )
            gone = keep_newest(target, options["keep"]) if options["keep"] else []
        except BackupError as error:
            raise CommandError(str(error)) from None
        self.stdout.write(f"{made.path}: {made.path.stat().st_size:,} bytes, {made.photos} photos.")
        if gone:
            self.stdout.write(f"{len(gone)} older backups removed.")
        for name in made.missing:
            self.stderr.write(f"The file of a photo is not there: {name}")

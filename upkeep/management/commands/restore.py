"""``manage.py restore``: a backup in the place of what is there."""

from __future__ import annotations

from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError
from django.db import connection
from django.db.migrations.loader import MigrationLoader
from django.utils import timezone

from eyebolt.data_folder import DATABASE
from upkeep.backup import BackupError, bring_back, make, migrations_of, opened
from upkeep.place import database_file

OURS = "before-restore-%Y%m%d-%H%M%S.tar"


class Command(BaseCommand):
    """Bring a backup back; what was there is backed up first."""

    help = "Bring a backup back in the place of what is there, which is backed up first."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("file", type=Path, help="a file that backup made")

    def handle(self, *args: Any, **options: Any) -> None:
        """Look it over, keep what is there, bring it back, bring it up to date."""
        media = Path(settings.MEDIA_ROOT)
        try:
            with opened(options["file"]) as (folder, told):
                self._refuse_newer(folder / DATABASE)
                kept = self._keep_what_is_there(media)
                connection.close()
                photos = bring_back(folder, database=database_file(), media=media)
        except BackupError as error:
            raise CommandError(str(error)) from None
        call_command("migrate", verbosity=0, interactive=False)
        self.stdout.write(f"Back as it was at {told['made_at']}, with {photos} photos.")
        if kept is not None:
            self.stdout.write(f"What was there before is in {kept}.")

    def _keep_what_is_there(self, media: Path) -> Path | None:
        now = timezone.now()
        if "book_photo" not in connection.introspection.table_names():
            return None
        target = Path(settings.DATA_DIR) / now.strftime(OURS)
        return make(target, database=database_file(), media=media, now=now).path

    def _refuse_newer(self, database: Path) -> None:
        """A backup of a later version may hold what this one would misread."""
        known = set(MigrationLoader(None).disk_migrations)
        ours = {app for app, _ in known}
        unknown = {one for one in migrations_of(database) - known if one[0] in ours}
        if unknown:
            raise BackupError(
                "That backup was made by a later version. Bring the application up to date first."
            )

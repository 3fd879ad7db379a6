"""Takes away what nothing needs any more: ``manage.py sweep``, once a night."""

from __future__ import annotations

from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError

from book.services.intakes import sweep_intakes
from book.services.photos import sweep
from book.services.removal import names_kept, sweep_removed
from longwork.running import sweep as sweep_long_work
from yards.audit import sweep as sweep_events
from yards.throttle import sweep as sweep_tries


class Command(BaseCommand):
    """Photos' files without a row, long work of yesterday, sessions that have run out."""

    help = "Takes away files of photos without a row, old long work, and sessions that ran out."

    def handle(self, *args: Any, **options: Any) -> None:
        """Sweep, and say how much."""
        try:
            removed = sweep_removed()
            sweep_intakes()
            photos = sweep(kept=names_kept())
        except OSError as error:
            raise CommandError(f"The photos cannot be swept: {error.strerror}.") from None
        sweep_long_work()
        sweep_tries()
        sweep_events()
        call_command("clearsessions")
        self.stdout.write(f"{removed} removed things can be brought back no more.")
        self.stdout.write(f"{photos} files of photos without a row are gone.")

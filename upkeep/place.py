"""Where the database is."""

from __future__ import annotations

from pathlib import Path

from django.db import connection

from upkeep.backup import BackupError


def database_file() -> Path:
    """The file of the database.

    Raises:
        BackupError: it is on a server of its own, which has tools of its own.
    """
    if connection.vendor != "sqlite":
        raise BackupError(
            "The database is on a server of its own. Use its pg_dump and pg_restore, and copy "
            "the folder media of the data folder."
        )
    return Path(connection.settings_dict["NAME"])

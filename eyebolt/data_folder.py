"""The folder that holds all of a yard's data: there, writable, and for nobody else's eyes."""

from __future__ import annotations

import os
import sqlite3
import stat
from contextlib import closing
from pathlib import Path
from typing import Final

FOLDER_MODE: Final = 0o700
FILE_MODE: Final = 0o600

DATABASE: Final = "eyebolt.sqlite3"
PROBE: Final = b"room for a little"


class DataFolderError(SystemExit):
    """The folder cannot be used: the process ends with one line that says what to do."""


def prepare(folder: Path) -> None:
    """Make the folder where it is missing, keep others out, and try whether it can be written.

    Raises:
        DataFolderError: it cannot be made, written or kept from others.
    """
    try:
        folder.mkdir(mode=FOLDER_MODE, parents=True, exist_ok=True)
    except (FileExistsError, NotADirectoryError):
        raise DataFolderError(
            f"{folder} is not a folder. Choose another one with EYEBOLT_DATA."
        ) from None
    except OSError as error:
        raise DataFolderError(
            f"The data folder {folder} cannot be made: {error.strerror}. Choose another one with "
            "EYEBOLT_DATA."
        ) from None
    try:
        _close(folder)
        _try_to_write(folder)
    except OSError as error:
        raise DataFolderError(_words(folder, error)) from None


def _close(folder: Path) -> None:
    """Take from others what they may do with the folder and the files right in it."""
    if stat.S_IMODE(folder.stat().st_mode) & 0o077:
        folder.chmod(FOLDER_MODE)
    for path in folder.iterdir():
        if path.is_file() and stat.S_IMODE(path.stat().st_mode) & 0o077:
            path.chmod(FILE_MODE)


def own_database(folder: Path) -> None:
    """Make the database's file where it is missing, so that it is nobody else's from its first
    byte; its companions are made with the same rights."""
    os.close(os.open(folder / DATABASE, os.O_CREAT | os.O_WRONLY, FILE_MODE))


def _try_to_write(folder: Path) -> None:
    probe = folder / f".probe.{os.getpid()}"
    try:
        descriptor = os.open(probe, os.O_CREAT | os.O_WRONLY | os.O_TRUNC, FILE_MODE)
        try:
            os.write(descriptor, PROBE)
            os.fsync(descriptor)
        finally:
            os.close(descriptor)
    finally:
        probe.unlink(missing_ok=True)


def _words(folder: Path, error: OSError) -> str:
    if error.errno in (28, 122):
        return f"The disk of the data folder {folder} is full. Make room, then start again."
    return (
        f"The data folder {folder} cannot be written: {error.strerror}. It has to belong to the "
        "user that runs the server."
    )


def check_database(folder: Path) -> None:
    """Look whether the database is whole; quick, and nothing is written.

    Raises:
        DataFolderError: it is damaged.
    """
    path = folder / DATABASE
    try:
        with closing(sqlite3.connect(f"file:{path}?mode=rw", uri=True, timeout=10)) as database:
            found = database.execute("PRAGMA quick_check(1)").fetchone()[0]
    except sqlite3.DatabaseError as error:
        found = str(error)
    if found != "ok":
        told = " ".join(found.split())
        raise DataFolderError(
            f"The database {path} is damaged ({told}). Restore a backup: manage.py restore FILE."
        )

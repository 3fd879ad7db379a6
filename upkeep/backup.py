"""A backup: one file with the database and the photos, made while the server runs, and back.

The database is copied by its own online backup, so the copy is one moment of it, whoever writes
meanwhile. Photos are files beside it: one that was removed since that moment is taken out of the
copy too, so that what is in a backup is always whole.
"""

from __future__ import annotations

import hashlib
import io
import json
import os
import sqlite3
import tarfile
import tempfile
from collections.abc import Iterator
from contextlib import closing, contextmanager
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import Any, Final

from eyebolt.data_folder import DATABASE, FILE_MODE, FOLDER_MODE

FORMAT: Final = "eyebolt.backup"
VERSION: Final = 1
MANIFEST: Final = "manifest.json"
MEDIA: Final = "media"
NAME: Final = "eyebolt-%Y%m%d-%H%M%S.tar"
LARGEST_MANIFEST: Final = 10_000


class BackupError(Exception):
    """It cannot be made or brought back; the message says what to do."""


@dataclass(frozen=True, kw_only=True)
class Made:
    """A backup that was made: photos in it, and those whose files were not there."""

    path: Path
    photos: int
    missing: tuple[str, ...] = ()


def make(target: Path, *, database: Path, media: Path, now: datetime) -> Made:
    """Back everything up into a file; a folder gets a file named after the time.

    The file is whole or not there: it is written beside its place and moved there.

    Raises:
        BackupError: it cannot be written.
    """
    path = target / now.strftime(NAME) if target.is_dir() else target
    part = path.with_name(f".{path.name}.{os.getpid()}")
    try:
        with tempfile.TemporaryDirectory(dir=path.parent) as scratch:
            copy = Path(scratch) / DATABASE
            _copy(database, copy)
            names, missing = _photos(copy, database, media)
            _write(part, copy, media, names, now)
        part.replace(path)
    except (OSError, sqlite3.Error) as error:
        part.unlink(missing_ok=True)
        raise BackupError(f"The backup {path} cannot be made: {error}.") from error
    return Made(path=path, photos=len(names), missing=tuple(missing))


def _copy(database: Path, copy: Path) -> None:
    with closing(_opened(database)) as source, closing(sqlite3.connect(copy)) as target:
        source.backup(target)
        # one file by itself, without a log of its own beside it
        target.execute("PRAGMA journal_mode=DELETE")


def _opened(database: Path) -> sqlite3.Connection:
    return sqlite3.connect(f"file:{database}?mode=rw", uri=True, timeout=30)


def _photos(copy: Path, database: Path, media: Path) -> tuple[list[str], list[str]]:
    """Files of the copy's photos, and those that are not there though the yard still has them."""
    with closing(sqlite3.connect(copy)) as kept, closing(_opened(database)) as live:
        names = [str(row[0]) for row in kept.execute("SELECT file FROM book_photo ORDER BY id")]
        names += _removed(kept)
        there = [name for name in names if (media / name).is_file()]
        missing = []
        for name in sorted(set(names) - set(there)):
            if live.execute("SELECT 1 FROM book_photo WHERE file = ?", (name,)).fetchone():
                missing.append(name)
            else:
                kept.execute("DELETE FROM book_photo WHERE file = ?", (name,))
        kept.commit()
    return there, missing


def _removed(kept: sqlite3.Connection) -> list[str]:
    """Files of photos of what was removed and can be brought back."""
    tables = "SELECT 1 FROM sqlite_master WHERE name = 'book_removed'"
    if kept.execute(tables).fetchone() is None:
        return []
    rows = kept.execute("SELECT files FROM book_removed ORDER BY id")
    return [str(name) for (files,) in rows for name in json.loads(files)]


def _write(part: Path, copy: Path, media: Path, names: list[str], now: datetime) -> None:
    told = {
        "format": FORMAT,
        "version": VERSION,
        "made_at": now.isoformat(timespec="seconds"),
        "sha256": _digest(copy),
        "photos": len(names),
    }
    descriptor = os.open(part, os.O_CREAT | os.O_WRONLY | os.O_TRUNC, FILE_MODE)
    with os.fdopen(descriptor, "wb") as file:
        with tarfile.open(fileobj=file, mode="w") as archive:
            written = json.dumps(told, indent=1).encode()
            entry = tarfile.TarInfo(MANIFEST)
            entry.size, entry.mode = len(written), FILE_MODE
            archive.addfile(entry, io.BytesIO(written))
            archive.add(copy, DATABASE, recursive=False)
            for name in names:
                archive.add(media / name, f"{MEDIA}/{name}", recursive=False)
        file.flush()
        os.fsync(file.fileno())


def _digest(path: Path) -> str:
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


def keep_newest(folder: Path, count: int) -> list[Path]:
    """Remove all but the newest backups of a folder; those removed.

    Raises:
        BackupError: one cannot be removed.
    """
    made = sorted(folder.glob("eyebolt-*.tar"))
    gone = made[:-count] if count else []
    try:
        for path in gone:
            path.unlink()
    except OSError as error:
        raise BackupError(f"An old backup cannot be removed: {error}.") from error
    return gone


@contextmanager
def opened(path: Path) -> Iterator[tuple[Path, dict[str, Any]]]:
    """A backup unpacked into a folder of its own, looked over and found whole, with what its
    manifest says.

    Raises:
        BackupError: it is no backup, or a damaged one.
    """
    with tempfile.TemporaryDirectory() as scratch:
        folder = Path(scratch)
        try:
            with tarfile.open(path) as archive:
                archive.extractall(folder, filter="data")
        except FileNotFoundError:
            raise BackupError(f"There is no {path}.") from None
        except (OSError, tarfile.TarError) as error:
            raise BackupError(f"{path} cannot be read: {error}.") from None
        yield folder, _looked_over(path, folder)


def _looked_over(path: Path, folder: Path) -> dict[str, Any]:
    try:
        told = json.loads((folder / MANIFEST).read_text("utf-8")[:LARGEST_MANIFEST])
        known = told["format"] == FORMAT and told["version"] == VERSION
        whole = known and told["sha256"] == _digest(folder / DATABASE)
    except (OSError, ValueError, KeyError, TypeError):
        raise BackupError(f"{path} is no backup of ours.") from None
    if not known:
        raise BackupError(f"{path} is a backup of a kind that this version does not know.")
    with closing(sqlite3.connect(folder / DATABASE)) as database:
        try:
            found = database.execute("PRAGMA integrity_check(1)").fetchone()[0]
        except sqlite3.DatabaseError as error:
            found = str(error)
    if not whole or found != "ok":
        raise BackupError(f"{path} is damaged. Use an older backup; nothing was changed.")
    return dict(told)


def migrations_of(database: Path) -> set[tuple[str, str]]:
    """Names of the changes of its shape that a database has been through."""
    with closing(sqlite3.connect(database)) as opened_database:
        rows = opened_database.execute("SELECT app, name FROM django_migrations")
        return {(str(app), str(name)) for app, name in rows}


def bring_back(folder: Path, *, database: Path, media: Path) -> int:
    """Put an unpacked backup in the place of what is there; photos that came.

    Photos come first, under names that nothing else has; then the database becomes the backup's in
    one step, also for servers that have it open.

    Raises:
        BackupError: it cannot be written; the database is as it was then.
    """
    try:
        came = 0
        for file in sorted((folder / MEDIA).rglob("*")):
            if file.is_file():
                place = media / file.relative_to(folder / MEDIA)
                place.parent.mkdir(mode=FOLDER_MODE, parents=True, exist_ok=True)
                part = place.with_name(f".{place.name}")
                part.write_bytes(file.read_bytes())
                part.chmod(FILE_MODE)
                part.replace(place)
                came += 1
        with (
            closing(sqlite3.connect(folder / DATABASE)) as source,
            closing(sqlite3.connect(database, timeout=30)) as target,
        ):
            source.backup(target)
    except (OSError, sqlite3.Error) as error:
        raise BackupError(f"The backup cannot be brought back: {error}.") from error
    return came

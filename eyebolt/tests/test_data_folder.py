"""The data folder: closed to others, and one clear line where it cannot be used."""

from __future__ import annotations

import os
import sqlite3
import stat
import subprocess
import sys
import tempfile
from pathlib import Path
from unittest.mock import patch

from django.test import SimpleTestCase

from eyebolt.data_folder import DATABASE, DataFolderError, check_database, own_database, prepare

ROOT = Path(__file__).resolve().parent.parent.parent


class DataFolder(SimpleTestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory())) / "data"

    def mode(self, path: Path) -> int:
        return stat.S_IMODE(path.stat().st_mode)

    def test_nobody_else_may_look(self) -> None:
        prepare(self.folder)
        self.assertEqual(list(self.folder.iterdir()), [])
        own_database(self.folder)
        self.assertEqual(self.mode(self.folder), 0o700)
        self.assertEqual(self.mode(self.folder / DATABASE), 0o600)
        with sqlite3.connect(self.folder / DATABASE) as database:
            database.execute("PRAGMA journal_mode=WAL")
            database.execute("CREATE TABLE t (a)")
            database.commit()
            for path in self.folder.iterdir():
                self.assertEqual(self.mode(path), 0o600, path)
        database.close()

    def test_what_an_earlier_version_left_open_is_closed(self) -> None:
        self.folder.mkdir(mode=0o755)
        (self.folder / "secret_key").write_text("key")
        (self.folder / "secret_key").chmod(0o644)
        prepare(self.folder)
        self.assertEqual(self.mode(self.folder), 0o700)
        self.assertEqual(self.mode(self.folder / "secret_key"), 0o600)

    def test_a_folder_that_cannot_be_used_is_said_in_one_line(self) -> None:
        for error, words in (
            (OSError(28, "No space left on device"), "is full. Make room"),
            (OSError(30, "Read-only file system"), "cannot be written: Read-only file system"),
            (PermissionError(13, "Permission denied"), "cannot be written: Permission denied"),
        ):
            with (
                self.subTest(words=words),
                patch("eyebolt.data_folder.os.fsync", side_effect=error),
                self.assertRaises(DataFolderError) as caught,
            ):
                prepare(self.folder)
            self.assertIn(words, str(caught.exception))
            self.assertNotIn("\n", str(caught.exception))
        self.assertEqual(list(self.folder.iterdir()), [])

    def test_a_file_where_the_folder_should_be(self) -> None:
        self.folder.write_text("")
        with self.assertRaisesRegex(DataFolderError, "is not a folder"):
            prepare(self.folder)
        with self.assertRaisesRegex(DataFolderError, "is not a folder"):
            prepare(self.folder / "below")

    def test_the_whole_program_ends_with_that_line(self) -> None:
        self.folder.write_text("")
        done = subprocess.run(
            [sys.executable, "manage.py", "check"],
            cwd=ROOT,
            env={**os.environ, "EYEBOLT_DATA": str(self.folder)},
            capture_output=True,
            text=True,
            check=False,
        )
        self.assertEqual(done.returncode, 1)
        self.assertEqual(done.stderr.count("\n"), 1, done.stderr)
        self.assertIn("is not a folder", done.stderr)

    def test_a_damaged_database_is_said(self) -> None:
        prepare(self.folder)
        own_database(self.folder)
        check_database(self.folder)
        database = sqlite3.connect(self.folder / DATABASE)
        database.execute("CREATE TABLE t (a)")
        database.executemany("INSERT INTO t VALUES (?)", [("x" * 500,)] * 200)
        database.commit()
        database.close()
        check_database(self.folder)
        data = bytearray((self.folder / DATABASE).read_bytes())
        data[5000:20000] = b"\xff" * 15000
        (self.folder / DATABASE).write_bytes(data)
        with self.assertRaisesRegex(DataFolderError, "damaged.*Restore a backup"):
            check_database(self.folder)
        (self.folder / DATABASE).write_bytes(b"not a database at all" * 100)
        with self.assertRaisesRegex(DataFolderError, "damaged"):
            check_database(self.folder)

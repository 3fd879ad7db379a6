"""Backups and bringing them back, while others write; health; sweeping."""

from __future__ import annotations

import io
import os
import sqlite3
import subprocess
import sys
import tarfile
import tempfile
import threading
from contextlib import closing
from datetime import UTC, datetime
from pathlib import Path
from unittest.mock import patch

from django.core.management import CommandError, call_command
from django.db import DatabaseError
from django.test import SimpleTestCase, TestCase

from upkeep.backup import (
    DATABASE,
    MEDIA,
    BackupError,
    Made,
    bring_back,
    keep_newest,
    make,
    opened,
)

ROOT = Path(__file__).resolve().parent.parent.parent
NOW = datetime(2026, 5, 31, 6, 0, tzinfo=UTC)


class BackupCase(SimpleTestCase):
    """A small database of the shape that a backup looks at, with photos beside it."""

    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.media = self.folder / "data" / MEDIA
        (self.media / "photos").mkdir(parents=True)
        self.database = self.folder / "data" / DATABASE
        with closing(self.connect()) as made:
            made.execute("PRAGMA journal_mode=WAL")
            made.execute("CREATE TABLE book_photo (id INTEGER PRIMARY KEY, file TEXT)")
            made.execute("CREATE TABLE django_migrations (app TEXT, name TEXT)")
            made.execute("CREATE TABLE pairs (n INTEGER, half INTEGER)")
            made.commit()

    def connect(self) -> sqlite3.Connection:
        return sqlite3.connect(self.database, timeout=30)

    def photo(self, number: int) -> str:
        name = f"photos/{number}.jpg"
        (self.media / name).write_bytes(f"picture {number}".encode())
        with closing(self.connect()) as there:
            there.execute("INSERT INTO book_photo VALUES (?, ?)", (number, name))
            there.commit()
        return name

    def backup(self, name: str = "kept.tar") -> Made:
        return make(self.folder / name, database=self.database, media=self.media, now=NOW)

    def kept(self, made: Made, query: str) -> list[tuple[int, ...]]:
        """What the database in a backup answers."""
        with (
            opened(made.path) as (folder, _),
            closing(sqlite3.connect(folder / DATABASE)) as kept,
        ):
            return kept.execute(query).fetchall()


class Backups(BackupCase):
    def test_everything_comes_back(self) -> None:
        first, second = self.photo(1), self.photo(2)
        made = self.backup()
        self.assertEqual((made.photos, made.missing), (2, ()))
        self.assertEqual(made.path.stat().st_mode & 0o777, 0o600)
        with closing(self.connect()) as there:
            there.execute("DELETE FROM book_photo")
            there.commit()
        (self.media / first).unlink()
        (self.media / second).write_bytes(b"another")
        with opened(made.path) as (folder, told):
            self.assertEqual(told["made_at"], "2026-05-31T06:00:00+00:00")
            came = bring_back(folder, database=self.database, media=self.media)
        self.assertEqual(came, 2)
        with closing(self.connect()) as there:
            self.assertEqual(there.execute("SELECT COUNT(*) FROM book_photo").fetchone(), (2,))
            self.assertEqual(there.execute("PRAGMA journal_mode").fetchone(), ("wal",))
        self.assertEqual((self.media / second).read_bytes(), b"picture 2")

    def test_made_while_others_write_it_is_one_moment(self) -> None:
        ended = threading.Event()

        def write() -> None:
            with closing(self.connect()) as there:
                n = 0
                while not ended.is_set():
                    n += 1
                    there.execute("INSERT INTO pairs VALUES (?, 1)", (n,))
                    there.execute("INSERT INTO pairs VALUES (?, 2)", (n,))
                    there.commit()

        writers = [threading.Thread(target=write) for _ in range(2)]
        for writer in writers:
            writer.start()
        counts = []
        try:
            for n in range(12):
                counts += self.kept(self.backup(f"{n}.tar"), "SELECT COUNT(*) FROM pairs")[0]
        finally:
            ended.set()
            for writer in writers:
                writer.join()
        self.assertEqual([count % 2 for count in counts], [0] * 12)
        self.assertGreater(counts[-1], counts[0])

    def test_brought_back_while_others_read_and_write_nobody_sees_half(self) -> None:
        with closing(self.connect()) as there:
            there.executemany("INSERT INTO pairs VALUES (?, 1)", [(n,) for n in range(4000)])
            there.commit()
        made = self.backup()
        with closing(self.connect()) as there:
            there.execute("DELETE FROM pairs WHERE n < 3000")
            there.commit()
        seen: set[int] = set()
        faults: list[Exception] = []
        ended = threading.Event()

        def look_and_write() -> None:
            with closing(self.connect()) as there:
                while not ended.is_set():
                    try:
                        seen.add(there.execute("SELECT COUNT(*) FROM pairs").fetchone()[0])
                        there.execute("INSERT INTO django_migrations VALUES ('a', 'b')")
                        there.commit()
                    except sqlite3.Error as error:
                        faults.append(error)
                        return

        reader = threading.Thread(target=look_and_write)
        reader.start()
        try:
            with opened(made.path) as (folder, _):
                bring_back(folder, database=self.database, media=self.media)
        finally:
            ended.set()
            reader.join()
        self.assertEqual(faults, [])
        self.assertLessEqual(seen, {1000, 4000})
        with closing(self.connect()) as there:
            self.assertEqual(there.execute("SELECT COUNT(*) FROM pairs").fetchone(), (4000,))

    def test_a_photo_removed_in_between_is_not_in_it(self) -> None:
        self.photo(1)
        gone = self.photo(2)
        lost = self.photo(3)
        (self.media / lost).unlink()
        plain = sqlite3.Connection.backup

        def removed_meanwhile(source: sqlite3.Connection, target: sqlite3.Connection) -> None:
            plain(source, target)
            with closing(self.connect()) as there:
                there.execute("DELETE FROM book_photo WHERE id = 2")
                there.commit()
            (self.media / gone).unlink()

        with patch("upkeep.backup._copy") as copy:

            def copied(database: Path, where: Path) -> None:
                with closing(self.connect()) as a, closing(sqlite3.connect(where)) as b:
                    removed_meanwhile(a, b)

            copy.side_effect = copied
            made = self.backup()
        self.assertEqual((made.photos, made.missing), (1, (lost,)))
        rows = self.kept(made, "SELECT id FROM book_photo ORDER BY id")
        self.assertEqual(rows, [(1,), (3,)])

    def test_what_is_no_backup_or_a_damaged_one_changes_nothing(self) -> None:
        path = self.folder / "x.tar"
        whole = self.backup().path.read_bytes()
        other = io.BytesIO()
        with tarfile.open(fileobj=other, mode="w") as archive:
            entry = tarfile.TarInfo("../../out")
            entry.size = 1
            archive.addfile(entry, io.BytesIO(b"x"))
        cut = bytearray(whole)
        at = whole.index(b"SQLite format 3")
        cut[at + 200 : at + 260] = b"\xff" * 60
        for content, words in (
            (b"no archive", "cannot be read"),
            (whole[:3000], "cannot be read|no backup"),
            (bytes(cut), "damaged"),
            (other.getvalue(), "cannot be read|no backup"),
            (whole.replace(b'"version": 1', b'"version": 9'), "does not know"),
            (whole.replace(b'"eyebolt.backup"', b'"something.else"'), "does not know"),
        ):
            path.write_bytes(content)
            with (
                self.subTest(words=words),
                self.assertRaisesRegex(BackupError, words),
                opened(path),
            ):
                self.fail("it was opened")
        with self.assertRaisesRegex(BackupError, "There is no"), opened(self.folder / "none.tar"):
            self.fail("it was opened")

    def test_a_full_disk_leaves_no_half_of_one(self) -> None:
        with (
            patch("upkeep.backup.os.fsync", side_effect=OSError(28, "No space left on device")),
            self.assertRaisesRegex(BackupError, "No space left"),
        ):
            self.backup()
        self.assertEqual([p.name for p in self.folder.iterdir()], ["data"])

    def test_nightly_copies_are_kept_by_number(self) -> None:
        folder = self.folder / "nightly"
        folder.mkdir()
        for day in range(1, 6):
            make(folder, database=self.database, media=self.media, now=NOW.replace(day=day))
        (folder / "notes.txt").write_text("mine")
        keep_newest(folder, 3)
        self.assertEqual(
            sorted(p.name for p in folder.iterdir()),
            [*(f"eyebolt-2026050{day}-060000.tar" for day in (3, 4, 5)), "notes.txt"],
        )


class WholeProgram(SimpleTestCase):
    """The commands as somebody types them, on a demo yard of their own."""

    def run_in(self, data: Path, *command: str, fails: bool = False) -> str:
        done = subprocess.run(
            [sys.executable, "manage.py", *command],
            cwd=ROOT,
            env={
                **os.environ,
                "EYEBOLT_DATA": str(data),
                "EYEBOLT_HTTPS": "0",
                "DJANGO_SETTINGS_MODULE": "eyebolt.settings",
            },
            capture_output=True,
            text=True,
            check=False,
        )
        self.assertEqual(done.returncode != 0, fails, done.stderr[-2000:])
        return done.stdout + done.stderr

    def test_backed_up_and_brought_back_somewhere_else(self) -> None:
        with tempfile.TemporaryDirectory() as scratch:
            one, two = Path(scratch) / "one", Path(scratch) / "two"
            self.run_in(one, "migrate", "--verbosity=0")
            self.run_in(one, "load_demo")
            kept = Path(scratch) / "kept.tar"
            self.assertIn("2 photos", self.run_in(one, "backup", str(kept)))
            self.assertIn("with 2 photos", self.run_in(two, "restore", str(kept)))
            count = "from hauls.models import Haul; print(Haul.objects.count(), 'hauls')"
            self.assertIn("17 hauls", self.run_in(two, "shell", "-v0", "-c", count))
            photos = [p for p in (two / MEDIA).rglob("*") if p.is_file()]
            self.assertEqual(len(photos), 2)
            # once more over a yard that has something: what was there is kept
            again = self.run_in(two, "restore", str(kept))
            self.assertIn("What was there before is in", again)
            # a later version's backup is not misread
            with closing(sqlite3.connect(two / DATABASE)) as there:
                there.execute(
                    "INSERT INTO django_migrations (app, name, applied) "
                    "VALUES ('hauls', '0999_later', '2030-01-01')"
                )
                there.commit()
            later = Path(scratch) / "later.tar"
            self.run_in(two, "backup", str(later))
            refused = self.run_in(one, "restore", str(later), fails=True)
            self.assertIn("made by a later version", refused)
            wrong = self.run_in(one, "backup", str(kept), "--keep", "3", fails=True)
            self.assertIn("--keep is for a folder", wrong)


class Health(TestCase):
    def test_it_is_well(self) -> None:
        answer = self.client.get("/healthz")
        self.assertEqual((answer.status_code, answer.content), (200, b"ok\n"))
        self.assertIn("no-store", answer["Cache-Control"])
        self.assertEqual(self.client.head("/healthz").status_code, 200)

    def test_the_database_does_not_answer(self) -> None:
        with (
            patch("upkeep.views.connection.cursor", side_effect=DatabaseError),
            self.assertLogs("upkeep.views", "ERROR"),
        ):
            self.assertEqual(self.client.get("/healthz").status_code, 503)

    def test_it_is_answered_however_busy_the_server_is(self) -> None:
        with patch("web.middleware._places", threading.BoundedSemaphore(1)) as places:
            places.acquire()
            self.assertEqual(self.client.get("/healthz").status_code, 200)
            places.release()

    def test_a_database_elsewhere_has_tools_of_its_own(self) -> None:
        with (
            patch("upkeep.place.connection.vendor", "postgresql"),
            self.assertRaisesMessage(CommandError, "pg_dump"),
        ):
            call_command("backup", "/nowhere/x.tar")

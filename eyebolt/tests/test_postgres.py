"""The application on PostgreSQL, where a server can be started: what asks most of a database."""

from __future__ import annotations

import getpass
import os
import pwd
import shutil
import socket
import subprocess
import sys
import tempfile
from pathlib import Path

from django.test import SimpleTestCase

ROOT = Path(__file__).resolve().parent.parent.parent

TRIED = (
    "book.tests.test_removal",
    "longwork",
    "planning",
    "yards.tests.test_audit",
    "yards.tests.test_yards",
)
"""Tests that write in many ways, read lists by statements of their own, or count on locks."""


def program(name: str) -> str | None:
    """Where a program of PostgreSQL is; Debian keeps them out of the way."""
    places = sorted(Path("/usr/lib/postgresql").glob(f"*/bin/{name}"), reverse=True)
    return shutil.which(name) or next((str(path) for path in places), None)


class OnPostgres(SimpleTestCase):
    def setUp(self) -> None:
        found = {name: program(name) for name in ("initdb", "pg_ctl")}
        if not all(found.values()):
            self.skipTest("PostgreSQL is not on this machine: install its package to try it")
        # it does not run as root
        self.user = "nobody" if os.geteuid() == 0 else getpass.getuser()
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        owner = pwd.getpwnam(self.user)
        os.chown(self.folder, owner.pw_uid, owner.pw_gid)
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = probe.getsockname()[1]
        data = str(self.folder / "data")
        self.run_as_owner(
            found["initdb"], "-D", data, "-U", "eyebolt", "--auth=trust", "-E", "UTF8"
        )
        options = f"-p {self.port} -k {self.folder} -c listen_addresses=127.0.0.1 -c fsync=off"
        log = str(self.folder / "log")
        self.run_as_owner(found["pg_ctl"], "-D", data, "-o", options, "-l", log, "-w", "start")
        self.addCleanup(
            self.run_as_owner, found["pg_ctl"], "-D", data, "-m", "immediate", "-w", "stop"
        )

    def run_as_owner(self, *command: str | None) -> None:
        changed = {"user": self.user} if os.geteuid() == 0 else {}
        done = subprocess.run(
            [str(part) for part in command],
            cwd="/",
            stdin=subprocess.DEVNULL,
            stdout=subprocess.DEVNULL,
            stderr=subprocess.PIPE,
            check=False,
            **changed,
        )
        self.assertEqual(done.returncode, 0, done.stderr[-2000:])

    def test_what_asks_most_of_a_database(self) -> None:
        with tempfile.TemporaryDirectory() as data:
            done = subprocess.run(
                [sys.executable, "-W", "ignore", "manage.py", "test", "--noinput", *TRIED],
                cwd=ROOT,
                env={
                    **os.environ,
                    "DATABASE_URL": f"postgres://eyebolt@127.0.0.1:{self.port}/postgres",
                    "DJANGO_SETTINGS_MODULE": "eyebolt.settings_test",
                    "EYEBOLT_DATA": data,
                },
                capture_output=True,
                text=True,
                check=False,
            )
        self.assertEqual(done.returncode, 0, done.stderr[-4000:])
        self.assertRegex(done.stderr, r"Ran \d{2,} tests")

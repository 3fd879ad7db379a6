"""Serving a real yard: looked over first, refused in one line where something is not right."""

from __future__ import annotations

import http.client
import os
import signal
import socket
import subprocess
import sys
import tempfile
import threading
from pathlib import Path

from django.test import SimpleTestCase

ROOT = Path(__file__).resolve().parent.parent.parent


class Serving(SimpleTestCase):
    def setUp(self) -> None:
        self.data = Path(self.enterContext(tempfile.TemporaryDirectory())) / "data"
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = probe.getsockname()[1]
        self.environment = {
            **os.environ,
            "EYEBOLT_DATA": str(self.data),
            "EYEBOLT_GAUGE_PORT": "0",
            "DJANGO_SETTINGS_MODULE": "eyebolt.settings",
            "PORT": str(self.port),
        }

    def manage(self, *command: str, typed: str = "") -> None:
        subprocess.run(
            [sys.executable, "manage.py", *command],
            cwd=ROOT, env=self.environment, input=typed, text=True, check=True,
            stdout=subprocess.DEVNULL,
        )  # fmt: skip

    def refused(self) -> str:
        done = subprocess.run(
            [sys.executable, "-m", "scripts.serve"],
            cwd=ROOT, env=self.environment, capture_output=True, text=True, check=False,
        )  # fmt: skip
        self.assertEqual(done.returncode, 1, done.stderr)
        self.assertEqual(done.stderr.count("\n"), 1, done.stderr)
        return done.stderr

    def test_the_demo_yard_is_served_to_nobody(self) -> None:
        self.manage("migrate", "--verbosity=0")
        self.manage("load_demo")
        self.assertIn("whose password everybody knows", self.refused())

    def test_a_damaged_database(self) -> None:
        self.data.mkdir()
        (self.data / "eyebolt.sqlite3").write_bytes(b"no database" * 1000)
        self.assertIn("is damaged", self.refused())

    def test_a_port_that_is_taken_or_none(self) -> None:
        with socket.create_server(("127.0.0.1", self.port)):
            self.assertIn("is in use", self.refused())
        self.environment["PORT"] = "many"
        self.assertIn("is not a port", self.refused())

    def test_it_serves_a_real_yard_and_tells_whether_it_is_well(self) -> None:
        self.environment["EYEBOLT_SIGN_UP"] = "0"
        server = subprocess.Popen(
            [sys.executable, "-m", "scripts.serve"],
            cwd=ROOT, env=self.environment, stdout=subprocess.PIPE, text=True,
        )  # fmt: skip
        try:
            lines = []
            while not any("serves on" in line for line in lines):
                line = server.stdout.readline()
                self.assertTrue(line, lines)
                lines.append(line)
            self.assertIn("add_yard", "".join(lines))
            self.assertIn("EYEBOLT_HOSTS", "".join(lines))
            self.manage(
                "add_yard", "Home Farm", "ida", "--password-from-input", typed="a-long-word-7\n"
            )
            self.assertEqual(self.ask("/healthz"), (200, None))
            # whoever comes without HTTPS is sent there
            self.assertEqual(self.ask("/sign-in/")[0], 301)
            behind_a_proxy = {"X-Forwarded-Proto": "https", "Host": "localhost"}
            status, hsts = self.ask("/sign-in/", behind_a_proxy)
            self.assertEqual((status, hsts), (200, "max-age=31536000"))
            self.assertEqual(self.ask("/sign-up/", behind_a_proxy)[0], 404)
        finally:
            server.send_signal(signal.SIGTERM)
            server.wait(30)
            server.stdout.close()

    def ask(self, path: str, headers: dict[str, str] | None = None) -> tuple[int, str | None]:
        """Status, and what is said of HTTPS; asked again until the server listens."""
        for _ in range(600):
            try:
                wire = http.client.HTTPConnection("127.0.0.1", self.port, timeout=30)
                wire.request("GET", path, headers=headers or {})
                answer = wire.getresponse()
                answer.read()
                return answer.status, answer.getheader("Strict-Transport-Security")
            except ConnectionRefusedError:
                threading.Event().wait(0.05)
        raise AssertionError("the server does not listen")

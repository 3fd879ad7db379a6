"""Killed in the middle of its work again and again, the application keeps what it answered."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

from django.test import SimpleTestCase

ROOT = Path(__file__).resolve().parent.parent.parent


class Crash(SimpleTestCase):
    def test_fifty_kills_lose_no_answered_write(self) -> None:
        """A thousand of them are ``make crash``."""
        done = subprocess.run(
            [sys.executable, "-W", "ignore", "-m", "scripts.crash", "50"],
            cwd=ROOT,
            capture_output=True,
            text=True,
            check=False,
        )
        self.assertEqual(done.returncode, 0, done.stdout + done.stderr[-3000:])
        self.assertRegex(done.stdout, r"^50 kills, \d+ answered writes, 0 lost")

"""Databases that earlier versions left behind: each migrates, and what is in it opens.

Each is tried in a process of its own, against a file of its own, as an upgrade would be.
"""

from __future__ import annotations

import gzip
import os
import sqlite3
import subprocess
import sys
import tempfile
from pathlib import Path

from django.test import SimpleTestCase

ROOT = Path(__file__).resolve().parent.parent.parent
FOLDER = Path(__file__).resolve().parent / "databases"

OPENS = """
import django
django.setup()
from django.conf import settings
from django.core.management import call_command
from django.test import Client
settings.ALLOWED_HOSTS = ["testserver"]
call_command("migrate", verbosity=0)
from book.models import Machine, Trailer, Truck
from hauls.models import Haul
from yards.models import User
user = User.objects.get(username="demo")
client = Client()
client.force_login(user)
pages = ["/", "/book/", "/weigh/", "/people/", "/match/"]
for haul in Haul.objects.all():
    pages += [f"/hauls/{haul.pk}/"]
for slug, model in (("trucks", Truck), ("trailers", Trailer), ("machines", Machine)):
    for thing in model.objects.all():
        pages += [f"/book/{slug}/{thing.pk}/", f"/book/{slug}/{thing.pk}/history/"]
wrong = [(page, status) for page in pages if (status := client.get(page).status_code) != 200]
from django.db import connection
unread = [name for name in connection.introspection.table_names() if name.startswith("axes_")]
print("unread tables:", unread)
print(len(pages), "pages,", Haul.objects.count(), "hauls, wrong:", wrong)
"""


class OldDatabases(SimpleTestCase):
    def test_each_migrates_and_opens(self) -> None:
        kept = sorted(FOLDER.glob("*.sql.gz"))
        self.assertGreaterEqual(len(kept), 3)
        for path in kept:
            with self.subTest(database=path.name), tempfile.TemporaryDirectory() as folder:
                with sqlite3.connect(Path(folder) / "eyebolt.sqlite3") as connection:
                    connection.executescript(gzip.decompress(path.read_bytes()).decode())
                connection.close()
                done = subprocess.run(
                    [sys.executable, "-W", "ignore", "-c", OPENS],
                    cwd=ROOT,
                    env={
                        **os.environ,
                        "EYEBOLT_DATA": folder,
                        "EYEBOLT_HTTPS": "0",
                        "DJANGO_SETTINGS_MODULE": "eyebolt.settings_test",
                        "PYTHONPATH": str(ROOT),
                    },
                    capture_output=True,
                    text=True,
                    check=False,
                )
                self.assertEqual(done.returncode, 0, done.stderr[-2000:])
                self.assertIn("wrong: []", done.stdout, done.stderr[-2000:])
                self.assertNotIn(" 0 hauls", done.stdout)
                self.assertIn("unread tables: []", done.stdout)

"""What serving the demo and serving a real yard do alike: a port, the database, the files."""

from __future__ import annotations

import os
import socket
import sys
from pathlib import Path
from typing import NoReturn

ROOT = Path(__file__).resolve().parent.parent


def port_from(text: str) -> int:
    """The port asked for, or a line that says what a port is."""
    if text.isdigit() and 0 < int(text) < 65536:
        return int(text)
    sys.exit(f"PORT={text} is not a port. Choose a number from 1 to 65535.")


def refuse_taken(host: str, port: int, make: str) -> None:
    """Stop with one line where somebody listens on the port already."""
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((host, port))
        except OSError:
            sys.exit(f"Port {port} is in use. Choose another: make {make} PORT={port + 1}")


def static_files_are_current() -> bool:
    """Whether the collected files are newer than every file they were made from."""
    from django.contrib.staticfiles.finders import get_finders

    manifest = ROOT / "staticfiles" / "staticfiles.json"
    if not manifest.exists():
        return False
    made = manifest.stat().st_mtime
    found = (storage.path(name) for finder in get_finders() for name, storage in finder.list([]))
    return all(Path(path).stat().st_mtime < made for path in found)


def set_up() -> None:
    """Settings, a data folder that can be used, a database that is whole and of this version."""
    os.chdir(ROOT)
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "eyebolt.settings")

    import django

    django.setup()
    from django.conf import settings
    from django.core.management import call_command
    from django.db import DatabaseError, connection

    from eyebolt.data_folder import check_database, own_database

    if connection.vendor == "sqlite":
        own_database(settings.DATA_DIR)
        check_database(settings.DATA_DIR)
    try:
        call_command("migrate", verbosity=0, interactive=False)
    except DatabaseError as error:
        sys.exit(f"The database cannot be brought up to date: {str(error).strip().splitlines()[0]}")


def collect() -> None:
    """Styles and scripts where the server takes them from."""
    from django.core.management import call_command

    if not static_files_are_current():
        call_command("collectstatic", verbosity=0, interactive=False)


def serve(host: str, port: int) -> NoReturn:
    """Become the server."""
    os.execv(  # noqa: S606
        sys.executable,
        [
            sys.executable,
            "-m",
            "gunicorn",
            "eyebolt.wsgi",
            "--bind",
            f"{host}:{port}",
            "--config",
            "python:eyebolt.gunicorn",
        ],
    )

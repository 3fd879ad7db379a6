"""Serve the demo yard: migrate, load it once, collect static files, start the server."""

from __future__ import annotations

import os
import socket
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
HOST = "127.0.0.1"


def port_from(text: str) -> int:
    """The port asked for, or a line that says what a port is."""
    if text.isdigit() and 0 < int(text) < 65536:
        return int(text)
    sys.exit(f"PORT={text} is not a port. Choose a number from 1 to 65535.")


def refuse_taken(port: int) -> None:
    """Stop with one line where somebody listens on the port already."""
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((HOST, port))
        except OSError:
            sys.exit(f"Port {port} is in use. Choose another: make demo PORT={port + 1}")


def static_files_are_current() -> bool:
    """Whether the collected files are newer than every file they were made from."""
    from django.contrib.staticfiles.finders import get_finders

    manifest = ROOT / "staticfiles" / "staticfiles.json"
    if not manifest.exists():
        return False
    made = manifest.stat().st_mtime
    found = (storage.path(name) for finder in get_finders() for name, storage in finder.list([]))
    return all(Path(path).stat().st_mtime < made for path in found)


def main() -> None:
    """Prepare and serve; everything here may be run again at any time."""
    port = port_from(os.environ.get("PORT", "8000"))
    refuse_taken(port)
    sys.path.insert(0, str(ROOT))
    os.chdir(ROOT)
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "eyebolt.settings")

    import django
    from django.core.management import call_command

    django.setup()
    call_command("migrate", verbosity=0, interactive=False)
    call_command("load_demo")
    if not static_files_are_current():
        call_command("collectstatic", verbosity=0, interactive=False)

    from demo.login import LOGIN, PASSWORD

    print(f"Eyebolt serves the demo yard on http://{HOST}:{port}/", flush=True)
    print(f"Sign in as {LOGIN} with the password {PASSWORD}. Ctrl-C stops it.", flush=True)
    os.execv(  # noqa: S606
        sys.executable,
        [
            sys.executable,
            "-m",
            "gunicorn",
            "eyebolt.wsgi",
            "--bind",
            f"{HOST}:{port}",
            "--config",
            "python:eyebolt.gunicorn",
        ],
    )


if __name__ == "__main__":
    main()

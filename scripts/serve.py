"""Serve real yards, behind a proxy that speaks HTTPS: see docs/running.md."""

from __future__ import annotations

import os
import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))

from scripts.serving import collect, port_from, refuse_taken, serve, set_up


def refuse_the_demo() -> None:
    """A yard whose password everybody knows is served to nobody."""
    from demo.login import LOGIN
    from yards.models import User

    if User.objects.filter(username=LOGIN).exists():
        sys.exit(
            "This data folder holds the demo yard, whose password everybody knows. Choose another "
            "folder with EYEBOLT_DATA."
        )


def tell_what_is_missing() -> None:
    """What somebody who serves a yard for the first time has still to do."""
    from django.conf import settings

    from yards.models import Yard

    if not Yard.objects.exists() and not settings.SIGN_UP:
        print('There is no yard yet: manage.py add_yard "Home Farm" NAME makes one.', flush=True)
    if settings.HTTPS and set(settings.ALLOWED_HOSTS) <= {"127.0.0.1", "localhost"}:
        print("Nobody but this machine is answered: set EYEBOLT_HOSTS to your name.", flush=True)


def main() -> None:
    """Look everything over, then serve."""
    host = os.environ.get("EYEBOLT_BIND", "127.0.0.1")
    port = port_from(os.environ.get("PORT", "8000"))
    refuse_taken(host, port, "serve")
    set_up()
    refuse_the_demo()
    collect()
    tell_what_is_missing()
    print(f"Eyebolt serves on {host}:{port}", flush=True)
    serve(host, port)


if __name__ == "__main__":
    main()

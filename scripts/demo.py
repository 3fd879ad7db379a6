"""Serve the demo yard: migrate, load it once, collect static files, start the server."""

from __future__ import annotations

import os
import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parent.parent))

from scripts.serving import collect, port_from, refuse_taken, serve, set_up

HOST = "127.0.0.1"


def main() -> None:
    """Prepare and serve; everything here may be run again at any time."""
    port = port_from(os.environ.get("PORT", "8000"))
    refuse_taken(HOST, port, "demo")
    set_up()
    from django.core.management import call_command

    call_command("load_demo", week=True)
    collect()

    from demo.login import LOGIN, PASSWORD

    print(f"Eyebolt serves the demo yard on http://{HOST}:{port}/", flush=True)
    print(f"Sign in as {LOGIN} with the password {PASSWORD}. Ctrl-C stops it.", flush=True)
    serve(HOST, port)


if __name__ == "__main__":
    main()

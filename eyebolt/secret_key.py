"""A signing key made once and kept beside the data, outside version control."""

import os
from pathlib import Path

from django.core.management.utils import get_random_secret_key


def secret_key(folder: Path) -> str:
    """The key in ``folder``, made on first use, readable by its owner alone.

    Two processes that start at once agree: the file is made whole under another name and
    linked into place, and the one that comes second reads the first one's.
    """
    path = folder / "secret_key"
    if not path.exists():
        folder.mkdir(parents=True, exist_ok=True)
        fresh = folder / f"secret_key.{os.getpid()}"
        descriptor = os.open(fresh, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600)
        with os.fdopen(descriptor, "w", encoding="ascii") as file:
            file.write(get_random_secret_key())
        try:
            os.link(fresh, path)
        except FileExistsError:
            pass
        finally:
            fresh.unlink()
    return path.read_text(encoding="ascii").strip()

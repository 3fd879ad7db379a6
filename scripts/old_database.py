"""Keep a database as an earlier version of the application made it, for the test of migrations.

``python -m scripts.old_database COMMIT`` checks that commit out beside this one, with the packages
that it asked for, lets it make and fill its demo yard, and writes what it stored to
``eyebolt/tests/databases/COMMIT.sql.gz``: statements, small when packed, the same whichever version
of the database library wrote them.
"""

from __future__ import annotations

import gzip
import os
import sqlite3
import subprocess
import sys
import tempfile
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
FOLDER = ROOT / "eyebolt" / "tests" / "databases"


def keep(commit: str) -> Path:
    """Make the database of a commit and write it down; where."""
    with tempfile.TemporaryDirectory() as scratch:
        tree, data = Path(scratch) / "tree", Path(scratch) / "data"
        data.mkdir()
        subprocess.run(
            ["git", "worktree", "add", "--detach", "--quiet", str(tree), commit],
            cwd=ROOT,
            check=True,
        )
        try:
            python = Path(scratch) / "venv" / "bin" / "python"
            subprocess.run([sys.executable, "-m", "venv", str(python.parent.parent)], check=True)
            subprocess.run(
                [str(python), "-m", "pip", "install", "--quiet", "-r", "requirements/run.txt"],
                cwd=tree,
                check=True,
            )
            environment = {**os.environ, "EYEBOLT_DATA": str(data), "EYEBOLT_HTTPS": "0"}
            for command in ("migrate", "load_demo"):
                subprocess.run(
                    [str(python), "manage.py", command],
                    cwd=tree,
                    env=environment,
                    check=True,
                    stdout=subprocess.DEVNULL,
                )
        finally:
            subprocess.run(
                ["git", "worktree", "remove", "--force", str(tree)], cwd=ROOT, check=True
            )
        with sqlite3.connect(data / "eyebolt.sqlite3") as connection:
            written = "\n".join(connection.iterdump())
    FOLDER.mkdir(exist_ok=True)
    path = FOLDER / f"{commit}.sql.gz"
    # no time in it: the same database gives the same file
    path.write_bytes(gzip.compress(written.encode(), mtime=0))
    return path


if __name__ == "__main__":
    if len(sys.argv) != 2:
        sys.exit(__doc__)
    found = keep(sys.argv[1])
    print(f"{found.relative_to(ROOT)}: {found.stat().st_size} bytes")

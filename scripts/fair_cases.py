"""Whether the practice yard's cases are fair: ``python -m scripts.fair_cases 1000`` tries so many
numbers of every kind, and tells those of which no case comes or that have no one best answer."""

from __future__ import annotations

import os
import sys

import django


def main() -> int:
    """1 where a case is not fair."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "eyebolt.settings_test")
    django.setup()
    from practice.kinds import KINDS
    from practice.proof import proved

    count = int(sys.argv[1]) if len(sys.argv) > 1 else 1000
    wrong = 0
    for kind in KINDS:
        found = [(seed, told) for seed in range(1, count + 1) if (told := proved(kind, seed))]
        wrong += len(found)
        print(f"{kind.slug}: {count - len(found)} of {count} fair", *found[:5], flush=True)
    return int(bool(wrong))


if __name__ == "__main__":
    sys.exit(main())

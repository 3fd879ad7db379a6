#!/usr/bin/env python
"""Django's command line for this project."""

import os
import sys


def main() -> None:
    """Run one management command."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "eyebolt.settings")
    from django.core.management import execute_from_command_line

    execute_from_command_line(sys.argv)


if __name__ == "__main__":
    main()

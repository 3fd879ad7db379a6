"""What the commands that answer a plan file do alike: read it, print one document."""

from __future__ import annotations

import json
import sys
from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand

from mechanics.errors import MechanicsError
from mechanics.plan import Plan
from planfile.convert import Scale
from planfile.errors import PlanFileError
from planfile.reading import MAX_BYTES, read_plan


class PlanCommand(BaseCommand):
    """Prints what :meth:`answer` makes of a plan file.

    Ends with status 2 and one line for a file that is not a valid plan, or whose figures no
    outfit can have.
    """

    requires_system_checks: list[str] = []

    def answer(self, plan: Plan, unit: Scale) -> dict[str, Any]:
        """The document to print, without its units.

        Raises:
            MechanicsError: figures that no outfit can have.
        """
        raise NotImplementedError

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument(
            "plan", metavar="PLAN.json", help="a plan file, or - for standard input"
        )

    def handle(self, *args: Any, **options: Any) -> None:
        name = options["plan"]
        try:
            # one byte past the limit is enough to know that a file is too large
            if name == "-":
                data = sys.stdin.buffer.read(MAX_BYTES + 1)
            else:
                with Path(name).open("rb") as file:
                    data = file.read(MAX_BYTES + 1)
            raw, plan = read_plan(data)
            units = raw["units"]
            document = self.answer(plan, Scale(units["mass"], units["length"]))
        except OSError as error:
            self._refuse(f"{name}: cannot be read: {error.strerror}")
        except (PlanFileError, MechanicsError) as error:
            self._refuse(str(error))
        self.stdout.write(json.dumps(document, indent=2, ensure_ascii=False, allow_nan=False))

    def _refuse(self, message: str) -> None:
        self.stderr.write(" ".join(message.split()))
        raise SystemExit(2)

"""``manage.py evaluate PLAN.json``: the report of a plan file, with no database."""

from __future__ import annotations

import json
import sys
from argparse import ArgumentParser
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand

from mechanics.errors import MechanicsError
from mechanics.report import evaluate
from planfile.errors import PlanFileError
from planfile.reading import MAX_BYTES, read_plan
from planfile.writing import report_document


class Command(BaseCommand):
    help = "Print the report of a plan file (- reads standard input)."
    requires_system_checks: list[str] = []

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
            report = evaluate(plan)
        except OSError as error:
            self._refuse(f"{name}: cannot be read: {error.strerror}")
        except (PlanFileError, MechanicsError) as error:
            self._refuse(str(error))
        document = report_document(report, mass=raw["units"]["mass"], length=raw["units"]["length"])
        self.stdout.write(json.dumps(document, indent=2, ensure_ascii=False, allow_nan=False))

    def _refuse(self, message: str) -> None:
        self.stderr.write(" ".join(message.split()))
        raise SystemExit(2)

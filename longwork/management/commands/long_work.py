"""Does one piece of long work: begun by the server in a process of its own."""

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from longwork.models import LongWork
from longwork.running import be_modest, run


class Command(BaseCommand):
    help = "Does one piece of long work that a page began."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("work", type=int)

    def handle(self, *args: Any, **options: Any) -> None:
        be_modest()
        there = LongWork.objects.select_related("yard", "begun_by")
        work = there.filter(pk=options["work"]).first()
        if work is None:
            raise CommandError("There is no such work.")
        run(work)

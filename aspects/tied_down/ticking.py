"""Ticks of a haul's lists: who has done which line, and whether that is enough people."""

from __future__ import annotations

from collections import defaultdict
from datetime import datetime
from typing import NamedTuple

from django.utils import timezone

from aspects.tied_down.models import Tick
from hauls.models import Haul
from hauls.road_rules import RoadRules
from wording.phrases import NOBODY
from yards.models import User

ONE_MORE = "one more person has to look"


class Ticked(NamedTuple):
    """What is known of one line: done by enough people, who has, the last time, what is wanted."""

    done: bool = False
    by: str = ""
    at: datetime | None = None
    wants: str = ""


class Ticks:
    """All ticks of a haul, read once; by two people where the yard wants that."""

    def __init__(self, haul: Haul) -> None:
        self.two = RoadRules.of(haul.yard).two_people
        self._of: dict[str, list[Tick]] = defaultdict(list)
        for tick in Tick.objects.filter(haul=haul).select_related("by").order_by("at", "pk"):
            self._of[tick.key].append(tick)

    def of(self, key: str) -> Ticked:
        """What is known of a line."""
        ticks = self._of.get(key, ())
        if not ticks:
            return Ticked()
        people = list(dict.fromkeys(t.by.shown_name if t.by else NOBODY for t in ticks))
        done = len(ticks) >= (2 if self.two else 1)
        return Ticked(
            done=done, by=", ".join(people), at=ticks[-1].at, wants="" if done else ONE_MORE
        )


def tick(haul: Haul, key: str, *, user: User, at: datetime | None = None) -> None:
    """Tick a line; ticked by the same person already, it stays as it was."""
    Tick.objects.get_or_create(haul=haul, key=key, by=user, defaults={"at": at or timezone.now()})


def untick(haul: Haul, key: str, *, user: User) -> None:
    """Take one's own tick back; of a line that only others ticked, theirs."""
    ticks = Tick.objects.filter(haul=haul, key=key)
    own = ticks.filter(by=user)
    (own if own.exists() else ticks).delete()

"""Where a haul's loads really stopped, for whoever asks how they stood."""

from __future__ import annotations

from collections.abc import Mapping

from hauls.models import Haul
from road.models import Stopped


def marks_of(haul: Haul) -> Mapping[str, float]:
    """The marks as they were read last, in metres behind the headboard."""
    found = Stopped.objects.filter(haul=haul).prefetch_related("loads").first()
    return {} if found is None else {one.item_id: float(one.mark.si) for one in found.loads.all()}


MARKS = (marks_of,)

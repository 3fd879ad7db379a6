"""On and off: what happens while a machine climbs, and whether the truck holds.

Statics at a crawl. ``terrain`` is what it drives over, ``stance`` how it stands there,
``outfit`` what truck and trailer carry meanwhile, ``clearance`` what scrapes, ``path`` all
stations in a row, ``findings`` the limits along it, ``report`` one call for a plan.
"""

from mechanics.loading.findings import Finding, Subject
from mechanics.loading.outfit import State
from mechanics.loading.path import Path, Station
from mechanics.loading.report import LoadingReport, Way, loading, missing_for_way, way

__all__ = [
    "Finding",
    "LoadingReport",
    "Path",
    "State",
    "Station",
    "Subject",
    "Way",
    "loading",
    "missing_for_way",
    "way",
]

"""The fleet, in everybody's menu."""

from web.places import Errand

ERRANDS = (Errand(title="Fleet", order=2, address="fleet"),)

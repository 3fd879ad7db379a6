"""The search, in everybody's menu."""

from web.places import Errand

ERRANDS = (Errand(title="Find", order=0, address="search"),)

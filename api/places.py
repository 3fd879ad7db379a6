"""What programs read and write, in everybody's menu."""

from web.places import Errand

ERRANDS = (Errand(title="For programs", order=35, address="api_reference"),)

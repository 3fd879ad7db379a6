"""The day, among the places of the work."""

from web.places import Place

PLACES = (Place(slug="day", title="Day", order=5, address="day"),)

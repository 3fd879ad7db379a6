"""Matching, among the places of the work."""

from web.places import Place

PLACES = (Place(slug="match", title="Match", order=20, address="match"),)

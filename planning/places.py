"""Hauls, among the places of the work."""

from web.places import Place

PLACES = (Place(slug="haul", title="Haul", order=30, address="home"),)

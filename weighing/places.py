"""Weighing, among the places of the work."""

from web.places import Place

PLACES = (Place(slug="weigh", title="Weigh", order=40, address="weigh"),)

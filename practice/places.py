"""The practice yard, among the places of the work."""

from web.places import Place

PLACES = (Place(slug="practice", title="Practice", order=70, address="practice", wide_only=True),)

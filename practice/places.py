"""The practice yard, among the places of the work; on a phone in everybody's menu."""

from web.places import Errand, Place

PLACES = (Place(slug="practice", title="Practice", order=70, address="practice", wide_only=True),)

ERRANDS = (Errand(title="Practice", order=3, address="practice"),)

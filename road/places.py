"""The road, among the places of the work, and what to do when a trailer sways."""

from web.places import Errand, Place

PLACES = (Place(slug="road", title="Road", order=50, address="road"),)
ERRANDS = (Errand(title="It sways", order=1, address="sways", urgent=True),)

"""The tape walk, among what a person may do from any page."""

from web.places import Errand

PLACES = ()
ERRANDS = (Errand(title="Tape walk", order=5, address="walks"),)

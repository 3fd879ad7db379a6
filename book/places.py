"""The book, among the places of the work."""

from web.places import Place

PLACES = (Place(slug="book", title="Book", order=10, address="book"),)

"""A truck or trailer by itself, from its page in the book."""

ASIDES = ("matching/_alone.html",)

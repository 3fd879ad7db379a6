"""A view of a haul as somebody else would add it: what a room needs at least."""

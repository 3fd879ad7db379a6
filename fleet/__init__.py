"""The fleet: what there is, where it is, and what to do next about it."""

"""Flags of the law, and the room an outfit needs."""

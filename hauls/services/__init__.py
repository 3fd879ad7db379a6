"""Writes that touch a haul, each one whole or not at all."""

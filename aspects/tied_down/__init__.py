"""Tied down: which tie from where to where, and what they hold."""

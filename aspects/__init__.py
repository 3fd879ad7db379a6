"""Views of a haul, a room for each: its views, page, words, templates, script and tests.

A room registers itself by a module ``aspect`` in its app (:mod:`aspects.registry`); a new
one is a folder and a line in the settings.
"""

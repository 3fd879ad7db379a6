"""Partials that other apps bring to the page of a thing of the book.

An app names them in a module ``book_asides``: ``ASIDES``, templates that get all the page has.
"""

from __future__ import annotations

from web.registry import brought


def asides() -> tuple[str, ...]:
    """The templates, in the order of the apps."""
    return brought("book_asides", "ASIDES")

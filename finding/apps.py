"""One search over hauls, the book and tickets."""

from django.apps import AppConfig


class FindingConfig(AppConfig):
    """One search over hauls, the book and tickets."""

    name = "finding"

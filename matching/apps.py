"""Which truck and trailer can take a load."""

from django.apps import AppConfig


class MatchingConfig(AppConfig):
    """Which truck and trailer can take a load."""

    name = "matching"

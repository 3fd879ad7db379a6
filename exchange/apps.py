"""Plans and whole yards as files, out and in."""

from django.apps import AppConfig


class ExchangeConfig(AppConfig):
    """Plans and whole yards as files, out and in."""

    name = "exchange"

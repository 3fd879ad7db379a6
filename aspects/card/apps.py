"""The load card: one page for the driver."""

from django.apps import AppConfig


class CardConfig(AppConfig):
    """The load card: one page for the driver."""

    name = "aspects.card"
    label = "card"

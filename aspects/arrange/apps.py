"""The best order, facing and place of the loads."""

from django.apps import AppConfig


class ArrangeConfig(AppConfig):
    """The best order, facing and place of the loads."""

    name = "aspects.arrange"
    label = "arrange"

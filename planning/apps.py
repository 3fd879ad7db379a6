"""The list of hauls, and making them."""

from django.apps import AppConfig


class PlanningConfig(AppConfig):
    """The list of hauls, and making them."""

    name = "planning"

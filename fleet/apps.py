"""The fleet: what there is, where it is, and what to do next about it."""

from django.apps import AppConfig


class FleetConfig(AppConfig):
    """The fleet: what there is, where it is, and what to do next about it."""

    name = "fleet"

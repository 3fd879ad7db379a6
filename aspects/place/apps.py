"""The planner."""

from django.apps import AppConfig


class PlaceConfig(AppConfig):
    """The planner."""

    name = "aspects.place"
    label = "place"

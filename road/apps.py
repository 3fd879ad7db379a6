"""On the road: the driver's day, and what was done when."""

from django.apps import AppConfig


class RoadConfig(AppConfig):
    """On the road: the driver's day, and what was done when."""

    name = "road"

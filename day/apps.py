"""The day: who hauls what where with which outfit."""

from django.apps import AppConfig


class DayConfig(AppConfig):
    """The day: who hauls what where with which outfit."""

    name = "day"

"""Every figure and limit with its arithmetic."""

from django.apps import AppConfig


class FiguresConfig(AppConfig):
    """Every figure and limit with its arithmetic."""

    name = "aspects.figures"
    label = "figures"

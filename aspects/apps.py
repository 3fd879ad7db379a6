"""Views of a haul."""

from django.apps import AppConfig


class AspectsConfig(AppConfig):
    """What all views of a haul have in common."""

    name = "aspects"

"""How the outfit rides, and spring bars."""

from django.apps import AppConfig


class LevelConfig(AppConfig):
    """How the outfit rides, and spring bars."""

    name = "aspects.level"
    label = "level"

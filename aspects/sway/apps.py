"""How it tows: how fast a swing dies out, compared."""

from django.apps import AppConfig


class SwayConfig(AppConfig):
    """How it tows: how fast a swing dies out, compared."""

    name = "aspects.sway"
    label = "sway"

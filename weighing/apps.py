"""The place where things are weighed."""

from django.apps import AppConfig


class WeighingConfig(AppConfig):
    """Ways of weighing, worked out and kept as tickets."""

    name = "weighing"

"""Recording without signal."""

from django.apps import AppConfig


class OfflineConfig(AppConfig):
    """Recording without signal."""

    name = "offline"

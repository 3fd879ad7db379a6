"""What a yard's own programs read and write."""

from django.apps import AppConfig


class ApiConfig(AppConfig):
    """What a yard's own programs read and write."""

    name = "api"

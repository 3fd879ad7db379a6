"""Flags of the law, and the room an outfit needs."""

from django.apps import AppConfig


class LawConfig(AppConfig):
    """Flags of the law, and the room an outfit needs."""

    name = "aspects.law"
    label = "law"

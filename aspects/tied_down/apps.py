"""Tied down: which tie from where to where."""

from django.apps import AppConfig


class TiedDownConfig(AppConfig):
    """Tied down: which tie from where to where."""

    name = "aspects.tied_down"
    label = "tied_down"

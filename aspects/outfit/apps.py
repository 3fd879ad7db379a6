"""Another truck, trailer or set of loads for a haul."""

from django.apps import AppConfig


class OutfitConfig(AppConfig):
    """Another truck, trailer or set of loads for a haul."""

    name = "aspects.outfit"
    label = "outfit"

"""On and off: what happens while a machine climbs."""

from django.apps import AppConfig


class OnOffConfig(AppConfig):
    """On and off: what happens while a machine climbs."""

    name = "aspects.on_off"
    label = "on_off"

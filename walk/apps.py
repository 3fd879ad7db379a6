"""The tape walk: one figure at a time, to a first verdict."""

from django.apps import AppConfig


class WalkConfig(AppConfig):
    """The tape walk: from sticker, plate, tape and brochure to a first verdict."""

    name = "walk"

"""The trailer's frame as a beam."""

from django.apps import AppConfig


class FrameConfig(AppConfig):
    """The trailer's frame as a beam."""

    name = "aspects.frame"
    label = "frame"

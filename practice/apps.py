"""The practice yard: situations with a hidden truth, judged by the same core as every haul."""

from django.apps import AppConfig


class PracticeConfig(AppConfig):
    """The practice yard: situations with a hidden truth, judged by the same core as every haul."""

    name = "practice"

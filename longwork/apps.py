"""What takes longer than a page may: done apart, with progress, and ended by whoever asked."""

from django.apps import AppConfig


class LongWorkConfig(AppConfig):
    name = "longwork"

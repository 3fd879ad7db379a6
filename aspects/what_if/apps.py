"""Two to four ways of one haul side by side."""

from django.apps import AppConfig


class WhatIfConfig(AppConfig):
    """Two to four ways of one haul side by side."""

    name = "aspects.what_if"
    label = "what_if"

"""Yards, the people in them, and signing in."""

from django.apps import AppConfig


class YardsConfig(AppConfig):
    name = "yards"

"""Hauls: the planner and what it is planned from."""

from django.apps import AppConfig


class HaulsConfig(AppConfig):
    name = "hauls"

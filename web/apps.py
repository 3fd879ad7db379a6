"""The frame of the interface: layout, type, colours, error pages."""

from django.apps import AppConfig


class WebConfig(AppConfig):
    name = "web"

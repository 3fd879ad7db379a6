"""The demo yard: an invented custom-hire and drainage business."""

from django.apps import AppConfig


class DemoConfig(AppConfig):
    name = "demo"

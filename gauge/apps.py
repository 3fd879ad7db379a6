"""The gauge in the hitch, read live."""

from django.apps import AppConfig


class GaugeConfig(AppConfig):
    """Gauges of a yard, the lines they send, and the coach that goes by them."""

    name = "gauge"

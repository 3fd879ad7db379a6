"""Read the gauge: the coach beside the machine."""

from aspects.registry import Aspect

ASPECTS = (
    Aspect(
        slug="gauge",
        title="Read the gauge",
        order=20,
        address="gauge",
        urls="gauge.haul_urls",
        menu=True,
        looks=(
            "gauge",
            "gauge_stream",
            "gauge_now",
            "gauge_freeze",
            "gauge_dial",
            "gauge_save",
            "gauge_trust",
        ),
    ),
)

"""The load card: one page for the driver, on paper or on the phone."""

from aspects.registry import Aspect

ASPECTS = (
    Aspect(
        slug="card",
        title="Load card",
        order=60,
        address="haul_card",
        urls="aspects.card.urls",
        looks=("haul_card", "haul_card_pdf"),
    ),
)

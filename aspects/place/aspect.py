"""Place: where each load stands, and what that does."""

from aspects.registry import Aspect

ASPECTS = (
    Aspect(
        slug="place",
        title="Place",
        order=10,
        address="haul",
        urls="aspects.place.urls",
        looks=("haul", "change_haul", "preview_haul", "strip_haul"),
    ),
)

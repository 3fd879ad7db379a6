"""On the road: how far it is on its way, and where it really stopped."""

from aspects.registry import Aspect

ASPECTS = (
    Aspect(
        slug="road",
        title="On the road",
        order=65,
        address="road_haul",
        urls="road.haul_urls",
        menu=True,
        looks=(
            "road_haul",
            "do_step",
            "take_step_back",
            "haul_stopped",
            "tick_on_list",
            "say_weather",
            "looked_again",
            "keep_gain",
            "keep_trip",
            "tell_defect",
        ),
    ),
)

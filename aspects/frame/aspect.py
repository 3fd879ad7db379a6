"""Frame: shear, bending, and the load on one length."""

from aspects.frame.panel import panel
from aspects.frame.words import frame_figure
from aspects.registry import Aspect
from wording.figures import Figure

ASPECTS = (
    Aspect(
        slug="frame",
        title="Frame",
        order=40,
        address="haul_frame",
        urls="aspects.frame.urls",
        panel=panel,
        figures=(Figure(code="figure.frame", title="Bending of the frame", make=frame_figure),),
        looks=("haul_frame",),
    ),
)

"""A haul's job: when and where it goes, and who drives."""

from aspects.registry import Aspect

ASPECTS = (
    Aspect(
        slug="job",
        title="When and where",
        order=60,
        address="haul_job",
        urls="day.haul_urls",
        menu=True,
        changes=True,
    ),
)

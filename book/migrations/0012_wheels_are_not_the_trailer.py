"""What the wheels of a trailer carried was kept as the whole trailer; it is its axles' load."""

from __future__ import annotations

from typing import Any

from django.db import migrations


def wheels_to_axles(apps: Any, schema_editor: Any) -> None:
    """Move the figure of such tickets where it belongs. What was read stays as it was typed."""
    ticket_model = apps.get_model("book", "Ticket")
    content_type = apps.get_model("contenttypes", "ContentType")
    trailer = content_type.objects.filter(app_label="book", model="trailer").first()
    if trailer is None:
        return
    tickets = ticket_model.objects.filter(
        method="wheel-by-wheel", content_type_id=trailer.pk, whole_mass__isnull=False
    )
    for ticket in tickets:
        readings = ticket.readings or {}
        figures = [
            ["trailer_axles", *figure[1:]] if figure[0] == "whole" else figure
            for figure in readings.get("figures", [])
        ]
        tolerances = readings.get("tolerance_kg", {})
        if "whole_mass" in tolerances:
            tolerances["axles_mass"] = tolerances.pop("whole_mass")
        ticket.axles_mass, ticket.whole_mass = ticket.whole_mass, None
        ticket.front_axle_mass = ticket.rear_axle_mass = None
        ticket.readings = {**readings, "figures": figures, "tolerance_kg": tolerances}
        ticket.save()


class Migration(migrations.Migration):
    dependencies = [
        ("book", "0011_axles_that_give"),
        ("contenttypes", "0002_remove_content_type_name"),
    ]

    operations = [migrations.RunPython(wheels_to_axles, migrations.RunPython.noop)]

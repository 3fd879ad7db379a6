"""Plans of the first version named their hitch, which the format has no field for."""

from django.db import migrations


def unname(document):
    """Put the name of a plan's hitch where the format keeps what it does not know; whether
    there was one."""
    hitch = document.get("hitch") if isinstance(document, dict) else None
    if not isinstance(hitch, dict) or "name" not in hitch:
        return False
    name = hitch.pop("name")
    extra = hitch.setdefault("extra", {})
    if isinstance(extra, dict):
        extra.setdefault("name", name)
    return True


def forwards(apps, schema_editor):
    for model in ("Haul", "HaulStep"):
        for row in apps.get_model("hauls", model).objects.iterator():
            if unname(row.document):
                row.save(update_fields=["document"])


class Migration(migrations.Migration):
    dependencies = [("hauls", "0007_listed_newest_first")]

    operations = [migrations.RunPython(forwards, migrations.RunPython.noop)]

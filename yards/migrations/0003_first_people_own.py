"""Whoever worked in a yard before there were roles owns it."""

from django.db import migrations


def own(apps, schema_editor):
    """Every membership so far becomes an owner's."""
    apps.get_model("yards", "Membership").objects.update(role="owner")


class Migration(migrations.Migration):
    dependencies = [("yards", "0002_people")]

    operations = [migrations.RunPython(own, migrations.RunPython.noop)]

"""The old parts are carried over and go."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("book", "0005_parts_carried_over")]

    operations = [
        migrations.DeleteModel("OldHitchPart"),
        migrations.DeleteModel("OldCouplerPart"),
    ]

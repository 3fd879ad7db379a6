"""What an earlier version kept of failed sign-ins, names and addresses of people among it, goes: the
tables of the package that kept it are read by nothing any more."""

from __future__ import annotations

from django.db import migrations

TABLES = (
    "axes_accessattemptexpiration",
    "axes_accessattempt",
    "axes_accessfailurelog",
    "axes_accesslog",
)


class Migration(migrations.Migration):
    dependencies = [("yards", "0008_events")]

    operations = [
        migrations.RunSQL(f'DROP TABLE IF EXISTS "{table}"', migrations.RunSQL.noop)
        for table in TABLES
    ] + [
        migrations.RunSQL(
            "DELETE FROM django_migrations WHERE app = 'axes'", migrations.RunSQL.noop
        )
    ]

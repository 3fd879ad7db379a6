"""What whoever runs the server needs: backups, restoring, sweeping, whether it is well."""

from django.apps import AppConfig


class UpkeepConfig(AppConfig):
    name = "upkeep"

"""The open formats: plan files in, report files out."""

from django.apps import AppConfig


class PlanfileConfig(AppConfig):
    name = "planfile"
    verbose_name = "Plan files"

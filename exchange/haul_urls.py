"""Addresses of plans as files, below the haul's."""

from django.urls import path

from exchange import views

urlpatterns = [path("plan.json", views.export, name="export_plan")]

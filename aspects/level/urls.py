"""Addresses of how the outfit rides, below the haul's."""

from django.urls import path

from aspects.level import views

urlpatterns = [
    path("level/", views.level, name="haul_ride"),
    path("level/bars/", views.set_restoration, name="set_restoration"),
]

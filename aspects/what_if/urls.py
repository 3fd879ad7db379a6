"""Addresses of other ways, below the haul's."""

from django.urls import path

from aspects.what_if import views

urlpatterns = [
    path("what-if/", views.what_if, name="haul_what_if"),
]

"""Addresses of all figures, below the haul's."""

from django.urls import path

from aspects.figures import views

urlpatterns = [
    path("figures/", views.figures, name="haul_figures"),
]

"""Addresses of the frame, below the haul's."""

from django.urls import path

from aspects.frame import views

urlpatterns = [
    path("frame/", views.frame, name="haul_frame"),
]

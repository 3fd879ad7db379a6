"""Addresses of the planner, below the haul's."""

from django.urls import path

from aspects.place import views

urlpatterns = [
    path("", views.planner, name="haul"),
    path("change/", views.change, name="change_haul"),
    path("preview/", views.preview, name="preview_haul"),
    path("strip/", views.strip, name="strip_haul"),
    path("copy/", views.copy, name="copy_haul"),
]

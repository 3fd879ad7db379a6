"""Addresses of one haul on its way, below the haul's."""

from django.urls import path

from road import stopped_views, views

urlpatterns = [
    path("road/", views.one, name="road_haul"),
    path("road/do/", views.do, name="do_step"),
    path("road/take-back/", views.undo, name="take_step_back"),
    path("road/stopped/", stopped_views.stopped, name="haul_stopped"),
]

"""Addresses that a phone's outbox asks."""

from django.urls import path

from offline import views

urlpatterns = [
    path("ready/", views.ready, name="outbox_ready"),
    path("held/", views.held, name="held_pages"),
]

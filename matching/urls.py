"""Addresses of matching."""

from django.urls import path

from matching import views

urlpatterns = [path("match/", views.match, name="match")]

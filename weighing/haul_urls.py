"""Addresses of weighing that belong to a haul."""

from django.urls import path

from weighing import scale_views

urlpatterns = [path("hauls/<int:pk>/scale/", scale_views.scale, name="haul_scale")]

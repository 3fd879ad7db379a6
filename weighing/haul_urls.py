"""Addresses of weighing below the haul's."""

from django.urls import path

from weighing import scale_views

urlpatterns = [path("scale/", scale_views.scale, name="haul_scale")]

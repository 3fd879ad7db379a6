"""Addresses of getting on and off, below the haul's."""

from django.urls import path

from aspects.on_off import views

urlpatterns = [
    path("on-and-off/", views.on_off, name="haul_on_off"),
    path("on-and-off/place/", views.set_site, name="haul_site"),
    path("on-and-off/do/", views.do, name="haul_hold"),
]

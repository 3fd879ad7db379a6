"""Addresses of arrangements, below the haul's."""

from django.urls import path

from aspects.arrange import views

urlpatterns = [
    path("arrange/", views.arrange, name="haul_arrange"),
]

"""The address of how it tows, below the haul's."""

from django.urls import path

from aspects.sway import views

urlpatterns = [path("sway/", views.sway, name="haul_sway")]

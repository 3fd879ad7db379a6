"""The address of the fleet."""

from django.urls import path

from fleet import views

urlpatterns = [path("", views.fleet, name="fleet")]

"""Addresses of a haul's job, below the haul's."""

from django.urls import path

from day import views

urlpatterns = [path("job/", views.job, name="haul_job")]

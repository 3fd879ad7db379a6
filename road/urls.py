"""Addresses of the road."""

from django.urls import path

from road import views

urlpatterns = [
    path("", views.day, name="road"),
    path("sways/", views.it_sways, name="sways"),
]

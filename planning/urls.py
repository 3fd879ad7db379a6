"""Addresses of the list of hauls and of making them."""

from django.urls import path

from planning import views

urlpatterns = [
    path("", views.home, name="home"),
    path("hauls.csv", views.hauls_out, name="hauls_out"),
    path("hauls/new/", views.new_haul, name="new_haul"),
]

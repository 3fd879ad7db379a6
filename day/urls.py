"""Addresses of the board."""

from django.urls import path

from day import views

urlpatterns = [
    path("", views.week, name="day"),
    path("move/", views.move_card, name="move_card"),
]

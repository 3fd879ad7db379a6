"""Addresses of changing the outfit, below the haul's."""

from django.urls import path

from aspects.outfit import views

urlpatterns = [
    path("outfit/", views.outfit, name="outfit"),
    path("aboard/", views.aboard, name="aboard"),
    path("book/", views.take_books_numbers, name="take_books_numbers"),
]

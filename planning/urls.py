"""Addresses of the list of hauls and of making them."""

from django.urls import path

from planning import views

urlpatterns = [
    path("", views.home, name="home"),
    path("hauls/new/", views.new_haul, name="new_haul"),
    path("hauls/<int:pk>/archive/", views.archive, name="archive_haul"),
    path("hauls/<int:pk>/outfit/", views.outfit, name="outfit"),
    path("hauls/<int:pk>/book/", views.take_books_numbers, name="take_books_numbers"),
    path("hauls/<int:pk>/remove/", views.remove, name="remove_haul"),
]

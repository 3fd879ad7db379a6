"""Addresses of the book."""

from django.urls import path

from book import views

urlpatterns = [
    path("", views.book, name="book"),
    path("trucks/<int:truck_pk>/hitches/new/", views.edit_hitch, name="add_hitch"),
    path("trucks/<int:truck_pk>/hitches/<int:pk>/", views.edit_hitch, name="edit_hitch"),
    path("trucks/<int:truck_pk>/hitches/<int:pk>/remove/", views.remove_hitch, name="remove_hitch"),
    path("<slug:slug>/new/", views.edit, name="add_thing"),
    path("<slug:slug>/<int:pk>/", views.edit, name="edit_thing"),
    path("<slug:slug>/<int:pk>/remove/", views.remove, name="remove_thing"),
]

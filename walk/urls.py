"""Addresses of the tape walk."""

from django.urls import path

from walk import views

urlpatterns = [
    path("walk/", views.walks, name="walks"),
    path("walk/<int:pk>/", views.walk, name="walk"),
    path("walk/<int:pk>/<slug:slug>/", views.step, name="walk_step"),
]

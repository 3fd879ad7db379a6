"""Addresses of long work."""

from django.urls import path

from longwork import views

urlpatterns = [
    path("<int:pk>/", views.long_work, name="long_work"),
    path("<int:pk>/end/", views.end_long_work, name="end_long_work"),
]

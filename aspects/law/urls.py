"""Addresses of the law, below the haul's."""

from django.urls import path

from aspects.law import views

urlpatterns = [
    path("law/", views.law, name="haul_law"),
    path("law/own/", views.own_flag, name="own_flag"),
    path("law/own/remove/", views.remove_own_flag, name="remove_own_flag"),
]

"""Addresses of tying down, below the haul's."""

from django.urls import path

from aspects.tied_down import list_views, views

urlpatterns = [
    path("tied-down/", views.tied_down, name="haul_tied"),
    path("tied-down/do/", views.do, name="haul_tied_do"),
    path("tied-down/ties.csv", views.ties_table, name="haul_tied_table"),
    path("tied-down/list/", list_views.tie_list, name="haul_tied_list"),
    path("tied-down/list/tick/", list_views.tick_line, name="haul_tied_tick"),
]

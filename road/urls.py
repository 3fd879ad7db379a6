"""Addresses of the road."""

from django.urls import path

from road import views

urlpatterns = [
    path("", views.day, name="road"),
    path("sways/", views.it_sways, name="sways"),
    path("<int:pk>/", views.one, name="road_haul"),
    path("<int:pk>/do/", views.do, name="do_step"),
    path("<int:pk>/take-back/", views.undo, name="take_step_back"),
]

"""Addresses of weighing."""

from django.urls import path

from weighing import views

urlpatterns = [
    path("", views.picker, name="weigh"),
    path("tickets/", views.tickets, name="tickets"),
    path("tickets/<int:pk>/", views.weighed, name="weighed"),
    path("tickets/<int:pk>/book/", views.take_over_ticket, name="take_over_ticket"),
    path("<slug:slug>/", views.weigh, name="weigh_by"),
]

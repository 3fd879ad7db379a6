"""Addresses of the load card, below the haul's."""

from django.urls import path

from aspects.card import views

urlpatterns = [
    path("card/", views.card, name="haul_card"),
    path("card/load-card.pdf", views.card_pdf, name="haul_card_pdf"),
    path("card/who/", views.who_drives, name="haul_who_drives"),
]

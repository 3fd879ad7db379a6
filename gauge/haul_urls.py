"""Addresses of the gauge below the haul's."""

from django.urls import path

from gauge import views

urlpatterns = [
    path("gauge/", views.coach_page, name="gauge"),
    path("gauge/stream/", views.stream, name="gauge_stream"),
    path("gauge/now/", views.now, name="gauge_now"),
    path("gauge/freeze/", views.freeze, name="gauge_freeze"),
    path("gauge/dial/", views.dial, name="gauge_dial"),
    path("gauge/save/", views.save, name="gauge_save"),
    path("gauge/trust/", views.trust, name="gauge_trust"),
]

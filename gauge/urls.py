"""Addresses of the gauge."""

from django.urls import path

from gauge import list_views, posting_views, views

urlpatterns = [
    path("hauls/<int:pk>/gauge/", views.coach_page, name="gauge"),
    path("hauls/<int:pk>/gauge/stream/", views.stream, name="gauge_stream"),
    path("hauls/<int:pk>/gauge/now/", views.now, name="gauge_now"),
    path("hauls/<int:pk>/gauge/freeze/", views.freeze, name="gauge_freeze"),
    path("hauls/<int:pk>/gauge/dial/", views.dial, name="gauge_dial"),
    path("hauls/<int:pk>/gauge/save/", views.save, name="gauge_save"),
    path("hauls/<int:pk>/gauge/trust/", views.trust, name="gauge_trust"),
    path("gauges/", list_views.gauges, name="gauges"),
    path("gauges/<int:pk>/", list_views.edit_gauge, name="edit_gauge"),
    path("gauges/send/", posting_views.send, name="gauge_send"),
    path("gauges/<int:pk>/set-up/", list_views.set_up, name="gauge_set_up"),
    path("gauges/<int:pk>/remove/", list_views.remove_gauge, name="remove_gauge"),
]

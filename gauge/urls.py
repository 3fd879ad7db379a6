"""Addresses of the gauges of a yard."""

from django.urls import path

from gauge import list_views, posting_views

urlpatterns = [
    path("gauges/", list_views.gauges, name="gauges"),
    path("gauges/<int:pk>/", list_views.edit_gauge, name="edit_gauge"),
    path("gauges/send/", posting_views.send, name="gauge_send"),
    path("gauges/<int:pk>/set-up/", list_views.set_up, name="gauge_set_up"),
    path("gauges/<int:pk>/remove/", list_views.remove_gauge, name="remove_gauge"),
]

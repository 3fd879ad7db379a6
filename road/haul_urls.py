"""Addresses of one haul on its way, below the haul's."""

from django.urls import path

from road import defect_views, noting_views, stopped_views, views

urlpatterns = [
    path("road/", views.one, name="road_haul"),
    path("road/do/", views.do, name="do_step"),
    path("road/take-back/", views.undo, name="take_step_back"),
    path("road/tick/", noting_views.tick_on_list, name="tick_on_list"),
    path("road/weather/", noting_views.weather, name="say_weather"),
    path("road/stop/", noting_views.looked_again, name="looked_again"),
    path("road/gain/", noting_views.gain, name="keep_gain"),
    path("road/trip/", noting_views.trip, name="keep_trip"),
    path("road/defect/", defect_views.tell_defect, name="tell_defect"),
    path("road/stopped/", stopped_views.stopped, name="haul_stopped"),
]

"""Addresses of the board."""

from django.urls import path

from day import feed_views, views

urlpatterns = [
    path("", views.week, name="day"),
    path("move/", views.move_card, name="move_card"),
    path("calendars/", feed_views.feeds, name="calendar_feeds"),
    path("calendars/<int:pk>/withdraw/", feed_views.withdraw_feed, name="withdraw_feed"),
    path("calendar/<slug:secret>.ics", feed_views.calendar_feed, name="calendar_feed"),
]

"""Addresses of the board."""

from django.urls import path

from day import feed_views, plan_views, stay_views, views

urlpatterns = [
    path("", views.week, name="day"),
    path("move/", views.move_card, name="move_card"),
    path("plan/", plan_views.plan_day, name="plan_day"),
    path("plan/<int:pk>/put/", plan_views.put_plan, name="put_plan"),
    path("plan/<int:pk>/again/", plan_views.plan_again, name="plan_again"),
    path("stays/", stay_views.stays, name="stays"),
    path("stays/new/", stay_views.stay, name="new_stay"),
    path("stays/<int:pk>/", stay_views.stay, name="stay"),
    path("stays/<int:pk>/remove/", stay_views.remove_stay, name="remove_stay"),
    path("drivers/", stay_views.drivers, name="drivers"),
    path("drivers/<int:pk>/", stay_views.terms, name="driver_terms"),
    path("calendars/", feed_views.feeds, name="calendar_feeds"),
    path("calendars/<int:pk>/withdraw/", feed_views.withdraw_feed, name="withdraw_feed"),
    path("calendar/<slug:secret>.ics", feed_views.calendar_feed, name="calendar_feed"),
]

"""Addresses of matching."""

from django.urls import path

from matching import alone_views, buy_views, views

urlpatterns = [
    path("match/", views.match, name="match"),
    path("match/buy/", buy_views.buy, name="buy"),
    path("match/trucks/<int:pk>/", alone_views.truck, name="truck_alone"),
    path("match/trailers/<int:pk>/", alone_views.trailer, name="trailer_alone"),
]

"""Addresses: one place of the work after another."""

from django.urls import include, path

urlpatterns = [
    path("", include("planning.urls")),
    path("", include("matching.urls")),
    path("", include("walk.urls")),
    path("", include("aspects.urls")),
    path("", include("exchange.urls")),
    path("", include("yards.urls")),
    path("book/", include("book.urls")),
    path("", include("gauge.urls")),
    path("weigh/", include("weighing.urls")),
    path("search/", include("finding.urls")),
    path("road/", include("road.urls")),
    path("day/", include("day.urls")),
    path("fleet/", include("fleet.urls")),
    path("practice/", include("practice.urls")),
    path("api/", include("api.urls")),
    path("", include("upkeep.urls")),
    path("", include("web.urls")),
    path("offline/", include("offline.urls")),
    path("long-work/", include("longwork.urls")),
    path("formats/", include("planfile.urls")),
]

handler404 = "web.views.not_found"
handler403 = "web.views.forbidden"
handler500 = "web.views.server_error"

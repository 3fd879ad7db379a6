"""Addresses: one place of the work after another."""

from django.urls import include, path

urlpatterns = [
    path("", include("hauls.urls")),
    path("", include("yards.urls")),
    path("book/", include("book.urls")),
    path("", include("weighing.haul_urls")),
    path("", include("gauge.urls")),
    path("weigh/", include("weighing.urls")),
    path("formats/", include("planfile.urls")),
]

handler404 = "web.views.not_found"
handler403 = "web.views.forbidden"
handler500 = "web.views.server_error"

"""Addresses of plans and yards as files."""

from django.urls import path

from exchange import views

urlpatterns = [
    path("hauls/import/", views.bring_in, name="import_plan"),
    path("yard-file/", views.yard_file, name="yard_file"),
    path("yard-file/merge/<int:pk>/", views.merge, name="merge_yard_file"),
    path("yard-file/out/", views.yard_out, name="yard_out"),
]

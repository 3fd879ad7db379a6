"""Addresses of hauls."""

from django.urls import path

from hauls import aspect_views, views

urlpatterns = [
    path("yard-file/", views.yard_file, name="yard_file"),
    path("yard-file/out/", views.yard_out, name="yard_out"),
    path("", views.home, name="home"),
    path("match/", views.match, name="match"),
    path("hauls/new/", views.new_haul, name="new_haul"),
    path("hauls/import/", views.bring_in, name="import_plan"),
    path("hauls/<int:pk>/", views.planner, name="haul"),
    path("hauls/<int:pk>/change/", views.change, name="change_haul"),
    path("hauls/<int:pk>/preview/", views.preview, name="preview_haul"),
    path("hauls/<int:pk>/arrange/", aspect_views.arrange_page, name="haul_arrange"),
    path("hauls/<int:pk>/level/", aspect_views.ride, name="haul_ride"),
    path("hauls/<int:pk>/level/bars/", aspect_views.set_restoration, name="set_restoration"),
    path("hauls/<int:pk>/frame/", aspect_views.frame, name="haul_frame"),
    path("hauls/<int:pk>/what-if/", aspect_views.what_if, name="haul_what_if"),
    path("hauls/<int:pk>/figures/", aspect_views.figures, name="haul_figures"),
    path("hauls/<int:pk>/archive/", views.archive, name="archive_haul"),
    path("hauls/<int:pk>/outfit/", views.outfit, name="outfit"),
    path("hauls/<int:pk>/copy/", views.copy, name="copy_haul"),
    path("hauls/<int:pk>/book/", views.take_books_numbers, name="take_books_numbers"),
    path("hauls/<int:pk>/remove/", views.remove, name="remove_haul"),
    path("hauls/<int:pk>/plan.json", views.export, name="export_plan"),
]

"""Addresses of the book."""

from django.urls import path

from book import (
    inner_views,
    intake_views,
    label_view,
    move_views,
    photo_views,
    removed_views,
    table_views,
    views,
)

urlpatterns = [
    path("", views.book, name="book"),
    path("understand/<slug:kind>/", views.understand, name="understand"),
    path("tables/", table_views.tables, name="tables"),
    path("tables/<slug:slug>.csv", table_views.table_out, name="table_out"),
    path("tables/<slug:slug>/", table_views.table_in, name="table_in"),
    path("removed/", removed_views.removed, name="removed"),
    path("removed/<int:pk>/back/", removed_views.bring_removed_back, name="bring_removed_back"),
    path("taken-in/", intake_views.taken_in, name="taken_in"),
    path("taken-in/<int:pk>/undo/", intake_views.undo_taken_in, name="undo_taken_in"),
    path("tolerances/", views.tolerances, name="tolerances"),
    path("tickets/<int:pk>/remove/", photo_views.remove_ticket, name="remove_ticket"),
    path("photos/<int:pk>/", photo_views.photo, name="photo"),
    path("photos/<int:pk>/remove/", photo_views.remove_photo, name="remove_photo"),
    path("trucks/<int:truck_pk>/hitches/new/", inner_views.edit_hitch, name="add_hitch"),
    path("trucks/<int:truck_pk>/hitches/<int:pk>/", inner_views.edit_hitch, name="edit_hitch"),
    path(
        "trucks/<int:truck_pk>/hitches/<int:pk>/remove/",
        inner_views.remove_hitch,
        name="remove_hitch",
    ),
    path(
        "machines/<int:machine_pk>/configurations/new/",
        inner_views.edit_configuration,
        name="add_configuration",
    ),
    path(
        "machines/<int:machine_pk>/configurations/<int:pk>/",
        inner_views.edit_configuration,
        name="edit_configuration",
    ),
    path(
        "machines/<int:machine_pk>/configurations/<int:pk>/remove/",
        inner_views.remove_configuration,
        name="remove_configuration",
    ),
    path("<slug:slug>/new/", views.edit, name="add_thing"),
    path("<slug:slug>/<int:pk>/", views.edit, name="edit_thing"),
    path("<slug:slug>/<int:pk>/measure/", views.measure, name="measure"),
    path("<slug:slug>/<int:pk>/history/", views.history, name="history"),
    path("<slug:slug>/<int:pk>/restore/", views.restore, name="restore_thing"),
    path("<slug:slug>/<int:pk>/label/", label_view.label, name="label"),
    path("<slug:slug>/<int:pk>/copy/", views.copy, name="copy_thing"),
    path("gear/<int:pk>/retire/", views.retire, name="retire_gear"),
    path("<slug:slug>/<int:pk>/usual-places/", views.usual_places, name="usual_places"),
    path("<slug:slug>/<int:pk>/tickets/", photo_views.add_ticket, name="add_ticket"),
    path("<slug:slug>/<int:pk>/photos/", photo_views.add_photo, name="add_photo"),
    path("<slug:slug>/<int:pk>/move/", move_views.move, name="move_thing"),
    path("<slug:slug>/<int:pk>/remove/", views.remove, name="remove_thing"),
]

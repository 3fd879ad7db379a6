"""Addresses of weighing."""

from django.urls import path

from weighing import fit_views, photo_views, table_views, views

urlpatterns = [
    path("", views.picker, name="weigh"),
    path("tickets/", views.tickets, name="tickets"),
    path("tickets/out/", table_views.tickets_out, name="tickets_out"),
    path("tickets/in/", table_views.tickets_in, name="tickets_in"),
    path("tickets/<int:pk>/", views.weighed, name="weighed"),
    path("tickets/<int:pk>/correct/", views.edit_ticket, name="edit_ticket"),
    path("tickets/<int:pk>/book/", views.take_over_ticket, name="take_over_ticket"),
    path("tickets/<int:pk>/photos/", photo_views.add_ticket_photo, name="add_ticket_photo"),
    path(
        "tickets/<int:pk>/photos/<int:photo>/remove/",
        photo_views.remove_ticket_photo,
        name="remove_ticket_photo",
    ),
    path("of/<slug:slug>/<int:pk>/", fit_views.weighings, name="weighings"),
    path("together/", fit_views.together, name="fit"),
    path("together/book/", fit_views.take_over_fit, name="take_over_fit"),
    path("<slug:slug>/", views.weigh, name="weigh_by"),
]

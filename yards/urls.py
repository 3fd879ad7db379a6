"""Addresses of people: signing in and up, joining, units, passwords."""

from django.contrib.auth.views import LogoutView
from django.urls import path

from web.middleware import hashes_passwords
from yards import views

urlpatterns = [
    path(
        "sign-in/",
        hashes_passwords(views.SignIn.as_view()),
        name="sign_in",
    ),
    path("sign-out/", LogoutView.as_view(), name="sign_out"),
    path("sign-up/", hashes_passwords(views.new_yard), name="sign_up"),
    path("join/<str:token>/", hashes_passwords(views.joining), name="join"),
    path("units/", views.set_units, name="set_units"),
    path("people/", views.people, name="people"),
    path("people/happened/", views.events, name="events"),
    path("people/yard/", views.change_yard, name="change_yard"),
    path("people/<int:pk>/role/", views.change_role, name="change_role"),
    path("people/<int:pk>/remove/", views.remove_person, name="remove_person"),
    path("people/<int:pk>/password/", views.make_password_link, name="password_link"),
    path("people/invitations/<int:pk>/withdraw/", views.withdraw, name="withdraw"),
    path("yards/", views.own_yards, name="own_yards"),
    path("yards/<int:pk>/", views.go_to_yard, name="go_to_yard"),
    path("password/", hashes_passwords(views.OwnPassword.as_view()), name="own_password"),
    path(
        "password/<str:uidb64>/<str:token>/",
        hashes_passwords(views.ChoosePassword.as_view()),
        name="choose_password",
    ),
]

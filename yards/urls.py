"""Addresses of people: signing in and up, joining, units, passwords."""

from django.contrib.auth.views import LoginView, LogoutView
from django.urls import path

from yards import views

urlpatterns = [
    path(
        "sign-in/",
        LoginView.as_view(
            template_name="yards/sign_in.html",
            redirect_authenticated_user=True,
            extra_context={"place": ""},
        ),
        name="sign_in",
    ),
    path("sign-out/", LogoutView.as_view(), name="sign_out"),
    path("sign-up/", views.new_yard, name="sign_up"),
    path("join/<str:token>/", views.joining, name="join"),
    path("units/", views.set_units, name="set_units"),
    path("people/", views.people, name="people"),
    path("people/<int:pk>/role/", views.change_role, name="change_role"),
    path("people/<int:pk>/remove/", views.remove_person, name="remove_person"),
    path("people/<int:pk>/password/", views.make_password_link, name="password_link"),
    path("people/invitations/<int:pk>/withdraw/", views.withdraw, name="withdraw"),
    path("yards/", views.own_yards, name="own_yards"),
    path("yards/<int:pk>/", views.go_to_yard, name="go_to_yard"),
    path("password/", views.OwnPassword.as_view(), name="own_password"),
    path(
        "password/<str:uidb64>/<str:token>/",
        views.ChoosePassword.as_view(),
        name="choose_password",
    ),
]

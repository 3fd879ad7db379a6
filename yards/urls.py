"""Addresses of signing in, signing out and units."""

from django.contrib.auth.views import LoginView, LogoutView
from django.urls import path

from yards import views

urlpatterns = [
    path(
        "sign-in/",
        LoginView.as_view(template_name="yards/sign_in.html", redirect_authenticated_user=True),
        name="sign_in",
    ),
    path("sign-out/", LogoutView.as_view(), name="sign_out"),
    path("units/", views.set_units, name="set_units"),
]

"""Addresses for programs, and the pages about them."""

from typing import Any

from django.urls import path

from api import book, compute, hauls, tickets, views
from api.schemas import Me
from api.service import WRONG, Asking, service

service.add_router("/book", book.router)
service.add_router("/hauls", hauls.router)
service.add_router("/board", hauls.day_router)
service.add_router("/tickets", tickets.router)
service.add_router("", compute.router)


@service.get("/me", response={200: Me, **WRONG}, tags=["who"], summary="Whose token this is")
def me(request: Asking) -> Any:
    """Person, yard, role and scopes."""
    token: Any = request.token  # type: ignore[attr-defined]
    return Me(
        person=request.user.shown_name,
        yard=request.yard.name,
        role=request.role.value,
        scopes=token.scopes,
        units=request.user.units,
    )


urlpatterns = [
    path("", views.reference, name="api_reference"),
    path("tokens/", views.tokens, name="api_tokens"),
    path("tokens/<int:pk>/withdraw/", views.withdraw_token, name="withdraw_token"),
    path("v1/", service.urls),
]

"""Addresses of the example."""

from django.http import HttpResponse
from django.urls import path

from aspects.rooms import aspect_page, with_plan
from hauls.models import Haul
from mechanics.plan import Plan
from yards.access import YardRequest, in_yard


@in_yard
@with_plan
def straps(request: YardRequest, haul: Haul, plan: Plan) -> HttpResponse:
    """The page."""
    return aspect_page(request, "example/straps.html", haul, "straps")


urlpatterns = [path("straps/", straps, name="haul_straps")]

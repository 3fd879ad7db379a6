"""Units at a switch. Signing in and out are Django's own views."""

from __future__ import annotations

from django.http import HttpResponse, HttpResponseBadRequest
from django.shortcuts import redirect
from django.utils.http import url_has_allowed_host_and_scheme
from django.views.decorators.http import require_POST

from measures.writing import UnitSystem
from yards.access import YardRequest, in_yard


@require_POST
@in_yard
def set_units(request: YardRequest) -> HttpResponse:
    """Show figures in the other units from now on; what is stored stays as it is."""
    wanted = request.POST.get("units", "")
    if wanted not in {system.value for system in UnitSystem}:
        return HttpResponseBadRequest("units: expected us or metric")
    request.user.units = wanted
    request.user.save(update_fields=["units"])
    back = request.POST.get("next", "")
    if not url_has_allowed_host_and_scheme(back, allowed_hosts={request.get_host()}):
        back = "/"
    return redirect(back)

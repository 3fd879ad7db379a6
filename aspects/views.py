"""What is done with a haul from the head of its pages."""

from __future__ import annotations

from django.contrib import messages
from django.http import HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from aspects.sharing import shared_words
from book.removed_views import told_removed
from book.services.removal import remove as remove_row
from hauls.models import Haul
from yards.access import YardRequest, in_yard, planners
from yards.throttle import address_of


@require_POST
@planners
def remove(request: YardRequest, pk: int) -> HttpResponse:
    """Remove a haul."""
    haul = get_object_or_404(Haul.objects.filter(yard=request.yard), pk=pk)
    remove_row(
        haul,
        what="haul",
        name=haul.name,
        yard=request.yard,
        user=request.user,
        address=address_of(request),
    )
    told_removed(request, f"{haul.name} is removed.")
    return redirect("home")


@require_POST
@planners
def archive(request: YardRequest, pk: int) -> HttpResponse:
    """Archive a haul, or bring it back."""
    haul = get_object_or_404(Haul.objects.filter(yard=request.yard), pk=pk)
    away = request.POST.get("away") == "1"
    Haul.objects.filter(pk=haul.pk).update(archived=away)
    words = "archived; the list shows it under “archived”" if away else "back on the list"
    messages.success(request, f"{haul.name} is {words}.")
    return redirect("home" if away else haul)


@require_safe
@in_yard
def share(request: YardRequest, pk: int) -> HttpResponse:
    """A haul in words that can be handed on, with where it opens."""
    haul = get_object_or_404(Haul.objects.filter(yard=request.yard), pk=pk)
    return JsonResponse(
        {
            "title": haul.name,
            "text": shared_words(haul, request.user.unit_system),
            "url": request.build_absolute_uri(reverse("haul", args=[haul.pk])),
        }
    )

"""What a phone asks before it sends, and which pages it holds."""

from __future__ import annotations

from django.http import HttpResponse, JsonResponse
from django.middleware.csrf import get_token
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_safe

from offline.registry import held_pages
from yards.access import YardRequest, in_yard


@require_safe
@never_cache
@in_yard
def ready(request: YardRequest) -> HttpResponse:
    """Who is signed in, and what a form of that person's has to bring."""
    return JsonResponse({"person": str(request.user.pk), "token": get_token(request)})


@require_safe
@never_cache
@in_yard
def held(request: YardRequest) -> HttpResponse:
    """Pages to have at hand."""
    return JsonResponse({"person": str(request.user.pk), "pages": held_pages(request)})

"""The published schemas of the two formats."""

from __future__ import annotations

from django.http import Http404, HttpRequest, HttpResponse
from django.views.decorators.http import require_safe

from planfile.schema import SCHEMAS, schema_path


@require_safe
def schema(request: HttpRequest, name: str) -> HttpResponse:
    """A JSON Schema, open to everyone: it holds nothing of a yard."""
    if name not in SCHEMAS:
        raise Http404(name)
    return HttpResponse(schema_path(name).read_bytes(), content_type="application/schema+json")

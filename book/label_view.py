"""A label to stick on a truck, trailer or machine: a code that opens its page."""

from __future__ import annotations

from dataclasses import dataclass

import segno
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404
from django.urls import reverse
from django.utils.safestring import SafeString, mark_safe
from django.views.decorators.http import require_safe

from book.kinds import kind_of, things_of
from measures import Quantity
from web.pages import show
from yards.access import YardRequest, in_yard


@dataclass(frozen=True, kw_only=True)
class LabelPage:
    """What stands on the label."""

    name: str
    yard_name: str
    code: SafeString
    plate: Quantity | None
    empty: Quantity | None
    back: str


@require_safe
@in_yard
def label(request: YardRequest, slug: str, pk: int) -> HttpResponse:
    """The label of a thing, to be printed."""
    kind = kind_of(slug)
    if not kind.labelled:
        raise Http404(slug)
    thing = get_object_or_404(things_of(kind, request.yard), pk=pk)
    back = reverse("edit_thing", args=[kind.slug, thing.pk])
    drawing = segno.make(request.build_absolute_uri(back), error="m").svg_inline(
        scale=1, border=2, omitsize=True, svgclass="label-code", lineclass=None
    )
    page = LabelPage(
        name=thing.name,
        yard_name=request.yard.name,
        code=mark_safe(drawing),  # noqa: S308  made of the address' squares alone
        plate=getattr(thing, "gvwr", None),
        empty=getattr(thing, "empty_mass", None) or getattr(thing, "mass", None),
        back=back,
    )
    return show(request, "book/label.html", page, place="book")

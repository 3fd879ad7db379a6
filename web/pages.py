"""A page made of a typed value: its fields are what the template may use."""

from __future__ import annotations

from dataclasses import fields
from typing import TYPE_CHECKING, Any

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render

if TYPE_CHECKING:
    from _typeshed import DataclassInstance


def parts(page: DataclassInstance) -> dict[str, Any]:
    """The fields of a page by their names, none of them copied."""
    return {field.name: getattr(page, field.name) for field in fields(page)}


def show(
    request: HttpRequest,
    template: str,
    page: DataclassInstance,
    *,
    place: str = "",
    status: int = 200,
) -> HttpResponse:
    """The template with the page's fields; ``place`` is the one of the bar on top it belongs to.

    A part of a page that is swapped in belongs to none.
    """
    return render(request, template, parts(page) | {"place": place}, status=status)

"""Tickets narrowed by words, by what was weighed, and by date."""

from __future__ import annotations

from typing import Any
from urllib.parse import urlencode

from django import forms
from django.contrib.contenttypes.models import ContentType
from django.db.models import Q, QuerySet

from book.kinds import KINDS, slug_of
from book.models import Machine, Ticket, Trailer, Truck
from weighing.methods import METHODS
from yards.models import Yard

WEIGHED = (Trailer, Machine, Truck)
"""What of the book is weighed."""


class FindTickets(forms.Form):
    """What the list of tickets is narrowed to; anything not understood narrows nothing."""

    q = forms.CharField(required=False, max_length=100)
    thing = forms.ChoiceField(label="Of", required=False)
    method = forms.ChoiceField(
        label="Way",
        required=False,
        choices=[("", "any way"), *((m.slug, m.title) for m in METHODS.values())],
    )
    since = forms.DateField(
        required=False, widget=forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d")
    )
    until = forms.DateField(
        required=False, widget=forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d")
    )

    def __init__(self, *args: Any, yard: Yard, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        groups = []
        for model in WEIGHED:
            things = [
                (f"{slug_of(t)}-{t.pk}", t.name) for t in model._default_manager.filter(yard=yard)
            ]
            if things:
                words = next(k.many for k in KINDS.values() if k.model is model)
                groups.append((words.capitalize(), things))
        self.fields["thing"].choices = [("", "anything"), *groups]  # type: ignore[attr-defined]
        for field in self.fields.values():
            chooser = isinstance(field.widget, forms.Select)
            field.widget.attrs["class"] = "form-select" if chooser else "form-control"
        self.is_valid()

    def narrowed(self, tickets: QuerySet[Ticket]) -> QuerySet[Ticket]:
        """Those that fit everything that was asked for."""
        asked = self.cleaned_data
        if words := asked.get("q", "").strip():
            tickets = tickets.filter(
                Q(place__icontains=words)
                | Q(number__icontains=words)
                | Q(aboard__icontains=words)
                | Q(read_by__icontains=words)
                | Q(loads__name__icontains=words)
            ).distinct()
        if asked.get("thing"):
            slug, _, pk = asked["thing"].rpartition("-")
            kind = ContentType.objects.get_for_model(KINDS[slug].model)
            tickets = tickets.filter(content_type=kind, object_id=int(pk))
        if asked.get("method"):
            tickets = tickets.filter(method=asked["method"])
        if asked.get("since"):
            tickets = tickets.filter(weighed_on__gte=asked["since"])
        if asked.get("until"):
            tickets = tickets.filter(weighed_on__lte=asked["until"])
        return tickets

    def address(self) -> str:
        """What was asked for, for the links to other pages of the list."""
        return urlencode({name: str(v) for name, v in self.cleaned_data.items() if v})

    @property
    def more(self) -> bool:
        """Whether anything but words narrows the list."""
        return any(self.cleaned_data.get(n) for n in ("thing", "method", "since", "until"))

    @property
    def anything(self) -> bool:
        """Whether anything at all narrows it."""
        return self.more or bool(self.cleaned_data.get("q"))

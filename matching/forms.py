"""What is to be hauled."""

from __future__ import annotations

from typing import Any
from urllib.parse import urlencode

from django import forms
from django.urls import reverse

from hauls.loads import Load, load_choices, read_load
from web.choices import Addable, offer_to_add
from yards.models import Yard

MATCHED = 3
"""Loads that a match is looked for at once."""


class MatchForm(forms.Form):
    """What is to be hauled."""

    def __init__(self, *args: Any, yard: Yard, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.yard = yard
        groups = load_choices(yard).groups
        for n in range(1, MATCHED + 1):
            self.fields[f"load_{n}"] = forms.ChoiceField(
                label="What has to be hauled?" if n == 1 else f"And load {n}",
                required=n == 1,
                choices=[("", "Choose a load" if n == 1 else "No more"), *groups],
                error_messages={"required": "Choose what has to be hauled."},
            )
        back = urlencode({"back": reverse("match")})
        offer_to_add(
            self.fields["load_1"],
            Addable(
                address=f"{reverse('add_thing', args=['machines'])}?{back}", words="add a machine"
            ),
            Addable(
                address=f"{reverse('add_thing', args=['bulk'])}?{back}", words="add a bulk load"
            ),
        )

    @property
    def loads(self) -> list[Load]:
        """The loads chosen, in driving-on order."""
        chosen = (self.cleaned_data.get(f"load_{n}") for n in range(1, MATCHED + 1))
        return [read_load(key, self.yard) for key in chosen if key]

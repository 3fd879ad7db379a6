"""Handing in a plan file."""

from __future__ import annotations

from django import forms

from planfile.reading import MAX_BYTES


class ImportForm(forms.Form):
    """A plan file."""

    file = forms.FileField(
        label="Plan file",
        help_text=f"A .json file of the plan format, at most {MAX_BYTES // 1000} kB.",
        widget=forms.FileInput(attrs={"class": "form-control", "accept": ".json,application/json"}),
    )

"""The boxes of a course, and of a case that is put into one."""

from __future__ import annotations

from typing import Any

from django import forms

from book.forms import InUnits
from measures import UnitSystem
from practice.kinds import KINDS, kind_of
from practice.models import MOST_SEED, Course
from practice.services import any_seed
from practice.sources import source_choices
from yards.models import Yard


class CourseForm(InUnits, forms.ModelForm):
    """A course's name, and what whoever takes it should know."""

    class Meta:
        model = Course
        fields = ("name", "note")
        labels = {"name": "Name", "note": "For whoever takes it"}

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.prepare(UnitSystem.US)


class PartForm(InUnits, forms.Form):
    """A case for a course: its kind, its number or any, what it is made of."""

    kind = forms.ChoiceField(label="Kind", choices=[(one.slug, one.title) for one in KINDS])
    number = forms.IntegerField(
        label="Number",
        required=False,
        min_value=1,
        max_value=MOST_SEED,
        help_text="Empty for any. The same number is the same case for everybody.",
    )
    source = forms.ChoiceField(label="Made of", required=False)

    def __init__(self, *args: Any, yard: Yard, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.prepare(UnitSystem.US)
        field = self.fields["source"]
        assert isinstance(field, forms.ChoiceField)  # noqa: S101
        field.choices = list(source_choices(yard))

    def clean(self) -> dict[str, Any]:
        """A number of its own where none was typed; invented where the kind knows nothing else."""
        found = super().clean() or {}
        found["number"] = found.get("number") or any_seed()
        kind = kind_of(found.get("kind", ""))
        if kind is not None and not kind.of_hauls and found.get("source"):
            self.add_error("source", f"“{kind.title}” is made up only: choose that.")
        return found

"""The form of one way of weighing: its readings, whose they are, and what the ticket says."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

from django import forms
from django.core.exceptions import ValidationError
from django.utils import timezone

from book.fields import QuantityFormField
from book.forms import InUnits, refuse_formula
from book.kinds import KINDS, slug_of
from book.models import Thing
from measures import Quantity, UnitSystem
from mechanics.errors import InputError
from mechanics.weighing import Result
from weighing.methods import Method
from yards.models import Yard


class WeighForm(InUnits, forms.Form):
    """Readings of a method. What was typed stays in its box whatever is wrong with it."""

    thing = forms.ChoiceField(label="Whose weight is it?", required=False)
    empty = forms.BooleanField(
        required=False,
        label="empty: nothing on it that is not always there",
        help_text="Only then may it go into the book.",
    )
    weighed_on = forms.DateField(
        label="Date", widget=forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d")
    )
    place = forms.CharField(max_length=120, required=False)
    number = forms.CharField(label="Ticket number", max_length=60, required=False)
    fee = forms.CharField(max_length=30, required=False)
    aboard = forms.CharField(
        label="Aboard", max_length=200, required=False, help_text="People, fuel, what was on it."
    )

    def __init__(
        self, *args: Any, method: Method, yard: Yard, units: UnitSystem, **kwargs: Any
    ) -> None:
        super().__init__(*args, **kwargs)
        self.method, self.yard = method, yard
        kept = {name: self.fields.pop(name) for name in list(self.fields)}
        for box in method.boxes:
            self.fields[box.name] = QuantityFormField(
                kind=box.kind,
                least="not_negative" if box.name in ("tare", "rigging", "jack") else "positive",
                required=not box.optional,
                label=box.label,
                help_text=box.help,
            )
        self.fields |= kept
        things = [
            (
                KINDS[slug].many.capitalize(),
                list(KINDS[slug].model._default_manager.filter(yard=yard)),
            )
            for slug in method.of
        ]
        self.things = {f"{slug_of(t)}-{t.pk}": t for _, group in things for t in group}
        self.fields["thing"].choices = [  # type: ignore[attr-defined]
            ("", "not in the book, or not said"),
            *(
                (words, [(f"{slug_of(t)}-{t.pk}", t.name) for t in group])
                for words, group in things
                if group
            ),
        ]
        self.prepare(units)

    @property
    def boxes(self) -> list[forms.BoundField]:
        """The readings."""
        return [self[box.name] for box in self.method.boxes]

    @property
    def about(self) -> list[forms.BoundField]:
        """What the ticket says beside them."""
        return [self[n] for n in ("weighed_on", "place", "number", "fee", "aboard")]

    def clean_weighed_on(self) -> date:
        """Nobody has weighed tomorrow."""
        day: date = self.cleaned_data["weighed_on"]
        if day > timezone.localdate() + timedelta(days=1):
            raise ValidationError("This date is still to come. Which day was it weighed?")
        return day

    def clean_place(self) -> str:
        """No formula for a spreadsheet."""
        place = str(self.cleaned_data["place"]).strip()
        refuse_formula(place)
        return place

    @property
    def thing_chosen(self) -> Thing | None:
        """What of the book was weighed, if that was said."""
        return self.things.get(str(self.cleaned_data.get("thing", "")))

    def readings(self) -> dict[str, Quantity]:
        """The readings that were understood."""
        return {
            box.name: self.cleaned_data[box.name]
            for box in self.method.boxes
            if self.cleaned_data.get(box.name) is not None
        }

    def result(self) -> Result | None:
        """What the readings come to; ``None`` while one is wanting or cannot be.

        A reading that cannot be is marked in its box.
        """
        found = self.readings()
        if any(not box.optional and box.name not in found for box in self.method.boxes):
            return None
        try:
            return self.method.compute({name: float(q.si) for name, q in found.items()})
        except InputError as error:
            box = error.path if error.path in self.fields else self.method.boxes[0].name
            words = error.expected
            self.add_error(box, f"This has to be {words}.")
            return None

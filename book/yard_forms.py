"""How a yard judges: its schools, and how far figures may be wrong."""

from __future__ import annotations

from typing import Any, Final

from django import forms

from book.fields import QuantityFormField
from book.forms import InUnits
from book.tolerances import MOST, MOST_PERCENT, PERCENTS, QUANTITIES, Tolerances
from measures import Quantity, UnitSystem
from measures.writing import write_given
from mechanics.rules import TongueSchool, TrailerGvwrSchool
from wording.schools import GVWR_LABELS, GVWR_REASONS, school_words
from wording.securing import SCHOOL_NOTES, SCHOOLS

LABELS: Final = {
    "plate_percent": "Plate, % of the mass",
    "built_up_percent": "Built up, as a whole, % of the mass",
    "brochure_percent": "Brochure, % of the mass",
    "guess_percent": "Guess, % of the mass",
    "bulk_percent": "Bulk load, % of the mass",
    "scale_step": "Weighed: the scale's step",
    "balance_axles": "Balance point, both axles weighed",
    "balance_built_up": "Balance point, built up or taped",
    "balance_guess": "Balance point, guessed",
    "tape": "A taped place of axles or deck",
    "stop": "A machine stops from its mark within",
}


class TolerancesForm(InUnits, forms.Form):
    """The yard's own doubts, each in the unit of its figure."""

    def __init__(self, *args: Any, units: UnitSystem, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.units = units
        usual = Tolerances()
        for name in PERCENTS:
            self.fields[name] = forms.FloatField(
                label=LABELS[name],
                min_value=0,
                max_value=MOST_PERCENT,
                help_text=f"Usual: {getattr(usual, name):g} %.",
                widget=forms.TextInput(attrs={"class": "form-control", "inputmode": "decimal"}),
            )
        for name, kind in QUANTITIES.items():
            self.fields[name] = QuantityFormField(
                kind=kind,
                least="not_negative",
                label=LABELS[name],
                help_text=f"Usual: {write_given(getattr(usual, name), units)}.",
            )
        self.prepare(units)

    def clean(self) -> dict[str, Any]:
        """No doubt so large that it can only be a slip."""
        found: dict[str, Any] = super().clean() or {}
        for name, kind in QUANTITIES.items():
            value = found.get(name)
            if isinstance(value, Quantity) and value.si > MOST[kind].si:
                self.add_error(name, f"No more than {write_given(MOST[kind], self.units)}.")
        return found


class RulesForm(forms.Form):
    """The schools that new hauls are judged by."""

    tongue = forms.ChoiceField(
        label="Tongue share of new hauls",
        choices=[(school.value, school_words(school)) for school in TongueSchool],
        help_text="Nose plate: where the truck has a nose weight plate and a ball; other hauls "
        "go by what is usual for their hitch.",
        widget=forms.Select(attrs={"class": "form-select"}),
    )
    share_min = forms.FloatField(
        label="Our own least, %",
        min_value=0,
        max_value=100,
        required=False,
        help_text="Only with our own numbers.",
        widget=forms.TextInput(attrs={"class": "form-control", "inputmode": "decimal"}),
    )
    share_max = forms.FloatField(
        label="Our own most, %",
        min_value=0,
        max_value=100,
        required=False,
        widget=forms.TextInput(attrs={"class": "form-control", "inputmode": "decimal"}),
    )
    trailer_gvwr = forms.ChoiceField(
        label="Held against the trailer's plate",
        choices=[(school.value, words) for school, words in GVWR_LABELS.items()],
        help_text=GVWR_REASONS[TrailerGvwrSchool.WHOLE]
        + " "
        + GVWR_REASONS[TrailerGvwrSchool.AXLES],
        widget=forms.Select(attrs={"class": "form-select"}),
    )

    securing = forms.ChoiceField(
        label="Ties are held against",
        required=False,
        choices=[
            ("", "the US rule in pounds, EN 12195-1 in kilograms"),
            *(
                (school.value, f"{words}: {SCHOOL_NOTES[school]}")
                for school, words in SCHOOLS.items()
            ),
        ],
        help_text="Each haul may choose another. Local rules prevail.",
        widget=forms.Select(attrs={"class": "form-select"}),
    )

    @staticmethod
    def initial_of(own: dict[str, Any], securing: str) -> dict[str, Any]:
        """What the boxes show of a yard's rules, and of the rule for its ties."""
        shares: dict[str, Any] = {
            n: f"{own[n] * 100:g}" for n in ("share_min", "share_max") if n in own
        }
        return {
            "tongue": own.get("tongue", TongueSchool.DEFAULT.value),
            "trailer_gvwr": own.get("trailer_gvwr", TrailerGvwrSchool.WHOLE.value),
            "securing": securing,
            **shares,
        }

    def clean(self) -> dict[str, Any]:
        """Both shares, in order, with our own numbers."""
        found: dict[str, Any] = super().clean() or {}
        if found.get("tongue") == TongueSchool.CUSTOM.value:
            least, most = found.get("share_min"), found.get("share_max")
            for name, value in (("share_min", least), ("share_max", most)):
                if value is None and name not in self.errors:
                    self.add_error(name, "Give both shares for your own numbers, 9 and 13, say.")
            if least is not None and most is not None and least > most:
                self.add_error("share_max", "The most is below the least. Change one of them.")
        return found

    def rules(self) -> dict[str, Any]:
        """The yard's rules as they are kept; what is usual is left out."""
        found = self.cleaned_data
        rules: dict[str, Any] = {}
        if found["tongue"] != TongueSchool.DEFAULT.value:
            rules["tongue"] = found["tongue"]
        if found["tongue"] == TongueSchool.CUSTOM.value:
            rules["share_min"] = round(found["share_min"] / 100, 10)
            rules["share_max"] = round(found["share_max"] / 100, 10)
        if found["trailer_gvwr"] != TrailerGvwrSchool.WHOLE.value:
            rules["trailer_gvwr"] = found["trailer_gvwr"]
        return rules

"""What is asked of a sheet for the dealer, and what an advertisement says."""

from __future__ import annotations

from typing import Any, Final

from django import forms

from book.fields import LengthField, MassField
from book.forms import InUnits
from matching.forms import MATCHED, MatchForm
from measures import Quantity, UnitSystem
from mechanics.buying import LONG_TRIP, SHORT_HOP, Offer
from mechanics.typical import TrailerKind
from wording.buying import KIND_WORDS
from yards.models import Yard

ABOARD_US, ABOARD_METRIC = "400 lb", "180 kg"
"""Two people, tools and a ball mount. Common practice, no source."""

TRIPS: Final = {
    "short": (SHORT_HOP, "a few miles, on the flat"),
    "long": (LONG_TRIP, "long trips, hills"),
}
"""What is kept back, and for what."""

KINDS: Final = {f"{kind.value}{'-over' if over else ''}": (kind, over) for kind, over in KIND_WORDS}


def _mass(label: str) -> Any:
    return MassField(label, null=True).formfield()


def _length(label: str) -> Any:
    return LengthField(label, null=True).formfield()


class BuyForm(InUnits, MatchForm):
    """What has to be hauled on what kind of trailer, and an advertised one's figures."""

    kind_asked = forms.ChoiceField(
        label="On what kind", choices=[(key, KIND_WORDS[one]) for key, one in KINDS.items()]
    )
    trip = forms.ChoiceField(
        label="For", choices=[(key, words) for key, (_, words) in TRIPS.items()]
    )
    aboard = _mass("people, tools and hitch in the truck")
    gvwr = _mass("GVWR")
    own = _mass("its own mass")
    deck = _length("deck length")
    width = _length("deck width")
    axles = forms.TypedChoiceField(
        label="Axles",
        required=False,
        coerce=int,
        empty_value=None,
        choices=[("", "not said"), ("1", "1"), ("2", "2"), ("3", "3")],
    )
    gawr = _mass("GAWR of each axle")

    def __init__(self, *args: Any, yard: Yard, units: UnitSystem, **kwargs: Any) -> None:
        super().__init__(*args, yard=yard, **kwargs)
        self.units_shown = units
        for name in ("aboard", "gvwr", "own", "deck", "width", "gawr"):
            self.fields[name].required = False
        self.fields["own"].help_text = "Empty: typical of its kind and size, as a band."
        usual = ABOARD_US if units is UnitSystem.US else ABOARD_METRIC
        self.fields["aboard"].help_text = f"Empty: {usual}, two people and their tools."
        self.prepare(units)

    @property
    def asked_boxes(self) -> list[forms.BoundField]:
        """What has to be hauled, on what, for what."""
        names = [f"load_{n}" for n in range(1, MATCHED + 1)]
        return [self[name] for name in (*names, "kind_asked", "trip")]

    @property
    def offer_boxes(self) -> list[forms.BoundField]:
        """What an advertisement says."""
        return [self[name] for name in ("gvwr", "own", "deck", "width", "axles", "gawr")]

    @property
    def kind(self) -> TrailerKind:
        """The kind of trailer."""
        return KINDS[self.cleaned_data["kind_asked"]][0]

    @property
    def over_bed(self) -> bool:
        """Whether its neck reaches over the truck's bed."""
        return KINDS[self.cleaned_data["kind_asked"]][1]

    @property
    def reserve(self) -> float:
        """What is kept back of every rating."""
        return TRIPS[self.cleaned_data["trip"]][0]

    @property
    def trip_words(self) -> str:
        """What for."""
        return TRIPS[self.cleaned_data["trip"]][1]

    @property
    def aboard_kg(self) -> float:
        """What rides in the truck."""
        typed = self.cleaned_data.get("aboard")
        usual = ABOARD_US if self.units_shown is UnitSystem.US else ABOARD_METRIC
        return float((typed or Quantity.parse(usual)).si)

    @property
    def offered(self) -> bool:
        """Whether anything of an advertisement is typed."""
        return any(self.cleaned_data.get(box.name) is not None for box in self.offer_boxes)

    @property
    def offer(self) -> Offer:
        """The advertised trailer."""
        said = self.cleaned_data

        def one(name: str) -> float | None:
            return None if said.get(name) is None else float(said[name].si)

        return Offer(
            gvwr_kg=one("gvwr"),
            empty_kg=one("own"),
            deck_length_m=one("deck"),
            deck_width_m=one("width"),
            axles=said.get("axles"),
            gawr_kg=one("gawr"),
        )

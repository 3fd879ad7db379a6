"""The form of one way of weighing: its readings, whose they are, and what the ticket says."""

from __future__ import annotations

from typing import Any, Final

from django import forms
from django.core.exceptions import ValidationError
from django.forms import formset_factory
from django.urls import reverse

from book.fields import QuantityFormField
from book.forms import InUnits, WeighedDay, refuse_formula
from book.kinds import KINDS, slug_of
from book.models import Aboard, Configuration, Machine, Thing, Ticket, Trailer, Truck
from book.tolerances import Tolerances
from measures import Quantity, UnitSystem
from measures.writing import write_mass
from mechanics.errors import InputError
from mechanics.weighing import Result
from web.choices import Addable, offer_to_add
from web.sent import whole_number
from weighing.methods import Given, Method
from yards.models import Yard

MAY_BE_NONE: Final = ("tare", "rigging", "jack", "known_1")
"""Boxes in which nothing at all is a reading too."""

WORDS_OF: Final = {Trailer: "trailer", Machine: "machine", Truck: "truck"}
"""What of the book was weighed, as the ways of weighing ask it."""

RECENT: Final = 30
"""Earlier tickets that a second weighing may belong to."""


class AtAScale(InUnits, WeighedDay):
    """A form with the day and the place of a weighing."""

    def clean_place(self) -> str:
        """No formula for a spreadsheet."""
        place = str(self.cleaned_data["place"]).strip()
        refuse_formula(place)
        return place


class WeighForm(AtAScale, forms.Form):
    """Readings of a method. What was typed stays in its box whatever is wrong with it."""

    step = QuantityFormField(
        kind="mass",
        least="positive",
        required=False,
        label="The scale's step",
        help_text="As on its plate.",
    )
    capacity = QuantityFormField(
        kind="mass",
        least="positive",
        required=False,
        label="The scale's capacity",
        help_text="Empty: not checked.",
    )

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
    read_by = forms.CharField(label="Read by", max_length=80, required=False)
    first_weighing = forms.ModelChoiceField(
        Ticket.objects.none(),
        label="Second weighing of",
        required=False,
        empty_label="a first weighing",
    )
    aboard = forms.CharField(
        label="Worth remembering",
        max_length=200,
        required=False,
        help_text="What held constant, what was odd.",
    )
    photo = forms.FileField(
        label="Photo of the ticket",
        required=False,
        widget=forms.FileInput(attrs={"accept": "image/jpeg,image/png,image/webp"}),
        help_text="JPEG, PNG or WebP, at most 12 MB.",
    )

    def __init__(
        self,
        *args: Any,
        method: Method,
        yard: Yard,
        units: UnitSystem,
        ticket: Ticket | None = None,
        **kwargs: Any,
    ) -> None:
        super().__init__(*args, **kwargs)
        self.method, self.yard = method, yard
        kept = {name: self.fields.pop(name) for name in list(self.fields)}
        if method.choices:
            self.fields["choice"] = forms.ChoiceField(
                label=method.question,
                choices=[("", "choose"), *method.choices],
                error_messages={"required": "Choose this first: the arithmetic depends on it."},
            )
        for box in method.boxes:
            self.fields[box.name] = QuantityFormField(
                kind=box.kind,
                least="not_negative" if box.name in MAY_BE_NONE else "positive",
                required=not box.optional,
                label=box.label,
                help_text=box.help,
            )
        self.fields |= kept
        self.things: dict[str, tuple[Thing, Configuration | None]] = {}
        groups = []
        for slug in method.of:
            found: list[tuple[str, tuple[Thing, Configuration | None]]] = [
                (f"{slug_of(thing)}-{thing.pk}", (thing, None))
                for thing in KINDS[slug].model._default_manager.filter(yard=yard)
            ]
            if slug == "machines":
                found += _configurations(yard)
            self.things |= dict(found)
            if found:
                words = KINDS[slug].many.capitalize()
                groups.append((words, [(key, str(c or t)) for key, (t, c) in found]))
        self.fields["thing"].choices = [  # type: ignore[attr-defined]
            ("", "not in the book, or not said"),
            *groups,
        ]
        offer_to_add(
            self.fields["thing"],
            *(
                Addable(address=reverse("add_thing", args=[slug]), words=f"add a {KINDS[slug].one}")
                for slug in method.of
            ),
        )
        earlier = Ticket.objects.filter(yard=yard).prefetch_related("thing")
        if ticket is not None:
            earlier = earlier.exclude(pk=ticket.pk)
        wanted = self.data.get("first_weighing") or self.initial.get("first_weighing")
        recent = list(earlier.values_list("pk", flat=True)[:RECENT])
        first_pk = whole_number(getattr(wanted, "pk", wanted))
        chosen = [] if first_pk is None else [first_pk]
        first = self.fields["first_weighing"]
        first.queryset = earlier.filter(pk__in=[*recent, *chosen])  # type: ignore[attr-defined]
        first.label_from_instance = _ticket_words  # type: ignore[attr-defined]
        self.fields["step"].help_text = (
            "Empty: as such scales commonly have."
            if method.scales
            else f"Empty: {write_mass(method.scale.step_kg, units)}."
        )
        if not method.read_on_scale:
            del self.fields["step"], self.fields["capacity"]
        self.prepare(units)

    cannot_be = ""
    """The box of a reading that cannot be, whether or not anything was typed there."""

    @property
    def boxes(self) -> list[forms.BoundField]:
        """What is chosen beside the readings, and the readings."""
        chosen = [self["choice"]] if "choice" in self.fields else []
        return chosen + [self[box.name] for box in self.method.boxes]

    @property
    def about(self) -> list[forms.BoundField]:
        """What the ticket says beside them."""
        names = (
            "weighed_on",
            "place",
            "number",
            "fee",
            "read_by",
            "first_weighing",
            "aboard",
            "photo",
        )
        return [self[name] for name in names]

    @property
    def scale(self) -> list[forms.BoundField]:
        """What is known of the scale."""
        return [self[name] for name in ("step", "capacity") if name in self.fields]

    def clean_first_weighing(self) -> Ticket | None:
        """A second weighing belongs to a first, not to another second."""
        first: Ticket | None = self.cleaned_data["first_weighing"]
        if first is not None and first.first is not None:
            raise ValidationError(
                f"The ticket of {first} is itself a second weighing. Choose the one of "
                f"{first.first}."
            )
        return first

    @property
    def thing_chosen(self) -> Thing | None:
        """What of the book was weighed, if that was said."""
        found = self.things.get(str(self.cleaned_data.get("thing", "")))
        return found[0] if found else None

    @property
    def configuration_chosen(self) -> Configuration | None:
        """How the weighed machine was set up, if that was said."""
        found = self.things.get(str(self.cleaned_data.get("thing", "")))
        return found[1] if found else None

    def readings(self) -> dict[str, Quantity]:
        """The readings that were understood."""
        return {
            box.name: self.cleaned_data[box.name]
            for box in self.method.boxes
            if self.cleaned_data.get(box.name) is not None
        }

    def of_the_scale(self) -> dict[str, Quantity]:
        """Step and capacity of the scale, where they were given."""
        return {
            name: self.cleaned_data[name]
            for name in ("step", "capacity")
            if self.cleaned_data.get(name) is not None
        }

    def result(self) -> Result | None:
        """What the readings come to; ``None`` while one is wanting or cannot be.

        A reading that cannot be is marked in its box.
        """
        found = self.readings()
        if any(not box.optional and box.name not in found for box in self.method.boxes):
            return None
        choice = str(self.cleaned_data.get("choice", ""))
        if self.method.choices and not choice:
            return None
        of_scale = {name: float(q.si) for name, q in self.of_the_scale().items()}
        given = Given(
            si={name: float(q.si) for name, q in found.items()},
            scale=self.method.scale_for(choice, of_scale.get("step")),
            of=next((w for t, w in WORDS_OF.items() if isinstance(self.thing_chosen, t)), ""),
            choice=choice,
            tape_m=Tolerances.of(self.yard).tape_m,
        )
        try:
            return self.method.worked_out(given, of_scale.get("capacity"))
        except InputError as error:
            box = error.path if error.path in self.fields else self.method.boxes[0].name
            words = error.expected
            self.add_error(box, f"This has to be {words}.")
            self.cannot_be = box
            return None


def machines_of(yard: Yard) -> dict[str, tuple[Machine, Configuration | None]]:
    """Every machine of the yard, and each in its configurations, by the word in a form."""
    found: dict[str, tuple[Machine, Configuration | None]] = {
        f"machines-{m.pk}": (m, None) for m in Machine.objects.filter(yard=yard)
    }
    return found | dict(_configurations(yard))


def _configurations(yard: Yard) -> list[tuple[str, tuple[Machine, Configuration | None]]]:
    found = Configuration.objects.filter(machine__yard=yard).select_related("machine")
    return [(f"machines-{c.machine_id}-{c.pk}", (c.machine, c)) for c in found]


def _ticket_words(ticket: Any) -> str:
    """A ticket in the list of first weighings."""
    parts = (str(ticket), ticket.thing and ticket.thing.name, ticket.place, ticket.number)
    return ", ".join(str(part) for part in parts if part)


class AboardRow(InUnits, forms.Form):
    """One line of what was aboard: people, fuel, or an item and where it stood."""

    what = forms.ChoiceField(label="What", required=False)
    name = forms.CharField(label="Who or how much", max_length=80, required=False)
    mass = QuantityFormField(kind="mass", least="positive", required=False, label="Mass")
    reference = QuantityFormField(
        kind="length", least="any", required=False, label="Its mark behind the headboard"
    )
    facing = forms.ChoiceField(
        label="Facing", required=False, choices=[("forward", "forward"), ("backward", "backward")]
    )

    def __init__(
        self,
        *args: Any,
        machines: dict[str, tuple[Machine, Configuration | None]],
        units: UnitSystem,
        **kwargs: Any,
    ) -> None:
        super().__init__(*args, **kwargs)
        self.machines = machines
        self.fields["what"].choices = [  # type: ignore[attr-defined]
            ("", "nothing"),
            (Aboard.Kind.PERSON.value, "people"),
            (Aboard.Kind.FUEL.value, "fuel"),
            (Aboard.Kind.OTHER.value, "something else"),
            ("Machines", [(key, str(c or m)) for key, (m, c) in machines.items()]),
        ]
        self.prepare(units)

    @property
    def boxes(self) -> list[forms.BoundField]:
        """The row's boxes, in their order."""
        return [self[name] for name in self.fields]

    more_boxes: tuple[forms.BoundField, ...] = ()

    def clean(self) -> dict[str, Any]:
        """Whatever is filled in needs to say what it is."""
        cleaned: dict[str, Any] = self.cleaned_data
        filled = any(cleaned.get(name) for name in ("name", "mass", "reference"))
        if filled and not cleaned.get("what"):
            self.add_error("what", "Choose what this was.")
        return cleaned

    def as_row(self) -> Aboard | None:
        """The line, not stored; ``None`` where the row is empty or taken out."""
        what = self.cleaned_data.get("what", "")
        if not what or self.cleaned_data.get("DELETE"):
            return None
        machine, configuration = self.machines.get(what, (None, None))
        return Aboard(
            kind=Aboard.Kind.ITEM if machine else what,
            name=self.cleaned_data["name"].strip(),
            machine=machine,
            configuration=configuration,
            mass=self.cleaned_data["mass"],
            reference=self.cleaned_data["reference"] if machine else None,
            facing=self.cleaned_data["facing"] or Aboard.Facing.FORWARD,
        )


AboardRows = formset_factory(
    AboardRow, extra=1, max_num=20, absolute_max=30, validate_max=True, can_delete=True
)


def rows_of(ticket: Ticket) -> list[dict[str, Any]]:
    """What was aboard at a ticket, as the rows' boxes hold it."""
    found = []
    for load in ticket.loads.all():
        what: str = load.kind
        if load.machine is not None:
            what = f"machines-{load.machine_id}"
            if load.configuration is not None:
                what += f"-{load.configuration_id}"
        found.append(
            {
                "what": what,
                "name": load.own_words,
                "mass": load.mass,
                "reference": load.reference,
                "facing": load.facing,
            }
        )
    return found

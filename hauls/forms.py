"""Choosing an outfit, and handing in a plan file."""

from __future__ import annotations

from typing import Any

from django import forms
from django.db.models import Q, QuerySet

from book.chain import couples
from book.models import Bulk, Configuration, Hitch, Machine, Trailer, Truck
from hauls.compose import Load
from hauls.models import Haul, HaulItem
from hauls.wording import STATUS_WORDS
from planfile.reading import MAX_BYTES
from yards.models import Yard

DATE = forms.DateInput(attrs={"type": "date"})

MATCHED = 3
"""Loads that a match is looked for at once."""

LOADS = 6
"""Machines and bulk loads that one haul takes from the book."""


class OutfitForm(forms.Form):
    """A truck by its hitch, a trailer, machines and bulk loads in driving-on order."""

    name = forms.CharField(
        max_length=200, help_text="What and where to: “Tractor to the lower meadow”."
    )
    hitch = forms.ModelChoiceField(
        Hitch.objects.none(), label="Truck and hitch", empty_label="Choose a truck"
    )
    trailer = forms.ModelChoiceField(Trailer.objects.none(), empty_label="Choose a trailer")

    def __init__(self, *args: Any, yard: Yard, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        hitches = (
            Hitch.objects.filter(truck__yard=yard)
            .select_related("truck__yard")
            .order_by("truck__name", "pk")
        )
        trailers = Trailer.objects.filter(yard=yard).select_related("yard")
        self.fields["hitch"].queryset = hitches  # type: ignore[attr-defined]
        self.fields["trailer"].queryset = trailers  # type: ignore[attr-defined]
        self.yard = yard
        machines, bulk = load_choices(yard)
        groups = [
            (words, found) for words, found in (("Machines", machines), ("Bulk", bulk)) if found
        ]
        for n in range(1, LOADS + 1):
            self.fields[f"load_{n}"] = forms.ChoiceField(
                label="Load" if n == 1 else f"Load {n}",
                required=False,
                choices=[("", "Nothing" if n == 1 else "No more"), *groups],
            )
        self.fields["load_1"].help_text = "In driving-on order. A machine as it is configured."
        for field in self.fields.values():
            field.widget.attrs["class"] = (
                "form-select" if isinstance(field, forms.ChoiceField) else "form-control"
            )
        if not self.is_bound and not self.initial:
            # with one of a kind there is nothing to choose
            if len(hitches) == 1:
                self.initial["hitch"] = hitches[0].pk
            if len(trailers) == 1:
                self.initial["trailer"] = trailers[0].pk
            if len(machines) + len(bulk) == 1:
                self.initial["load_1"] = (machines or bulk)[0][0]

    def clean(self) -> dict[str, Any]:
        """A gooseneck trailer goes over the bed and no other does."""
        cleaned: dict[str, Any] = super().clean() or self.cleaned_data
        hitch, trailer = cleaned.get("hitch"), cleaned.get("trailer")
        if hitch and trailer and not couples(hitch, trailer):
            where = "behind the bumper"
            if trailer.over_bed:
                where = (
                    "in a fifth wheel over the bed"
                    if trailer.kind == Trailer.Kind.FIFTH_WHEEL
                    else "over the bed"
                )
            self.add_error("hitch", f"{trailer.name} is coupled {where}, and {hitch} is not there.")
        return cleaned

    @property
    def first_fields(self) -> list[forms.BoundField]:
        """The boxes in sight."""
        names = [n for n in self.fields if not n.startswith("load_")] + ["load_1"]
        return [self[name] for name in names]

    @property
    def more_fields(self) -> list[forms.BoundField]:
        """Further loads, which unfold."""
        return [self[f"load_{n}"] for n in range(2, LOADS + 1)]

    @property
    def more_open(self) -> bool:
        """Whether there is more than one load."""
        return any(bound.value() for bound in self.more_fields)

    @property
    def loads(self) -> list[Load]:
        """The loads chosen, in order."""
        chosen = (self.cleaned_data.get(f"load_{n}") for n in range(1, LOADS + 1))
        return [read_load(key, self.yard) for key in chosen if key]


def load_key(load: Load) -> str:
    """What a choice of a load is sent as: ``machine-3``, ``machine-3-7``, ``bulk-2``."""
    machine, configuration, bulk = load.key
    if bulk is not None:
        return f"bulk-{bulk}"
    return f"machine-{machine}" if configuration is None else f"machine-{machine}-{configuration}"


def load_choices(yard: Yard) -> tuple[list[tuple[str, str]], list[tuple[str, str]]]:
    """What a yard has to put on a deck, as keys and names: machines as configured, bulk.

    A machine built up from parts has no weight apart from its configurations.
    """
    ways: dict[int, list[tuple[int, str]]] = {}
    configurations = Configuration.objects.filter(machine__yard=yard).order_by("pk")
    for machine, pk, name in configurations.values_list("machine_id", "pk", "name"):
        ways.setdefault(machine, []).append((pk, name))
    machines = []
    things = Machine.objects.filter(yard=yard).values_list("pk", "name", "built")
    for pk, name, built in things:
        if built != Machine.Built.PARTS or pk not in ways:
            machines.append((f"machine-{pk}", name))
        machines += [(f"machine-{pk}-{way}", f"{name}, {words}") for way, words in ways.get(pk, ())]
    bulk = [
        (f"bulk-{pk}", name)
        for pk, name in Bulk.objects.filter(yard=yard).values_list("pk", "name")
    ]
    return machines, bulk


def read_load(key: str, yard: Yard) -> Load:
    """The load of a choice that :func:`load_choices` offered."""
    kind, *numbers = key.split("-")
    if kind == "bulk":
        return Load(bulk=Bulk.objects.select_related("yard").get(yard=yard, pk=numbers[0]))
    machines = Machine.objects.select_related("yard").prefetch_related("parts")
    machine = machines.get(yard=yard, pk=numbers[0])
    if len(numbers) == 1:
        return Load(machine=machine)
    configuration = machine.configurations.get(pk=numbers[1])
    configuration.machine = machine
    return Load(machine=machine, configuration=configuration)


class MatchForm(forms.Form):
    """What is to be hauled."""

    def __init__(self, *args: Any, yard: Yard, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.yard = yard
        machines, bulk = load_choices(yard)
        groups = [
            (words, found) for words, found in (("Machines", machines), ("Bulk", bulk)) if found
        ]
        for n in range(1, MATCHED + 1):
            self.fields[f"load_{n}"] = forms.ChoiceField(
                label="What has to be hauled?" if n == 1 else f"And load {n}",
                required=n == 1,
                choices=[("", "Choose a load" if n == 1 else "No more"), *groups],
                error_messages={"required": "Choose what has to be hauled."},
            )

    @property
    def loads(self) -> list[Load]:
        """The loads chosen, in driving-on order."""
        chosen = (self.cleaned_data.get(f"load_{n}") for n in range(1, MATCHED + 1))
        return [read_load(key, self.yard) for key in chosen if key]


class FindForm(forms.Form):
    """What the list of hauls is narrowed to; an empty box narrows nothing."""

    q = forms.CharField(required=False, max_length=100, label="Find a haul")
    verdict = forms.ChoiceField(
        required=False,
        choices=[("", "any"), *((s.value, words) for s, words in STATUS_WORDS.items())],
    )
    load = forms.ChoiceField(required=False, label="Machine or bulk")
    trailer = forms.ModelChoiceField(Trailer.objects.none(), required=False, empty_label="any")
    since = forms.DateField(required=False, label="Changed since", widget=DATE)
    until = forms.DateField(required=False, widget=DATE)
    away = forms.BooleanField(required=False, label="put away")

    def __init__(self, *args: Any, yard: Yard, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        self.yard = yard
        machines = Machine.objects.filter(yard=yard).values_list("pk", "name")
        bulk = Bulk.objects.filter(yard=yard).values_list("pk", "name")
        self.fields["load"].choices = [  # type: ignore[attr-defined]
            ("", "any"),
            ("Machines", [(f"machine-{pk}", name) for pk, name in machines]),
            ("Bulk", [(f"bulk-{pk}", name) for pk, name in bulk]),
        ]
        self.fields["trailer"].queryset = Trailer.objects.filter(yard=yard)  # type: ignore[attr-defined]
        for name, field in self.fields.items():
            look = "form-select" if isinstance(field, forms.ChoiceField) else "form-control"
            field.widget.attrs["class"] = "form-check-input" if name == "away" else look

    def clean(self) -> dict[str, Any]:
        """The days run forward."""
        cleaned: dict[str, Any] = super().clean() or self.cleaned_data
        since, until = cleaned.get("since"), cleaned.get("until")
        if since and until and until < since:
            self.add_error("until", "This day is before the first. Change one of them.")
        return cleaned

    @property
    def narrowing(self) -> list[forms.BoundField]:
        """The boxes that unfold under the search."""
        return [self[n] for n in ("verdict", "load", "trailer", "since", "until", "away")]

    @property
    def options(self) -> dict[str, list[tuple[str, list[tuple[str, str]]]]]:
        """Options of the boxes to choose from, by group; a group without a heading comes first."""
        found: dict[str, list[tuple[str, list[tuple[str, str]]]]] = {}
        for name, field in self.fields.items():
            if not isinstance(field, forms.ChoiceField):
                continue
            groups: list[tuple[str, list[tuple[str, str]]]] = [("", [])]
            for key, words in field.choices:
                if isinstance(words, (list, tuple)):
                    groups.append((str(key), [(str(k), str(w)) for k, w in words]))
                else:
                    groups[0][1].append((str(key), str(words)))
            found[name] = groups
        return found

    @property
    def narrowed(self) -> bool:
        """Whether anything but words narrows the list."""
        return any(self.data.get(n) for n in self.fields if n != "q")

    def narrow(self, hauls: QuerySet[Haul]) -> QuerySet[Haul]:
        """The hauls that the boxes leave; boxes that make no sense narrow nothing."""
        asked = self.cleaned_data if self.is_bound and self.is_valid() is not None else {}
        hauls = hauls.filter(archived=bool(asked.get("away")))
        words = (asked.get("q") or "").strip()
        if words:
            # by sets of keys: joined rows would have to be told apart, documents and all
            on = HaulItem.objects.filter(
                Q(machine__in=Machine.objects.filter(yard=self.yard, name__icontains=words))
                | Q(bulk__in=Bulk.objects.filter(yard=self.yard, name__icontains=words))
            )
            hauls = hauls.filter(
                Q(name__icontains=words)
                | Q(truck__in=Truck.objects.filter(yard=self.yard, name__icontains=words))
                | Q(trailer__in=Trailer.objects.filter(yard=self.yard, name__icontains=words))
                | Q(pk__in=on.values("haul_id"))
            )
        if asked.get("verdict"):
            hauls = hauls.filter(verdict=asked["verdict"])
        if asked.get("load"):
            kind, pk = asked["load"].split("-")
            # one row a haul, however often the load is on it
            on = HaulItem.objects.filter(**{f"{kind}_id": pk}).values("haul_id")
            hauls = hauls.filter(pk__in=on)
        if asked.get("trailer"):
            hauls = hauls.filter(trailer=asked["trailer"])
        if asked.get("since"):
            hauls = hauls.filter(changed_at__date__gte=asked["since"])
        if asked.get("until"):
            hauls = hauls.filter(changed_at__date__lte=asked["until"])
        return hauls


class ImportForm(forms.Form):
    """A plan file."""

    file = forms.FileField(
        label="Plan file",
        help_text=f"A .json file of the plan format, at most {MAX_BYTES // 1000} kB.",
        widget=forms.FileInput(attrs={"class": "form-control", "accept": ".json,application/json"}),
    )

"""What of the book goes on a deck: a machine as configured, or bulk."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from book.errors import IncompleteError
from book.models import Bulk, Configuration, Machine
from hauls.models import Haul, HaulItem
from yards.models import Yard


@dataclass(frozen=True, kw_only=True, slots=True)
class LoadKey:
    """Which load it is, by primary keys; written ``machine-3``, ``machine-3-7``, ``bulk-2``."""

    machine: int | None = None
    configuration: int | None = None
    bulk: int | None = None

    def __str__(self) -> str:
        """What a choice of the load is sent as."""
        if self.bulk is not None:
            return f"bulk-{self.bulk}"
        way = "" if self.configuration is None else f"-{self.configuration}"
        return f"machine-{self.machine}{way}"

    @classmethod
    def read(cls, key: str) -> LoadKey:
        """The key that was sent.

        Raises:
            ValueError: it is none.
        """
        kind, *numbers = key.split("-")
        keys = [int(number) for number in numbers]
        if kind == "bulk" and len(keys) == 1:
            return cls(bulk=keys[0])
        if kind == "machine" and len(keys) in (1, 2):
            return cls(machine=keys[0], configuration=keys[1] if len(keys) > 1 else None)
        raise ValueError(f"no load has the key {key}")


@dataclass(frozen=True, kw_only=True)
class Load:
    """Something of the book that goes on a deck."""

    machine: Machine | None = None
    configuration: Configuration | None = None
    bulk: Bulk | None = None

    @property
    def name(self) -> str:
        """What the plan calls it."""
        if self.bulk is not None:
            return self.bulk.name
        return str(self.configuration or self.machine)

    @property
    def yard(self) -> Yard:
        """Whose it is."""
        thing = self.bulk or self.machine
        if thing is None:
            raise IncompleteError("the load", ["a machine or a bulk load"])
        return thing.yard

    @property
    def key(self) -> LoadKey:
        """Which one it is."""
        return LoadKey(
            machine=None if self.machine is None else self.machine.pk,
            configuration=None if self.configuration is None else self.configuration.pk,
            bulk=None if self.bulk is None else self.bulk.pk,
        )


@dataclass(frozen=True, kw_only=True)
class LoadChoices:
    """What a yard has to put on a deck, as keys and names."""

    machines: list[tuple[str, str]]
    bulk: list[tuple[str, str]]

    @property
    def groups(self) -> list[tuple[str, list[tuple[str, str]]]]:
        """Under their headings, those that have any."""
        both = (("Machines", self.machines), ("Bulk", self.bulk))
        return [(heading, found) for heading, found in both if found]

    @property
    def all(self) -> list[tuple[str, str]]:
        """Machines, then bulk."""
        return [*self.machines, *self.bulk]


def load_choices(yard: Yard) -> LoadChoices:
    """What a yard has to put on a deck: machines as configured, bulk.

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
            machines.append((str(LoadKey(machine=pk)), name))
        machines += [
            (str(LoadKey(machine=pk, configuration=way)), f"{name}, {words}")
            for way, words in ways.get(pk, ())
        ]
    return LoadChoices(
        machines=machines,
        bulk=[
            (str(LoadKey(bulk=pk)), name)
            for pk, name in Bulk.objects.filter(yard=yard).values_list("pk", "name")
        ],
    )


def nearest_choice(load: Load, choices: LoadChoices) -> str:
    """The choice that a load is sent as: itself, else the first configuration of a machine that has
    no weight without one; empty where there is none."""
    key = str(load.key)
    offered = [one for one, _ in choices.all]
    if key in offered:
        return key
    return next((one for one in offered if one.startswith(f"{key}-")), "")


def read_load(key: str, yard: Yard) -> Load:
    """The load of a choice that :func:`load_choices` offered."""
    asked = LoadKey.read(key)
    if asked.bulk is not None:
        return Load(bulk=Bulk.objects.select_related("yard").get(yard=yard, pk=asked.bulk))
    machines = Machine.objects.select_related("yard").prefetch_related("parts", "points")
    machine = machines.get(yard=yard, pk=asked.machine or 0)
    if asked.configuration is None:
        return Load(machine=machine)
    configuration = machine.configurations.get(pk=asked.configuration)
    configuration.machine = machine
    return Load(machine=machine, configuration=configuration)


def linked_loads(haul: Haul) -> dict[str, Load]:
    """What of the book each item of a haul was taken from, by item id."""
    links = haul.links.select_related(
        "machine__yard", "configuration__machine", "bulk__yard"
    ).prefetch_related("machine__parts", "machine__points", "configuration__parts")
    return {
        link.item_id: Load(machine=link.machine, configuration=link.configuration, bulk=link.bulk)
        for link in links
    }


def link(haul: Haul, loads: Iterable[tuple[str, Load]]) -> None:
    """Keep what of the book items of a haul were taken from."""
    HaulItem.objects.bulk_create(
        HaulItem(
            haul=haul,
            machine=load.machine,
            configuration=load.configuration,
            bulk=load.bulk,
            item_id=item_id,
        )
        for item_id, load in loads
    )

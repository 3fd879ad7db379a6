"""Pages of the book on paper."""

from __future__ import annotations

from book.data_sheet import data_sheet
from book.gaps import gaps
from book.kinds import KINDS, things_of
from book.models import Machine, Trailer, Truck
from book.summary import derived
from book.tolerances import Tolerances
from hauls.tests.yard_case import YardCase
from measures import UnitSystem

US = UnitSystem.US


class Sheets(YardCase):
    def sheet(self, thing: Truck | Trailer | Machine, units: UnitSystem = US) -> dict[str, str]:
        """Every figure of a sheet by its name."""
        kind = next(kind for kind in KINDS.values() if isinstance(thing, kind.model))
        sheet = data_sheet(
            thing,
            kind,
            derived=derived(thing, units, Tolerances()),
            gaps=gaps(thing, units),
            units=units,
        )
        found = {name: words for part in sheet.parts for name, words in part.rows}
        for table in sheet.tables:
            for line in table.lines:
                self.assertEqual(len(line), len(table.columns), table.heading)
                found[f"{table.heading}: {line[0]}"] = " | ".join(line)
        return found

    def test_every_figure_that_is_known_stands_on_it_in_one_system(self) -> None:
        truck = Truck.objects.get(name="Work truck 3")
        found = self.sheet(truck)
        self.assertEqual(found["gross vehicle rating (GVWR)"], "10,000 lb")
        self.assertEqual(found["cab"], "Crew")
        self.assertEqual(
            found["Usual load of the truck: Driver"], "Driver | 190 lb | 10 lb | 5 ft 10 in"
        )
        hitch = found["Hitches: Receiver, ball"]
        self.assertIn("for the tongue: Receiver, truck 3, 1,500 lb", hitch)
        metric = self.sheet(truck, UnitSystem.METRIC)
        self.assertEqual(metric["gross vehicle rating (GVWR)"], "4,536 kg (10,000 lb)")

    def test_only_the_chosen_way_and_nothing_that_is_empty(self) -> None:
        machine = Machine.objects.get(name="Harrow 90 tractor")
        found = self.sheet(machine)
        self.assertNotIn("", found.values())
        self.assertEqual(
            "front axle mass" in found, machine.built == Machine.Built.AXLES, machine.built
        )

    def test_every_page_of_the_book_has_one(self) -> None:
        for slug, kind in KINDS.items():
            for thing in things_of(kind, self.yard):
                page = self.client.get(f"/book/{slug}/{thing.pk}/")
                self.assertContains(page, 'class="data-sheet"')
                self.assertContains(page, f"<h1>{thing.name}</h1><p>{kind.one.capitalize()}, ")

"""What tickets say for a fit: which count, what stood beside, and what the book believes."""

from __future__ import annotations

from datetime import date
from typing import Any

from book.errors import IncompleteError
from book.models import Aboard, Machine, Ticket, Trailer
from measures import Quantity
from mechanics.fit import What
from mechanics.units import KG_PER_LB, M_PER_IN
from weighing.gathering import NOT_KNOWN_KG, Subject, believed, gather, subjects_of
from weighing.models import AcceptedFit
from weighing.tests.test_fit import FitCase

DAY = date(2026, 5, 4)


class GatheringCase(FitCase):
    """A yard without tickets."""

    def setUp(self) -> None:
        super().setUp()
        Ticket.objects.all().delete()

    def ticket(self, thing: Trailer | Machine, **fields: Any) -> Ticket:
        """A ticket of a thing; masses in words."""
        masses = {
            name: Quantity.parse(words)
            for name, words in fields.items()
            if name.endswith("_mass") and isinstance(words, str)
        }
        ticket = Ticket(yard=self.yard, weighed_on=DAY, **{**fields, **masses})
        ticket.thing = thing
        ticket.save()
        return ticket

    def aboard(self, ticket: Ticket, **fields: Any) -> Aboard:
        """A load of a ticket."""
        for name, words in fields.items():
            if name in ("mass", "reference"):
                fields[name] = Quantity.parse(words)
        return Aboard.objects.create(ticket=ticket, kind=Aboard.Kind.ITEM, **fields)

    def pair(self) -> Subject:
        """The trailer and the tractor, as they are stored now."""
        return Subject(
            trailer=Trailer.objects.get(pk=self.trailer.pk),
            machine=Machine.objects.get(pk=self.harrow.pk),
        )


class Gathers(GatheringCase):
    def test_an_empty_trailer_and_one_with_nothing_said(self) -> None:
        self.ticket(self.trailer, whole_mass="2900 lb", readings={"empty": True}, method="pads")
        self.ticket(self.trailer, tongue_mass="330 lb", method="")
        silent = self.ticket(self.trailer, tongue_mass="1100 lb", method="gauge")
        found, left = gather(Subject(trailer=self.trailer))
        self.assertEqual([What.TRAILER_EMPTY, What.TONGUE_EMPTY], [one.seen.what for one in found])
        self.assertEqual([silent], [ticket for ticket, _ in left])
        self.assertIn("nor that it was empty", left[0][1])

    def test_of_an_earlier_day_they_count_for_nothing(self) -> None:
        self.ticket(self.trailer, whole_mass="2900 lb", readings={"empty": True})
        self.assertEqual(([], []), gather(Subject(trailer=self.trailer), date(2026, 5, 5)))

    def test_tickets_of_another_configuration_are_of_another_machine(self) -> None:
        backhoe = Machine.objects.get(name="Harrow 60 backhoe tractor")
        off = backhoe.configurations.get(name="backhoe off")
        self.ticket(backhoe, whole_mass="6900 lb", configuration=off)
        whole = self.ticket(backhoe, whole_mass="8600 lb")
        self.assertEqual([whole], [one.ticket for one in gather(Subject(machine=backhoe))[0]])

    def test_what_stood_beside_is_told_with_its_moment_about_the_ball(self) -> None:
        ticket = self.ticket(self.trailer, tongue_mass="1300 lb", method="gauge")
        self.aboard(ticket, machine=self.harrow, reference="170 in")
        self.aboard(ticket, name="Pallet", mass="600 lb", reference="40 in")
        self.aboard(ticket, machine=self.big, reference="60 in", facing="backward", mass="900 lb")
        (one,), left = gather(self.pair())
        self.assertEqual([], left)
        self.assertIs(What.TONGUE_LOADED, one.seen.what)
        self.assertAlmostEqual(1500 * KG_PER_LB, one.seen.beside_kg)
        start = float(self.trailer.deck_start.si)
        body = believed(Subject(machine=self.big), [], fresh=True).ahead[0]
        pallet = 600 * KG_PER_LB * (start + 40 * M_PER_IN)
        other = 900 * KG_PER_LB * (start + 60 * M_PER_IN + body)
        self.assertAlmostEqual(pallet + other, one.seen.beside_moment_kg_m)

    def test_a_whole_trailer_needs_no_place(self) -> None:
        ticket = self.ticket(self.trailer, whole_mass="8250 lb", tongue_mass="1100 lb")
        self.aboard(ticket, machine=self.harrow)
        (one,), _ = gather(self.pair())
        self.assertIs(What.TRAILER_LOADED, one.seen.what)

    def test_what_is_not_known_of_a_neighbour_keeps_the_ticket_out(self) -> None:
        bare = Machine.objects.create(yard=self.yard, name="Bare", built=Machine.Built.WHOLE)
        for fields in (
            {"name": "Pallet", "reference": "40 in"},
            {"name": "Pallet", "mass": "600 lb"},
            {"machine": bare, "reference": "40 in"},
        ):
            with self.subTest(fields=sorted(fields)):
                Ticket.objects.all().delete()
                ticket = self.ticket(self.trailer, tongue_mass="1300 lb", method="gauge")
                self.aboard(ticket, machine=self.harrow, reference="150 in")
                self.aboard(ticket, **fields)
                found, left = gather(self.pair())
                self.assertEqual([], found)
                self.assertIn("lacks its mass or its place", left[0][1])

    def test_with_something_on_it_counts_with_that_machine_only(self) -> None:
        ticket = self.ticket(self.trailer, tongue_mass="1100 lb", method="gauge")
        self.aboard(ticket, machine=self.harrow, reference="150 in")
        found, left = gather(Subject(trailer=self.trailer))
        self.assertEqual([], found)
        self.assertIn("counts when put together with that machine", left[0][1])
        other = Subject(trailer=self.trailer, machine=self.kestrel)
        self.assertEqual(([], []), gather(other))

    def test_whom_there_are_tickets_of(self) -> None:
        empty = self.ticket(self.trailer, whole_mass="2900 lb", readings={"empty": True})
        loaded = self.ticket(self.trailer, tongue_mass="1300 lb", method="gauge")
        self.aboard(loaded, machine=self.harrow, reference="150 in")
        self.aboard(loaded, machine=self.kestrel, reference="60 in")
        self.ticket(self.harrow, whole_mass="5350 lb")
        names = [subject.name for subject, _ in subjects_of(self.yard)]
        self.assertEqual(4, len(names))
        self.assertIn(str(self.trailer), names)
        about = {subject.name for subject, _ in subjects_of(self.yard, self.harrow)}
        self.assertEqual({str(self.harrow), f"{self.trailer} with {self.harrow}"}, about)
        empty.delete()
        self.assertNotIn(str(self.trailer), [s.name for s, _ in subjects_of(self.yard)])


class Believing(GatheringCase):
    def test_nothing_known_is_said_to_be_nothing_known(self) -> None:
        Trailer.objects.filter(pk=self.trailer.pk).update(
            empty_mass=None, empty_tongue_mass=None, gvwr=None
        )
        Machine.objects.filter(pk=self.kestrel.pk).update(
            built=Machine.Built.WHOLE, mass=None, balance_ahead=None
        )
        subject = Subject(
            trailer=Trailer.objects.get(pk=self.trailer.pk),
            machine=Machine.objects.get(pk=self.kestrel.pk),
        )
        belief = believed(subject, [])
        self.assertEqual(NOT_KNOWN_KG, belief.trailer[1])
        self.assertEqual(NOT_KNOWN_KG, belief.tongue[1])
        self.assertEqual(NOT_KNOWN_KG, belief.machine[1])
        self.assertEqual(frozenset({"lever"}), belief.measured)

    def test_what_is_usual_is_believed_within_its_band(self) -> None:
        Trailer.objects.filter(pk=self.trailer.pk).update(empty_mass=None, empty_tongue_mass=None)
        belief = believed(Subject(trailer=Trailer.objects.get(pk=self.trailer.pk)), [])
        mass, doubt = belief.trailer
        self.assertLess(abs(mass - 2900 * KG_PER_LB), 2 * doubt)
        self.assertLess(doubt, NOT_KNOWN_KG)

    def test_a_trailer_whose_axles_nobody_taped_says_so(self) -> None:
        self.trailer.axles.update(position=None)
        with self.assertRaisesMessage(IncompleteError, "its axles' places"):
            believed(Subject(trailer=Trailer.objects.get(pk=self.trailer.pk)), [])

    def test_a_weighed_figure_with_its_ticket_only_says_where_to_start(self) -> None:
        """Else the ticket would be counted twice: once itself, once as the book's figure."""
        Trailer.objects.filter(pk=self.trailer.pk).update(
            empty_known="weighed", tongue_known="weighed"
        )
        before = believed(self.pair(), [])
        self.ticket(self.trailer, whole_mass="2900 lb", tongue_mass="330 lb")
        readings, _ = gather(self.pair())
        after = believed(self.pair(), readings)
        self.assertGreater(after.trailer[1], 5 * before.trailer[1])
        self.assertGreater(after.tongue[1], 5 * before.tongue[1])
        self.assertLessEqual({"trailer", "tongue", "lever"}, after.measured)

    def test_a_configuration_on_weighed_axles_is_measured(self) -> None:
        backhoe = Machine.objects.get(name="Harrow 60 backhoe tractor")
        off = backhoe.configurations.get(name="backhoe off")
        self.assertNotIn(
            "machine", believed(Subject(machine=backhoe, configuration=off), []).measured
        )
        off.front_axle_mass, off.rear_axle_mass = (
            Quantity.parse("2100 lb"),
            Quantity.parse("4800 lb"),
        )
        off.save()
        belief = believed(Subject(machine=backhoe, configuration=off), [])
        self.assertLessEqual({"machine", "ahead"}, belief.measured)

    def test_a_figure_changed_by_hand_since_a_fit_is_believed_as_it_is(self) -> None:
        now = believed(self.pair(), [])
        AcceptedFit.objects.create(
            yard=self.yard,
            trailer=self.trailer,
            machine=self.harrow,
            accepted={
                "tongue": [now.tongue[0], 1.0],
                "machine": [now.machine[0] + 200, 1.0],
                "ahead": [now.ahead[0], 0.01],
            },
            belief={
                "tongue": [140.0, 30.0, True],
                "machine": [2400.0, 100.0, True],
                "ahead": [0.5, 0.2],
            },
        )
        then = believed(self.pair(), [])
        self.assertEqual((140.0, 30.0), then.tongue)
        self.assertEqual((0.5, 0.2), then.ahead)
        self.assertEqual(now.machine, then.machine)
        self.assertIn("tongue", then.measured)
        # beliefs kept before it was said whether they were measured count as guesses
        self.assertNotIn("ahead", then.measured)
        self.assertEqual(now.tongue, believed(self.pair(), [], fresh=True).tongue)

"""Loads put on and taken off, about each other, looked at by address."""

from __future__ import annotations

from aspects.place.moves import Asked, act
from aspects.place.state import State
from aspects.rooms import ActionError
from book.models import Bulk, Configuration, Machine, Trailer
from hauls.drafting import book_draft
from hauls.models import Haul
from hauls.steps import around
from hauls.tests.yard_case import CREW, CrewCase
from measures import UnitSystem
from planfile.draft import Draft
from yards.models import Yard


class PutOnAndTakeOff(CrewCase):
    def test_bulk_a_machine_and_a_configuration_are_put_on_and_in_hand(self) -> None:
        forks = Configuration.objects.get(name="with forks")
        for key, name in (
            (f"bulk-{Bulk.objects.get(name='Pallet of drain pipe').pk}", "Pallet of drain pipe"),
            (f"machine-{Machine.objects.get(name='Trench plough').pk}", "Trench plough"),
            (
                f"machine-{forks.machine_id}-{forks.pk}",
                "Harrow 48 tractor with loader, with forks",
            ),
        ):
            answer = self.change("put_on", load=key)
            self.assertContains(answer, "saved")
            self.assertEqual(name, self.names()[-1])
            count = len(self.names())
            self.assertContains(answer, f'name="selected" value="{count - 1}"')
            self.assertEqual(count, self.haul.links.count())

    def test_taken_off_it_is_gone_with_its_link_and_the_rest_stays(self) -> None:
        before = self.place(2)
        self.assertEqual(200, self.change("take_off", selected=1).status_code)
        self.assertEqual(2, len(self.names()))
        self.assertEqual(before, self.place(1))
        self.assertEqual({"m1", "m3"}, set(self.haul.links.values_list("item_id", flat=True)))
        for _ in range(2):
            self.change("take_off")
        self.assertEqual([], self.names())
        answer = self.change("take_off")
        self.assertContains(answer, "nothing on the deck to take off", status_code=422)
        self.assertContains(self.client.get(f"/hauls/{self.haul.pk}/"), "Nothing on the deck yet")

    def test_what_cannot_be_put_on_is_said_and_nothing_changes(self) -> None:
        Machine.objects.filter(name="Wren 9 mini dumper").update(reach_rear=None)
        wren = Machine.objects.get(name="Wren 9 mini dumper")
        for key, words in (
            ("", "Choose what to put on the deck first."),
            ("machine-999999", "Choose what to put on the deck first."),
            (f"machine-{wren.pk}", "lacks reach behind"),
        ):
            with self.subTest(key=key):
                self.assertContains(self.change("put_on", load=key), words, status_code=422)
                self.assertEqual(3, len(self.names()))

    def test_another_yards_machine_cannot_be_put_on(self) -> None:
        theirs = Machine.objects.create(
            yard=Yard.objects.get(name="Another yard"), name="Theirs", shape="tractor"
        )
        answer = self.change("put_on", load=f"machine-{theirs.pk}")
        self.assertContains(answer, "Choose what to put on", status_code=422)

    def test_somebody_elses_change_in_between_is_not_lost(self) -> None:
        fields = self.fields(do="take_off")
        self.change("turn")
        answer = self.client.post(
            f"/hauls/{self.haul.pk}/change/", fields, headers={"HX-Request": "true"}
        )
        self.assertEqual(409, answer.status_code)
        self.assertEqual(3, len(self.names()))
        self.assertEqual("backward", self.place(0)["facing"])


class AboutEachOther(CrewCase):
    def held(self, selected: int = 0) -> State:
        """The haul as the page holds it."""
        return State(self.haul, self.fields(selected=selected))

    def test_trading_places_keeps_the_room_they_take(self) -> None:
        state = self.held()
        before = state.plan
        act(state, Asked("swap", "-1"), UnitSystem.US)
        after = state.plan
        tractor, pallet = after.items[0], after.items[1]
        self.assertLess(tractor.foremost_m, pallet.foremost_m)
        self.assertAlmostEqual(before.items[1].foremost_m, tractor.foremost_m, places=6)
        self.assertAlmostEqual(before.items[0].rearmost_m, pallet.rearmost_m, places=6)
        with self.assertRaisesMessage(ActionError, "Nothing stands ahead of it."):
            act(state, Asked("swap", "-1"), UnitSystem.US)

    def test_stand_beside_puts_the_two_clear_and_on_the_middle_together(self) -> None:
        state = self.held(selected=1)
        with self.assertRaisesMessage(ActionError, "wider than the deck"):
            act(state, Asked("beside"), UnitSystem.US)
        narrow = state.draft.json()
        for item in narrow["items"]:
            item["width"] = 40
        state.draft = Draft.read(narrow)
        act(state, Asked("beside"), UnitSystem.US)
        plan = state.plan
        self.assertTrue(plan.items[1].clear_sideways_of(plan.items[0]))
        self.assertAlmostEqual(
            0.0, plan.items[0].placement.left_m + plan.items[1].placement.left_m, places=6
        )

    def test_a_drag_lands_on_neighbours_ends_and_aim_and_with_alt_on_nothing(self) -> None:
        plan = self.held().plan
        inch = 0.0254
        tractor, pallet, plough = plan.items
        ahead = (tractor.foremost_m - 0.05 - pallet.reach_rearward_m) / inch
        tail = (plan.trailer.deck.length_m - plough.reach_rearward_m) / inch
        for index, to, words, lands in (
            # where it is arranged best, the neighbour and the aim are one place
            (1, ahead - 0.4, "at its aim", ahead),
            (2, tail - 0.7, "flush with the tail", tail),
        ):
            state = self.held(selected=index)
            act(state, Asked("drag", sent={"to": str(to)}), UnitSystem.US)
            with self.subTest(words=words):
                self.assertIn(words, state.landed)
                self.assertAlmostEqual(lands, state.draft.held[index].reference, delta=0.5)
            act(state, Asked("drag", sent={"to": str(to), "free": "1"}), UnitSystem.US)
            self.assertNotAlmostEqual(lands, state.draft.held[index].reference, places=1)
        state = self.held(selected=1)
        act(
            state,
            Asked("drag", sent={"to": str(pallet.reach_forward_m / inch + 0.5)}),
            UnitSystem.US,
        )
        self.assertEqual("against the headboard", state.landed)

    def test_where_two_stand_in_each_other_it_is_drawn(self) -> None:
        fields = self.fields(**{"reference-1": "200"})
        page = self.client.get(f"/hauls/{self.haul.pk}/", fields).content.decode()
        self.assertEqual(2, page.count('class="overlap"'))
        self.assertNotIn(
            'class="overlap"', self.client.get(f"/hauls/{self.haul.pk}/").content.decode()
        )

    def test_a_printed_page_says_where_each_load_stands(self) -> None:
        page = self.client.get(f"/hauls/{self.haul.pk}/")
        self.assertContains(page, "Pallet of drain pipe: middle of the load at 3 ft 10 3/4 in")

    def test_each_item_has_its_own_lane(self) -> None:
        page = self.client.get(f"/hauls/{self.haul.pk}/").content.decode()
        self.assertEqual(3, page.count('class="lane-mark"'))
        self.assertEqual(1, page.count("lane-in-hand"))


class TheAddress(CrewCase):
    def test_a_view_can_be_sent(self) -> None:
        address = f"/hauls/{self.haul.pk}/?selected=2&open=truck.payload&tilt=5"
        page = self.client.get(address).content.decode()
        self.assertIn('name="selected" value="2"', page)
        self.assertIn("tilt and squat drawn 5 times", page)
        self.assertIn("Copy as text", page)

    def test_places_that_are_not_stored_can_be_sent_too(self) -> None:
        fields = self.fields(**{"reference-1": "60"})
        fields.pop("base")
        page = self.client.get(f"/hauls/{self.haul.pk}/", fields).content.decode()
        self.assertIn('name="reference-1" value="60"', page)
        self.assertIn("not saved", page)

    def test_an_address_that_makes_no_sense_shows_the_haul_as_it_is(self) -> None:
        for query in ("selected=zebra", "count=1&id-0=m1&reference-0=nan", "tilt=99", "tongue=x"):
            with self.subTest(query=query):
                page = self.client.get(f"/hauls/{self.haul.pk}/?{query}")
                self.assertContains(page, 'id="say"')


class ForkAndFold(CrewCase):
    def test_the_books_numbers_are_one_step_too(self) -> None:
        Trailer.objects.filter(pk=self.haul.trailer_id).update(empty_mass="6000 lb")
        self.client.post(
            f"/hauls/{self.haul.pk}/book/", {"base": self.fields()["base"]}, follow=True
        )
        self.haul.refresh_from_db()
        self.assertEqual(6000, self.haul.document["trailer"]["empty_mass"])
        self.change("undo")
        self.haul.refresh_from_db()
        self.assertEqual(5900, self.haul.document["trailer"]["empty_mass"])
        self.assertEqual(6000, book_draft(self.haul).json()["trailer"]["empty_mass"])

    def test_put_away_and_brought_back(self) -> None:
        answer = self.client.post(f"/hauls/{self.haul.pk}/archive/", {"away": "1"}, follow=True)
        self.assertContains(answer, "is archived")
        self.assertNotContains(self.client.get("/"), f"/hauls/{self.haul.pk}/")
        self.assertContains(self.client.get("/?away=on"), f"/hauls/{self.haul.pk}/")
        self.client.post(f"/hauls/{self.haul.pk}/archive/", {"away": "0"})
        self.assertContains(self.client.get("/"), f"/hauls/{self.haul.pk}/")

    def test_a_duplicate_is_a_start_of_its_own(self) -> None:
        self.client.post(f"/hauls/{self.haul.pk}/copy/")
        copy = Haul.objects.exclude(pk=self.haul.pk).get(name__startswith=CREW)
        self.assertEqual(3, copy.links.count())
        self.assertEqual("", around(copy).undo)

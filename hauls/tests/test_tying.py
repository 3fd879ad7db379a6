"""Ties of the rack on a haul: what is free, what is wrong, what is suggested, what to do first."""

from __future__ import annotations

from dataclasses import replace

import msgspec

from book.models import Gear, Machine
from hauls.loads import Load
from hauls.models import Haul
from hauls.premove import chores, road_checks
from hauls.rack import Rack
from hauls.tests.yard_case import YardCase
from hauls.tying import (
    TyingError,
    answered,
    crossing_of,
    made_of,
    moved_tie,
    securing_of,
    suggested,
    usual_pieces,
    with_suggestion,
    with_tie,
    without_tie,
    without_ties_of,
)
from measures import UnitSystem
from mechanics.checks import Status
from mechanics.securing import Standard, secure
from mechanics.ties import SecuringSchool
from mechanics.units import KG_PER_LB
from planfile.document import Tie
from planfile.draft import Draft
from planfile.tying import Guesses, forbidden, free_tie_id, kept_of

CHAIN, BINDER = "3/8 chain, grade 70", "Lever binder, 3/8"


class TyingCase(YardCase):
    def rack(self, draft: Draft) -> Rack:
        """The yard's rack beside a draft's ties."""
        return Rack.of(self.yard, securing_of(draft))

    def bare(self) -> Draft:
        """The orchard tractor with no ties."""
        return without_ties_of(self.haul.draft, self.haul.draft.item_ids[0])


class TheRack(TyingCase):
    def test_what_is_used_is_not_free(self) -> None:
        rack = self.rack(self.haul.draft)
        self.assertEqual(rack.free(CHAIN), 4)
        self.assertEqual(self.rack(self.bare()).free(CHAIN), 6)
        self.assertEqual(rack.free("Chain with the opened hook"), 0)
        self.assertEqual(rack.free("nothing"), 0)

    def test_only_what_holds_something_is_offered(self) -> None:
        keys = {piece.key for piece in self.rack(self.bare()).pieces()}
        # nobody is told to take what is not marked
        self.assertNotIn("Old 5/16 chain", keys)
        self.assertNotIn("Strap without its tag", keys)
        self.assertNotIn("Chain with the opened hook", keys)
        self.assertNotIn("Shackle, 1/2", keys)

    def test_a_row_of_pieces_holds_what_its_weakest_does(self) -> None:
        rack = self.rack(self.bare())
        limit = rack.limit_kg([CHAIN, "Ratchet binder, 5/16"])
        self.assertAlmostEqual((limit or 0) / KG_PER_LB, 5400)
        self.assertIsNone(rack.limit_kg(["Strap without its tag"]))
        self.assertIsNone(rack.limit_kg([]))

    def faults(self, draft: Draft, ties: list[Tie], kg: float) -> list[str]:
        """What is wrong with the gear of every tie of a haul."""
        rack = self.rack(draft)
        return [words for tie in ties for words in rack.faults(tie, kg)]

    def test_faults_of_what_was_planned(self) -> None:
        draft = self.haul.draft
        ties, kg = securing_of(draft).ties, draft.units.mass.kg
        self.assertEqual(self.faults(draft, ties, kg), [])
        Gear.objects.filter(name=CHAIN).update(retired="kinked")
        words = self.faults(draft, ties, kg)
        self.assertEqual(words, [f"{CHAIN} is retired: kinked or twisted."] * 2)
        Gear.objects.filter(name=CHAIN).update(retired="", grade="30", count=1)
        words = self.faults(draft, ties, kg)
        self.assertIn(f"{CHAIN} holds less than was planned: choose it again.", words)
        self.assertIn(f"2 of {CHAIN} are used, the rack has 1.", words)
        Gear.objects.filter(name=CHAIN).update(size=None)
        words = self.faults(draft, ties, kg)
        self.assertIn(f"{CHAIN} is not marked and counts nothing.", words)
        Gear.objects.filter(name=CHAIN).delete()
        words = self.faults(draft, ties, kg)
        self.assertIn(f"{CHAIN} is no longer in the book.", words)

    def test_what_counts_and_is_not_to_be_trusted(self) -> None:
        draft = self.bare()
        rack = self.rack(draft)
        draft = with_tie(
            draft, rack, item=draft.item_ids[0], point="drawbar", anchor="rear ring left"
        )
        tie = made_of(securing_of(draft).ties[0], ["Old 5/16 chain", BINDER], rack, draft)
        self.assertEqual(tie.wll, 1900)
        words = rack.doubts(tie)
        self.assertIn("Old 5/16 chain is not marked: counted as grade 30, the lowest.", words)
        self.assertTrue(any("was last looked over" in one for one in words))
        Gear.objects.filter(name="Old 5/16 chain").delete()
        self.assertEqual(self.rack(draft).doubts(tie), [])


class Ties(TyingCase):
    def test_a_new_tie_takes_the_strongest_that_is_free(self) -> None:
        draft = self.bare()
        rack = self.rack(draft)
        self.assertEqual(usual_pieces(rack), (CHAIN, BINDER))
        item = draft.item_ids[0]
        draft = with_tie(draft, rack, item=item, point="drawbar", anchor="rear ring left")
        tie = securing_of(draft).ties[0]
        self.assertEqual((tie.id, tie.kind, tie.wll), ("t1", "chain", 6600))
        self.assertEqual(kept_of(tie).pieces, (CHAIN, BINDER))
        with self.assertRaisesMessage(TyingError, "already"):
            with_tie(draft, rack, item=item, point="drawbar", anchor="rear ring left")
        with self.assertRaisesMessage(TyingError, "Choose a point"):
            with_tie(draft, rack, item=item, point="grab handle", anchor="rear ring left")

    def test_an_empty_rack_leaves_a_tie_without_a_limit(self) -> None:
        Gear.objects.all().delete()
        draft = self.bare()
        draft = with_tie(
            draft,
            self.rack(draft),
            item=draft.item_ids[0],
            point="drawbar",
            anchor="rear ring left",
        )
        found = secure(draft.plan, SecuringSchool.US_393).items[0]
        self.assertIs(found.ties[0].rope.tie.wll_kg, None)
        self.assertIs(
            next(f for f in found.findings if f.code == "securing.forward").status, Status.UNKNOWN
        )

    def test_a_chain_without_a_binder_is_loose_and_holds_nothing(self) -> None:
        draft = self.haul.draft
        tie = securing_of(draft).ties[0]
        loose = made_of(tie, [CHAIN], self.rack(draft), draft)
        self.assertIs(loose.wll, msgspec.UNSET)
        strap = made_of(tie, ["Ratchet strap, 2 in"], self.rack(draft), draft)
        self.assertEqual((strap.kind, strap.wll), ("strap", 3300))
        with self.assertRaisesMessage(TyingError, "no gear called"):
            made_of(tie, ["Rope"], self.rack(draft), draft)
        with self.assertRaisesMessage(TyingError, "Choose a chain"):
            made_of(tie, [BINDER], self.rack(draft), draft)

    def test_order_answers_and_taking_off(self) -> None:
        draft = self.haul.draft
        ids = [tie.id for tie in securing_of(draft).ties]
        later = moved_tie(draft, ids[0], 1)
        self.assertEqual([t.id for t in securing_of(later).ties][:2], [ids[1], ids[0]])
        self.assertEqual(moved_tie(draft, ids[0], -1), draft)
        self.assertEqual(moved_tie(draft, "gone", 1), draft)
        told = answered(draft, ids[3], {"slack": "loose", "hooks": ""})
        self.assertEqual(kept_of(securing_of(told).ties[3]).answers, {"slack": "loose"})
        less = without_tie(draft, ids[0])
        self.assertEqual(free_tie_id(securing_of(less)), ids[0])

    def test_suggested_for_each_machine_of_a_load(self) -> None:
        crew = Haul.objects.get(name="Drain crew to the Long Drain")
        draft = crew.draft
        item = draft.item_ids[0]
        found = suggested(draft, self.rack(draft), item)
        self.assertIs(found.standard, Standard.EVERYTHING)
        draft = with_suggestion(draft, self.rack(draft), item, found)
        again = with_suggestion(draft, self.rack(draft), item, found)
        self.assertEqual(len(securing_of(again).ties), len(found.ties))
        self.assertEqual(crossing_of(securing_of(again)), "either")

    def test_ties_go_when_their_machine_does(self) -> None:
        draft = self.haul.draft
        self.assertEqual(securing_of(draft.keeping([])).ties, [])

    def test_what_is_beside_the_ties_is_read_with_care(self) -> None:
        self.assertEqual(forbidden({"never_tie": "nonsense"}, 1.0), ())
        tie = securing_of(self.haul.draft).ties[0]
        odd = msgspec.structs.replace(tie, extra={"pieces": 7})
        self.assertEqual(kept_of(odd).pieces, ())
        self.assertEqual(self.haul.draft.guesses, Guesses(anchors=frozenset(), points=frozenset()))
        places = self.haul.draft.forbidden[0]
        self.assertEqual({place.why for place in places}, {"handle", "arms"})


class BeforeMoving(TyingCase):
    def words(self, name: str, configuration: str = "") -> str:
        """What has to be done to a machine of the demo yard."""
        machine = Machine.objects.get(name=name)
        chosen = machine.configurations.filter(name=configuration).first()
        drawn = self.haul.draft.drawn[0]
        drawn = type(drawn)(shape=machine.shape)
        load = Load(machine=machine, configuration=chosen)
        found = chores(self.haul.draft.plan.items[0], drawn, load)
        return "; ".join(one.words for one in found)

    def test_by_its_own_parts(self) -> None:
        on = self.words("Harrow 60 backhoe tractor", "backhoe on")
        self.assertIn("Backhoe boom locked", on)
        self.assertNotIn("Backhoe", self.words("Harrow 60 backhoe tractor", "backhoe off"))
        self.assertIn("house locked", self.words("Burrow 17 excavator"))
        forks = self.words("Harrow 48 tractor with loader", "with forks")
        self.assertIn("Forks down", forks)
        self.assertNotIn("Bucket", forks)

    def test_what_is_set_down_has_a_list_of_its_own(self) -> None:
        self.assertIn("wings and tines pinned", self.words("Trench plough"))
        drawn = type(self.haul.draft.drawn[0])(shape="heap_level")
        found = chores(self.haul.draft.plan.items[0], drawn, None)
        self.assertIn("Covered", found[0].words)

    def test_height_and_width_against_the_road(self) -> None:
        plan = self.haul.draft.plan
        item = plan.items[0]
        us = road_checks(plan, item, UnitSystem.US)
        self.assertEqual([check.status for check in us], [Status.OK, Status.OK])
        self.assertIn("13 ft 6 in", us[0].words)
        self.assertIn("2,550 mm", road_checks(plan, item, UnitSystem.METRIC)[1].words)
        high = replace(item, height_m=3.9, width_m=2.8)
        self.assertEqual(
            [check.status for check in road_checks(plan, high, UnitSystem.US)],
            [Status.OVER, Status.NEAR],
        )
        unknown = replace(item, height_m=None, width_m=None)
        self.assertEqual(
            {check.status for check in road_checks(plan, unknown, UnitSystem.US)},
            {Status.UNKNOWN},
        )

"""Tied down: the page, what its buttons do, what it says of gear and guesses."""

from __future__ import annotations

from typing import Any
from unittest import mock

import msgspec

from aspects.rooms import ActionError
from aspects.tied_down.page import TiedPage
from aspects.tied_down.tables import read_ties, write_ties
from aspects.tied_down.words import counted
from book.models import Gear, Machine, Trailer
from book.services.photos import attach
from demo.plate import plate_photo
from hauls.models import Haul
from hauls.rack import Rack
from hauls.tests.yard_case import AspectCase
from hauls.tying import securing_of, with_changed, with_tie
from measures import UnitSystem
from mechanics.errors import InputError
from mechanics.securing import Purchase, Standard, Suggestion
from planfile.draft import Draft
from planfile.tying import kept_of
from yards.models import Membership, Role, User

TRACTOR = "Orchard tractor to the Quarry Lane block"
BACK = "Orchard tractor back from Mill Ponds"
CREW = "Drain crew to the Long Drain"
TILT = "Roller to the Ash Lane yard, with the sleeve"


class TiedCase(AspectCase):
    """Asking for the page, sending its forms."""

    def haul_of(self, name: str = TRACTOR) -> Haul:
        """A haul as it is stored."""
        return Haul.objects.get(name=name)

    def page(self, name: str = TRACTOR, **query: Any) -> Any:
        """The page of a haul."""
        return self.client.get(f"/hauls/{self.haul_of(name).pk}/tied-down/", query)

    def do(self, do: str, name: str = TRACTOR, **fields: Any) -> Any:
        """One of its buttons, as its script sends it."""
        haul = self.haul_of(name)
        headers = {} if fields.pop("plain", False) else {"HX-Request": "true"}
        data = {
            "do": do,
            "base": haul.revision,
            "item": haul.document["items"][0]["id"],
            **fields,
        }
        return self.client.post(f"/hauls/{haul.pk}/tied-down/do/", data, headers=headers)

    def ties(self, name: str = TRACTOR) -> list[Any]:
        """The ties of a haul as stored."""
        return securing_of(self.haul_of(name).draft).ties


class ThePage(TiedCase):
    def test_four_chains_hold_it(self) -> None:
        page = self.page()
        self.assertEqual(page.status_code, 200)
        self.assertContains(page, "Four chains hold it")
        self.assertContains(page, "If any one fails, still 123 % of what the rule asks")
        self.assertContains(page, "3/8 chain, grade 70 + Lever binder, 3/8")
        rows = {row.code: row for row in page.context["rows"]}
        self.assertEqual(rows["securing.aggregate"].figure, "11,300 lb")
        self.assertEqual(rows["securing.aggregate"].detail, "of 2,800 lb asked")
        why = rows["securing.forward"].why
        self.assertEqual(len(why.terms), 2)
        self.assertIn("393.102(a)", why.source)
        self.assertEqual(len(page.context["ring"]), 4)

    def test_what_is_over_is_said_first(self) -> None:
        page = self.page(BACK)
        self.assertContains(page, "Two straps: nothing holds it against braking.")
        self.assertContains(page, "A bare edge cuts webbing: pad it.")
        arrows = {arrow.name: arrow for arrow in page.context["scene"].arrows}
        self.assertEqual(arrows["forward"].figure, "0 ×")
        self.assertEqual(arrows["forward"].status, "over")

    def test_each_machine_of_a_load_by_itself(self) -> None:
        page = self.page(CREW)
        self.assertEqual([one.here for one in page.context["machines"]], [True, False, False])
        ids = [item["id"] for item in self.haul_of(CREW).document["items"]]
        other = self.page(CREW, item=ids[2])
        self.assertEqual(other.context["item_name"], "Trench plough")
        self.assertEqual(self.page(CREW, item="gone").context["item"], ids[0])

    def test_places_that_must_not_be_used_are_shown_as_such(self) -> None:
        scene = self.page().context["scene"]
        self.assertEqual(len(scene.nevers), 4)
        self.assertIn("grab handle or step", scene.nevers[0].words)
        points = {point.id for point in scene.points}
        self.assertNotIn("step left", points)

    def test_guesses_are_marked_and_never_simply_ok(self) -> None:
        self.do("suggest", TILT)
        page = self.page(TILT)
        self.assertTrue(page.context["said"].word.startswith("likely"))
        self.assertContains(page, "A guess, not taped: the place of front ring, first ring")
        self.assertTrue(all(anchor.guess for anchor in page.context["scene"].anchors))

    def test_nothing_on_the_deck_and_nothing_said(self) -> None:
        haul = self.haul_of()
        haul.document = {**haul.document, "items": [], "securing": {"ties": []}}
        haul.save()
        self.assertContains(self.page(), "Nothing is on the deck.")
        self.assertContains(self.page(CREW), "Nothing ties")

    def test_figures_that_overflow_are_said_not_raised(self) -> None:
        with mock.patch(
            "aspects.tied_down.page.secure", side_effect=InputError("securing", "figures")
        ):
            self.assertContains(self.page(), "Cannot say what holds.")

    def test_in_metric_every_figure_is(self) -> None:
        User.objects.filter(pk=self.user.pk).update(units="metric")
        page = self.page().content.decode()
        self.assertIn("kg", page)
        self.assertNotIn(" lb<", page)

    def test_a_driver_looks_and_sees_no_buttons(self) -> None:
        self.client.force_login(User.objects.get(username="demo-driver"))
        page = self.page()
        self.assertNotContains(page, "Suggest from the rack")
        self.assertEqual(self.do("suggest").status_code, 403)
        self.assertTrue(Membership.objects.filter(role=Role.DRIVER).exists())

    def test_another_yard_gets_404(self) -> None:
        self.client.force_login(self.stranger)
        self.assertEqual(self.page().status_code, 404)
        self.assertEqual(self.do("suggest").status_code, 404)

    def test_the_book_is_asked_for_what_it_lacks(self) -> None:
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        trailer.anchors.all().delete()
        Machine.objects.get(name="Trench plough").points.all().delete()
        Gear.objects.all().delete()
        haul = Haul.objects.get(name="Plough out behind the half-ton")
        haul.document["trailer"]["anchors"] = []
        haul.document["items"][0]["points"] = []
        haul.save()
        page = self.page(haul.name)
        for words in ("no anchors yet", "no points to tie it by", "The rack is empty"):
            self.assertContains(page, words)

    def test_places_of_the_book_are_taken_when_it_has_others(self) -> None:
        self.assertFalse(self.page().context["book_moved"])
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        trailer.anchors.filter(name="front ring").delete()
        page = self.page()
        self.assertTrue(page.context["book_moved"])
        self.assertContains(page, "Take the book's places")
        self.do("places")
        # the two at the front are gone with their ends
        self.assertEqual(len(self.ties()), 2)
        self.assertFalse(self.page().context["book_moved"])

    def test_page_fields_are_those_of_its_type(self) -> None:
        self.assertIn("told", TiedPage.__dataclass_fields__)
        self.assertEqual(counted(["chain", "strap", "chain"]), "two chains and one strap")
        self.assertEqual(counted(["chain"] * 13), "13 chains")


class Buttons(TiedCase):
    def test_a_tie_is_added_taken_off_and_undone(self) -> None:
        answer = self.do("add", point="rear axle left", anchor="second ring left")
        self.assertEqual(answer.status_code, 200)
        self.assertEqual(len(self.ties()), 5)
        added = self.ties()[-1]
        self.assertEqual((added.point, added.anchor), ("rear axle left", "second ring left"))
        self.do(f"remove:{added.id}")
        self.assertEqual(len(self.ties()), 4)
        self.do("clear")
        self.assertEqual(self.ties(), [])
        haul = self.haul_of()
        self.client.post(
            f"/hauls/{haul.pk}/change/", {"do": "undo", "commit": "1", "base": haul.revision}
        )
        self.assertEqual(len(self.ties()), 4)

    def test_gear_is_chosen_of_what_is_free(self) -> None:
        tie = self.ties()[0]
        self.do(f"gear:{tie.id}", running="Ratchet strap, 2 in", joining_0="Shackle, 1/2")
        changed = self.ties()[0]
        self.assertEqual((changed.kind, changed.wll), ("strap", 3300))
        self.assertEqual(kept_of(changed).pieces, ("Ratchet strap, 2 in", "Shackle, 1/2"))
        self.assertEqual(kept_of(changed).answers["hooks"], "up")
        refused = self.do(f"gear:{tie.id}", running="Chain with the opened hook")
        self.assertContains(refused, "no more of Chain with the opened hook", status_code=422)
        refused = self.do(f"gear:{tie.id}", running="")
        self.assertContains(refused, "Choose a chain, a strap", status_code=422)

    def test_over_the_machine_to_a_second_anchor(self) -> None:
        self.do("add", point="rear axle left", anchor="second ring left", over="second ring right")
        added = self.ties()[-1]
        self.assertEqual((added.anchor, added.over), ("second ring left", "second ring right"))
        scene = self.page().context["scene"]
        self.assertEqual(len(scene.ties[-1].lines), 2)
        again = self.do(
            "add", point="rear axle left", anchor="second ring right", over="second ring left"
        )
        self.assertContains(again, "already", status_code=422)
        same = self.do("add", point="drawbar", anchor="rear ring left", over="rear ring left")
        self.assertContains(same, "ends at another anchor", status_code=422)

    def test_a_stack_is_strapped_over(self) -> None:
        crew = self.haul_of(CREW)
        pallet = crew.document["items"][1]
        self.assertEqual(
            [p["id"] for p in pallet["points"]],
            ["over the front", "over the middle", "over the rear"],
        )

    def test_tightened_to_so_much(self) -> None:
        tie = self.ties()[0]
        gear = {"running": "Ratchet strap, 2 in"}
        self.do(f"gear:{tie.id}", **gear, pretension="200 kg")
        self.assertAlmostEqual(self.ties()[0].pretension, 440.92, places=2)
        self.assertContains(self.page(), 'value="441 lb"')
        refused = self.do(f"gear:{tie.id}", **gear, pretension="tight")
        self.assertEqual(refused.status_code, 422)
        self.assertEqual(refused.context["ties"][0].pretension, "tight")
        self.assertEqual(self.do(f"gear:{tie.id}", **gear, pretension="-5").status_code, 422)
        self.do(f"gear:{tie.id}", **gear, pretension="")
        self.assertEqual(self.ties()[0].pretension, 0)

    def test_ties_that_share_badly_are_told(self) -> None:
        tie = self.ties()[0]
        self.do(f"gear:{tie.id}", running="Ratchet strap, 2 in")
        rows = {row.code: row for row in self.page().context["rows"]}
        self.assertIn("the stiffest gives first", rows["securing.rearward"].note)

    def test_answers_are_remembered(self) -> None:
        tie = self.ties()[3]
        page = self.do(f"answer:{tie.id}", hooks="loose", slack="")
        self.assertEqual(kept_of(self.ties()[3]).answers, {"hooks": "loose"})
        self.assertContains(page, "may drop out")
        self.assertEqual(self.do(f"answer:{tie.id}", hooks="gone").status_code, 422)

    def test_the_rule_the_grip_and_crossing(self) -> None:
        page = self.do("settings", school="en_12195", friction="0,3", crossing="crossed")
        self.assertEqual(page.status_code, 200)
        securing = securing_of(self.haul_of().draft)
        self.assertEqual((securing.school, securing.friction), ("en_12195", 0.3))
        self.assertNotIn("securing.aggregate", {row.code for row in page.context["rows"]})
        for typed, words in (
            ("grippy", "is no grip"),
            ("3", "No deck grips by more than 1"),
            (".", "is no grip"),
            ("²", "is no grip"),
        ):
            refused = self.do("settings", school="us_393", friction=typed, crossing="either")
            self.assertContains(refused, words, status_code=422)
            self.assertEqual(refused.context["friction"], typed)
        self.assertEqual(self.do("settings", school="mine").status_code, 422)
        self.assertEqual(self.do("settings", school="us_393", crossing="sideways").status_code, 422)

    def test_order_is_changed(self) -> None:
        ids = [tie.id for tie in self.ties()]
        self.do(f"later:{ids[0]}")
        self.do(f"earlier:{ids[3]}")
        self.assertEqual([tie.id for tie in self.ties()], [ids[1], ids[0], ids[3], ids[2]])

    def test_what_cannot_be_done_is_said(self) -> None:
        for do, fields, words in (
            ("jump", {}, "no such button"),
            ("remove:gone", {}, "gone already"),
            ("add", {"point": "roof", "anchor": "rear ring left"}, "Choose a point"),
            ("add", {"item": "gone", "point": "drawbar", "anchor": "x"}, "no longer on the deck"),
            ("suggest", {"item": "gone"}, "no longer on the deck"),
        ):
            self.assertContains(self.do(do, **fields), words, status_code=422)
        self.assertEqual(len(self.ties()), 4)

    def test_two_people_at_once(self) -> None:
        stale = self.do("clear", base=0)
        self.assertContains(stale, "Somebody changed this haul", status_code=422)
        self.assertEqual(len(self.ties()), 4)

    def test_without_a_script_it_goes_by_the_address(self) -> None:
        answer = self.do("clear", plain=True)
        self.assertEqual(answer.status_code, 302)
        self.assertEqual(self.ties(), [])

    def test_a_tie_goes_by_the_yards_rule_where_the_haul_has_none(self) -> None:
        self.yard.securing_school = "strict"
        self.yard.save()
        self.do("add", CREW, point="drawbar", anchor="rear ring left")
        self.assertEqual(securing_of(self.haul_of(CREW).draft).school, "strict")


class Suggesting(TiedCase):
    def test_the_fewest_of_the_rack_are_taken(self) -> None:
        page = self.do("suggest", BACK)
        self.assertContains(page, "4 ties from the rack hold everything. No fewer would do.")
        self.assertEqual(len(self.ties(BACK)), 4)
        self.assertEqual(page.context["said"].status, "ok")

    def test_without_a_script_what_came_of_it_is_told_too(self) -> None:
        self.assertContains(self.do("suggest", BACK, plain=True), "No fewer would do.")

    def test_one_strong_point_gets_a_pair_and_what_it_lacks(self) -> None:
        haul = self.haul_of(BACK)
        haul.document["items"][0]["points"] = [
            {"id": "hook", "ahead": -34, "left": 0, "height": 14, "kind": "hitch"}
        ]
        haul.document["securing"]["ties"] = []
        haul.save()
        page = self.do("suggest", BACK)
        told = page.context["told"]
        self.assertEqual(told.status, "over")
        self.assertIn("the two that resist braking", told.first)
        self.assertTrue(any("Pulling away" in words for words in told.lacks))
        self.assertIn("No chain to buy would do", told.buy)
        self.assertEqual(len(self.ties(BACK)), 2)

    def test_an_empty_rack_says_what_to_buy_and_stores_nothing(self) -> None:
        Gear.objects.all().delete()
        before = self.haul_of(BACK).revision
        page = self.do("suggest", BACK)
        told = page.context["told"]
        self.assertIn("To buy: 4 transport chains (grade 70)", told.buy)
        self.assertIn("each with a binder", told.buy)
        self.assertEqual(self.haul_of(BACK).revision, before)

    def test_what_is_short_or_not_settled_says_so(self) -> None:
        found = Suggestion(standard=Standard.NOTHING_OVER)
        with (
            mock.patch("aspects.tied_down.actions.suggested", return_value=found),
            mock.patch("aspects.tied_down.actions.to_buy") as buying,
        ):
            buying.return_value = Purchase(count=2, size=6, wll_kg=2993.7, suggestion=found)
            told = self.do("suggest", BACK).context["told"]
        self.assertIn("little to spare", told.first)
        self.assertIn("2 transport chains (grade 70) of 3/8 in", told.buy)
        found = Suggestion(standard=Standard.PAIR, proved=False)
        with (
            mock.patch("aspects.tied_down.actions.suggested", return_value=found),
            mock.patch("aspects.tied_down.actions.to_buy", return_value=None),
        ):
            told = self.do("suggest", BACK).context["told"]
        self.assertIn("was found in the time", told.first)

    def test_gear_that_is_not_marked_is_never_simply_ok(self) -> None:
        tie = self.ties()[0]
        self.do(f"gear:{tie.id}", running="Old 5/16 chain", joining_0="Lever binder, 3/8")
        page = self.page()
        self.assertNotEqual(page.context["said"].status, "ok")
        self.assertContains(page, "Old 5/16 chain is not marked")

    def test_a_chain_that_does_not_reach_never_passes(self) -> None:
        Gear.objects.filter(name="5/16 chain, grade 70").update(length="40 in")
        page = self.page()
        self.assertEqual(page.context["said"].status, "over")
        self.assertContains(page, "is too short for tie 3")

    def test_retired_gear_never_passes(self) -> None:
        Gear.objects.filter(name="3/8 chain, grade 70").update(retired="cut")
        page = self.page()
        self.assertEqual(page.context["said"].status, "over")
        self.assertContains(page, "is retired: cut, frayed or gouged")


class AsATable(TiedCase):
    def text(self) -> str:
        """The ties as the page hands them out."""
        answer = self.client.get(f"/hauls/{self.haul_of().pk}/tied-down/ties.csv")
        self.assertEqual(answer.headers["Content-Type"], "text/csv; charset=utf-8")
        return answer.content.decode("utf-8-sig")

    def test_out_and_in_again_unchanged(self) -> None:
        self.do(f"gear:{self.ties()[0].id}", running="Ratchet strap, 2 in", pretension="250")
        before = [(t.point, t.anchor, t.wll, t.pretension, t.extra) for t in self.ties()]
        text = self.text()
        self.assertEqual(text.count("\n"), 5)
        self.do("clear")
        self.assertEqual(self.do("table", table=text).status_code, 200)
        after = [(t.point, t.anchor, t.wll, t.pretension) for t in self.ties()]
        self.assertEqual(after, [one[:4] for one in before])
        # what was answered stays where a tie runs between the same places
        answers = self.ties()[1].extra
        self.do(f"answer:{self.ties()[1].id}", hooks="latched")
        self.do("table", table=self.text())
        self.assertEqual(kept_of(self.ties()[1]).answers, {"hooks": "latched"})
        self.assertNotEqual(self.ties()[1].extra, answers)

    def test_numbers_are_in_the_unit_of_their_header(self) -> None:
        name = "Harrow 48 tractor with loader"
        line = f"{name},drawbar,rear ring left,,,100\n"
        for unit, kg in (("lb", 45.359237), ("kg", 100.0), ("t", 100_000.0)):
            head = f"machine,point,anchor,over to,made of,tightened to ({unit})\n"
            self.do("table", table=head + line)
            mass = self.haul_of().draft.units.mass.kg
            self.assertAlmostEqual(self.ties()[0].pretension * mass, kg, places=3)

    def test_what_the_table_does_not_say_of_a_tie_stays(self) -> None:
        haul = self.haul_of()
        draft = haul.draft
        first = msgspec.structs.replace(
            securing_of(draft).ties[0], wll=4321.0, name="as it came", extra={}, pretension=77.0
        )
        haul.document = with_changed(draft, first).json()
        haul.save()
        ends = (first.point, first.anchor)
        self.do("table", table=self.text())
        same = next(t for t in self.ties() if (t.point, t.anchor) == ends)
        self.assertEqual((same.wll, same.name, same.pretension), (4321.0, "as it came", 77.0))
        head, name = "machine,point,anchor\n", "Harrow 48 tractor with loader"
        self.do("table", table=f"{head}{name},{first.point},{first.anchor}\n")
        self.assertEqual([(t.wll, t.pretension) for t in self.ties()], [(4321.0, 77.0)])

    def test_an_empty_cell_of_gear_is_no_gear(self) -> None:
        self.do("clear")
        head, name = "machine,point,anchor,made of\n", "Harrow 48 tractor with loader"
        self.do("table", table=f"{head}{name},drawbar,rear ring left,\n")
        self.assertEqual([kept_of(t).pieces for t in self.ties()], [()])
        self.assertIs(self.ties()[0].wll, msgspec.UNSET)

    def test_two_machines_of_one_name_are_told_apart(self) -> None:
        haul = self.haul_of("Drain crew to the Long Drain")
        raw = haul.draft.json()
        for item in raw["items"]:
            item["name"] = "Twin"
        draft = Draft.read(raw)
        rack = Rack.of(self.yard, securing_of(draft))
        one, two = draft.item_ids[:2]
        place = {
            i.id: (i.points[0].id, draft.plan.trailer.anchors[n].id)
            for n, i in enumerate(draft.plan.items[:2])
        }
        draft = draft.with_securing(msgspec.structs.replace(securing_of(draft), ties=[]))
        for item in (one, two):
            draft = with_tie(draft, rack, item=item, point=place[item][0], anchor=place[item][1])
        text = write_ties(draft, UnitSystem.US)
        self.assertEqual(
            [t.item for t in securing_of(read_ties(draft, rack, text)).ties], [one, two]
        )
        with self.assertRaisesMessage(ActionError, f"are called “Twin”. Write which: {one} or "):
            read_ties(draft, rack, "machine,point,anchor\nTwin,a,b\n")

    def test_every_wrong_line_is_named_and_nothing_is_lost(self) -> None:
        head = "machine,point,anchor,over to,made of,tightened to (lb)\n"
        name = "Harrow 48 tractor with loader"
        for table, words in (
            ("", "empty"),
            ("point,ring\na,b\n", "Wanting: machine, anchor; not known: ring"),
            (head + "Ghost,drawbar,rear ring left,,,\n", "Line 2: “Ghost” is not on the deck."),
            (head + f"{name},roof,rear ring left,,,\n", "Line 2: Choose a point"),
            (head + f"{name},drawbar,rear ring left,,Rope,\n", "Line 2: The book has no gear"),
            (head + f"{name},drawbar,rear ring left,,,tight\n", "Line 2:"),
            (head + f"{name},drawbar,rear ring left,,,-3 lb\n", "Line 2: “-3 lb” is not a mass"),
            (head + f"{name},drawbar,rear ring left,,,1,2\n", "Line 2: More cells"),
            (
                head.replace(",", ";") + f"{name};drawbar;rear ring left;;;1,250\n",
                "Line 2: “1,250”",
            ),
            ("machine,point,anchor,tightened to\n", "needs the unit of its numbers"),
            ("machine,point,anchor,tightened to (in)\n", "needs the unit of its numbers"),
            ("machine,point,anchor,point\n", "“point” stands in the table twice"),
            (head + "x,y,z,,,\n" * 201, "More than 200 ties"),
        ):
            answer = self.do("table", table=table)
            self.assertEqual(answer.status_code, 422)
            self.assertIn(words.lower(), answer.context["wrong"].lower())
            self.assertEqual(answer.context["table"], table)
        self.assertEqual(len(self.ties()), 4)


class TheList(TiedCase):
    def list(self, name: str = TRACTOR) -> Any:
        """The driver's list."""
        return self.client.get(f"/hauls/{self.haul_of(name).pk}/tied-down/list/")

    def tick(self, key: str, box: str = "tick") -> Any:
        """A line ticked, or its tick taken back."""
        return self.client.post(
            f"/hauls/{self.haul_of().pk}/tied-down/list/tick/", {box: key}, follow=True
        )

    def test_in_the_order_to_put_on_with_what_to_do_first(self) -> None:
        page = self.list()
        self.assertContains(page, "Bucket down flat on the deck")
        ties = page.context["ties"]
        self.assertEqual(
            [line.words for line in page.context["take"]],
            [
                "2 × 3/8 chain, grade 70",
                "2 × Lever binder, 3/8",
                "2 × 5/16 chain, grade 70",
                "2 × Ratchet binder, 5/16",
            ],
        )
        self.assertEqual([line.number for line in ties], [1, 2, 3, 4])
        self.assertIn("6,600 lb", ties[0].detail)
        self.assertContains(page, "after about 20 minutes and within 50 miles")
        self.assertContains(page, "Stands 10 ft 2 in high")

    def test_a_driver_ticks_and_takes_it_back(self) -> None:
        self.client.force_login(User.objects.get(username="demo-driver"))
        key = self.list().context["ties"][0].key
        page = self.tick(key)
        self.assertTrue(page.context["ties"][0].done)
        self.assertContains(page, "Jo Marsh")
        self.tick(key)
        self.assertEqual(self.list().context["ticked"], 1)
        self.tick(key, box="untick")
        self.assertEqual(self.list().context["ticked"], 0)

    def test_a_tie_planned_otherwise_has_to_be_done_again(self) -> None:
        key = self.list().context["ties"][0].key
        self.tick(key)
        tie = self.ties()[0]
        self.do(f"gear:{tie.id}", running="Ratchet strap, 2 in")
        self.assertEqual(self.list().context["ticked"], 0)
        gone = self.tick(key)
        self.assertContains(gone, "no longer as it was", status_code=422)

    def test_gear_that_was_retired_since_is_told_on_the_list(self) -> None:
        Gear.objects.filter(name="3/8 chain, grade 70").update(retired="cut")
        page = self.list()
        self.assertEqual(page.context["status"], "over")
        self.assertContains(page, "gear is not as it was planned")
        self.assertContains(page, "is retired: cut, frayed or gouged")

    def test_a_photo_that_names_the_point_stands_beside_it(self) -> None:
        photo = self.yard_photo("Drawbar with its shackle")
        ties = self.list().context["ties"]
        self.assertEqual([line.photo for line in ties], [0, 0, photo, photo])

    def yard_photo(self, caption: str) -> int:
        """A photo of the tractor."""
        machine = Machine.objects.get(name="Harrow 48 tractor with loader")
        return attach(machine, plate_photo(("X",)), caption=caption, user=self.user).pk

    def test_nothing_planned_and_a_plain_form(self) -> None:
        page = self.list(CREW)
        self.assertContains(page, "Nothing is planned to tie it down.")
        key = self.list().context["machines"][0].lines[0].key
        haul = self.haul_of()
        answer = self.client.post(f"/hauls/{haul.pk}/tied-down/list/tick/", {"tick": key})
        self.assertEqual(answer.status_code, 302)
        self.client.force_login(self.stranger)
        self.assertEqual(self.list().status_code, 404)

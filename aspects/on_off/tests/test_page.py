"""On and off: the page, the place that is kept, measures that are done."""

from __future__ import annotations

import json
import re
from typing import Any
from unittest import mock

from hauls.climbs import climb_of
from hauls.models import Haul
from hauls.tests.yard_case import AspectCase
from mechanics.checks import Status
from mechanics.errors import InputError
from planfile.climbing import Place
from yards.models import User

TRACTOR = "Orchard tractor to the Quarry Lane block"
LOADER = "Compact loader to the Stony Bank culvert"
LIFTS = "Compact loader behind the half-ton"
SCRAPES = "Backhoe to the Ash Lane trench"
BED = "Compact loader to clear the ford"
FINE = "Roller to the Chapel Field gate"
CREW = "Drain crew to the Long Drain"


class ClimbCase(AspectCase):
    """Asking for the page, sending its forms."""

    def haul_of(self, name: str) -> Haul:
        """A haul as it is stored."""
        return Haul.objects.get(name=name)

    def send(self, name: str, what: str, **fields: Any) -> Any:
        """One of the page's forms, as its script sends it."""
        haul = self.haul_of(name)
        base = fields.pop("base", haul.revision)
        item = haul.document["items"][0]["id"]
        return self.client.post(
            f"/hauls/{haul.pk}/on-and-off/{what}/",
            {"base": base, "at": "loading", "item": item, "times": 1, **fields},
            headers={"HX-Request": "true"},
        )

    def site(self, name: str = TRACTOR, **changed: Any) -> Any:
        """The place as the form sends it."""
        boxes = {"slope": "", "uphill": "1", "surface": "gravel", "foot_rise": "", "brake": "1"}
        return self.send(name, "place", **(boxes | changed))

    def strip_of(self, page: Any) -> dict[str, Any]:
        """The strip that the page plays."""
        found = re.search(
            r'<script id="climb-strip" type="application/json">(.*?)</script>',
            page.content.decode(),
            re.DOTALL,
        )
        assert found is not None
        strip: dict[str, Any] = json.loads(found[1])
        return strip


class Page(ClimbCase):
    def test_the_sentence_says_what_happens_and_whether_the_truck_holds(self) -> None:
        page = self.look(TRACTOR, "on-and-off/")
        self.assertContains(page, "The tongue lifts by")
        self.assertContains(page, "<mark>1,278 lb</mark> when the rear wheels leave the ramp.")
        self.assertContains(page, "The truck keeps 1,573 lb on its rear axle.")
        self.assertContains(page, "Parking brake alone does not hold on wet grass.")

    def test_each_classic_is_said(self) -> None:
        for name, words in (
            (LIFTS, "The truck&#x27;s rear wheels leave the ground"),
            (SCRAPES, "scrapes by"),
            (BED, "lifts about its hinge"),
            (FINE, "verdict-ok"),
            (LOADER, "stands dropped"),
            ("Excavator home from Low Fields", "stays down at the mark"),
            ("Gravel to the ford", "Nothing of this load is driven on."),
        ):
            with self.subTest(name=name):
                self.assertContains(self.look(name, "on-and-off/"), words)

    def test_strip_has_an_entry_for_every_station_and_stops_where_the_truck_lifts(self) -> None:
        strip = self.strip_of(self.look(LIFTS, "on-and-off/"))
        count = len(strip["x"])
        self.assertGreaterEqual(count, 200)
        for name in ("machine", "trailer", "truck", "ball", "ramp", "bar", "arrow", "where", "cx"):
            self.assertEqual(len(strip[name]), count, name)
        for column in (*strip["fills"], *strip["numbers"], *strip["over"], *strip["cy"]):
            self.assertEqual(len(column), count)
        self.assertLess(strip["stop_on"], count - 1)
        self.assertGreater(strip["stop_off"], strip["stop_on"])
        whole = self.strip_of(self.look(TRACTOR, "on-and-off/"))
        self.assertEqual((whole["stop_on"], whole["stop_off"]), (len(whole["x"]) - 1, 0))

    def test_machine_moves_from_the_ramp_to_its_mark(self) -> None:
        strip = self.strip_of(self.look(TRACTOR, "on-and-off/"))
        self.assertEqual(strip["x"], sorted(strip["x"], reverse=True))
        self.assertEqual(strip["where"][0], "front wheels meet the ramp")
        self.assertIn("past the tail edge", strip["where"][-1])
        self.assertEqual(strip["numbers"][1][0], "3,750")

    def test_tilt_is_drawn_as_large_as_asked(self) -> None:
        true = self.strip_of(self.look(TRACTOR, "on-and-off/"))["trailer"]
        larger = self.strip_of(self.look(TRACTOR, "on-and-off/", times=10))["trailer"]
        worst = true.index(max(true, key=self._turn))
        self.assertAlmostEqual(self._turn(larger[worst]) / self._turn(true[worst]), 10, delta=0.3)

    def _turn(self, transform: str) -> float:
        return float(transform.removeprefix("rotate(").split()[0])

    def test_several_machines_come_in_their_order_and_off_in_reverse(self) -> None:
        haul = self.haul_of(CREW)
        first = haul.document["items"][0]["name"]
        page = self.look(CREW, "on-and-off/")
        self.assertContains(page, "Set down and not driven on: Pallet of drain pipe, Trench plough")
        self.assertContains(page, f"{first}")
        haul.document["items"][1] |= {
            "extra": {"drawn": {"shape": "tractor"}},
            "cg": {"ahead": 0, "height": 20},
            "contacts": [{"ahead": 15}, {"ahead": -15}],
        }
        haul.save()
        on = self.look(CREW, "on-and-off/").content.decode()
        off = self.look(CREW, "on-and-off/", at="unloading").content.decode()
        order = re.compile(r'<ol class="climb-order".*?</ol>', re.DOTALL)
        names = [
            re.findall(r"</svg> ([^<]+)</a>", order.search(page)[0])  # type: ignore[index]
            for page in (on, off)
        ]
        self.assertEqual(len(names[0]), 2)
        self.assertEqual(names[0], names[1][::-1])

    def test_what_is_missing_is_named_with_the_page_that_has_a_box_for_it(self) -> None:
        haul = self.haul_of(TRACTOR)
        del haul.document["trailer"]["ramp"], haul.document["items"][0]["contacts"]
        haul.save()
        page = self.look(TRACTOR, "on-and-off/")
        self.assertContains(page, "Cannot say how it gets on: some figures are not known.")
        self.assertContains(page, "the length of its ramps or gate")
        self.assertContains(page, f"/book/trailers/{haul.trailer_id}/")
        self.assertContains(page, "stands on the ground: its wheelbase")

    def test_where_on_the_way_it_is_worst_is_said_of_each(self) -> None:
        page = self.look(SCRAPES, "on-and-off/")
        rows = re.findall(r'<li class="found-over">.*?</li>', page.content.decode(), re.DOTALL)
        self.assertTrue(rows)
        self.assertTrue(all(re.search(r"(When|With) the (front|rear) whe", row) for row in rows))
        self.assertContains(page, "Clearance: scrapes by 26 1/2 in when the rear wheels")
        self.assertContains(page, "Ramps of 5 ft, a dovetail that falls 9 in, stands on the ground")

    def test_ramp_too_short_is_a_sentence(self) -> None:
        haul = self.haul_of(TRACTOR)
        haul.document["trailer"]["ramp"]["length"] = 20
        haul.save()
        page = self.look(TRACTOR, "on-and-off/")
        self.assertContains(page, "The ramp is shorter than the height it has to reach.")
        self.assertContains(page, "climb-plain")

    def test_odd_figures_are_said_and_drawn(self) -> None:
        def worse(change: Any) -> Any:
            haul = self.haul_of(TRACTOR)
            change(haul.document)
            haul.save()
            return self.look(TRACTOR, "on-and-off/")

        long = worse(lambda d: d["items"][0].update(contacts=[{"ahead": -300}, {"ahead": 300}]))
        self.assertContains(long, "climb-picture")
        ahead = worse(
            lambda d: (
                d["items"][0].update(contacts=[{"ahead": 0}, {"ahead": 76}]),
                d["trailer"].update(stands={"gap": 0, "position": 60}),
                d.update(site={"stands_down": True}),
            )
        )
        self.assertContains(ahead, "stands ahead of the axles")
        steep = worse(lambda d: d.update(site={"slope": 0.6}))
        self.assertContains(steep, "too steep to load on")
        wide = worse(lambda d: d["items"][0]["extra"].update(tread={"track": 90, "tire": 16}))
        self.assertContains(wide, "its tires hang over by")

    def test_estimated_clearance_says_that_it_is_one(self) -> None:
        haul = self.haul_of(TRACTOR)
        item = haul.document["items"][0]
        del item["underside"]
        low = [{"ahead": 0, "clearance": 12}, {"ahead": 76, "clearance": 12}]
        item["extra"]["usual_underside"] = {"least": low, "most": low}
        haul.save()
        page = self.look(TRACTOR, "on-and-off/")
        self.assertContains(page, "likely clear")
        self.assertContains(page, "An estimate: machines of its kind")
        item["extra"]["usual_underside"]["least"] = [
            {"ahead": 0, "clearance": 3},
            {"ahead": 76, "clearance": 3},
        ]
        haul.save()
        self.assertContains(self.look(TRACTOR, "on-and-off/"), "holds", status_code=200)
        self.assertNotContains(self.look(TRACTOR, "on-and-off/"), "likely clear")

    def test_every_place_says_the_same_of_an_estimated_clearance(self) -> None:
        haul = self.haul_of(CREW)
        items = haul.document["items"]
        far = [{"ahead": -15, "clearance": 40}, {"ahead": 15, "clearance": 40}]
        items[1] |= {
            "cg": {"ahead": 0, "height": 20},
            "contacts": [{"ahead": 15}, {"ahead": -15}],
            "extra": {
                "drawn": {"shape": "tractor"},
                "usual_underside": {"least": far, "most": far},
            },
        }
        items[1].pop("underside", None)
        haul.save()
        page = self.look(CREW, "on-and-off/", item=items[1]["id"]).context
        chip = next(one for one in page["machines"] if one.here)
        row = next(one for one in page["around"].rounds if one.now)
        self.assertNotEqual(page["said"].status, "unknown")
        self.assertEqual([chip.status, row.way], [page["said"].status] * 2)

    def test_a_ramp_that_is_too_short_is_not_confused_with_figures_that_overflow(self) -> None:
        haul = self.haul_of(TRACTOR)
        refused = InputError("plan", "figures that a truck and trailer can have")
        with mock.patch("hauls.climbs.way", side_effect=refused):
            found = climb_of(haul.draft)
        self.assertEqual((found.status, found.word), (Status.UNKNOWN, "cannot say"))
        haul = self.haul_of(TRACTOR)
        haul.document["trailer"]["ramp"]["length"] = 4
        found = climb_of(haul.draft)
        self.assertEqual((found.status, found.word), (Status.OVER, "ramp too short"))


class Panel(ClimbCase):
    def test_the_planner_says_it_in_a_word_and_follows_what_is_moved(self) -> None:
        page = self.look(TRACTOR)
        self.assertContains(page, "<b>Slides.</b> Parking brake alone, on wet grass.")
        self.site(surface="concrete_dry", held_1="1", held_2="1")
        self.haul = self.haul_of(TRACTOR)
        self.assertContains(self.act("turn"), "Parking brake and chocks at axles 1 and 2")

    def test_of_many_machines_it_says_nothing(self) -> None:
        haul = self.haul_of(TRACTOR)
        machine = haul.document["items"][0]
        haul.document["items"] = [machine | {"id": f"m{n}"} for n in range(1, 6)]
        haul.save()
        self.assertNotContains(self.look(TRACTOR), "on wet grass")


class KeepingThePlace(ClimbCase):
    def test_place_is_kept_with_what_was_typed(self) -> None:
        page = self.site(slope="3 in over 100 in", foot_rise="4", held_1="1", stands="1")
        self.assertEqual(200, page.status_code)
        site = self.haul_of(TRACTOR).document["site"]
        self.assertAlmostEqual(site["slope"], 0.03)
        self.assertEqual(site["held_trailer_axles"], [1])
        self.assertEqual((site["foot_rise"], site["stands_down"]), (4, True))
        self.assertContains(page, 'value="3 in over 100 in"')
        self.assertContains(page, "on gravel and a slope of 3 in 100, truck uphill")

    def test_downhill_is_the_other_sign(self) -> None:
        self.site(slope="2 %", uphill="0")
        self.assertAlmostEqual(self.haul_of(TRACTOR).document["site"]["slope"], -0.02)

    def test_unloading_has_a_place_of_its_own(self) -> None:
        self.site(at="unloading", surface="ice")
        haul = self.haul_of(TRACTOR)
        self.assertEqual(haul.document["site"]["surface"], "grass_wet")
        self.assertEqual(haul.draft.site(Place.UNLOADING).surface, "ice")
        page = self.look(TRACTOR, "on-and-off/", at="unloading")
        self.assertContains(page, "on ice")

    def test_the_forms_of_an_end_are_of_that_end(self) -> None:
        for end in ("loading", "unloading"):
            page = self.look(TRACTOR, "on-and-off/", at=end, times=5)
            hidden = f'<input type="hidden" name="at" value="{end}">'
            self.assertContains(page, hidden, count=3, html=True)
            times = '<input type="hidden" name="times" value="5">'
            self.assertContains(page, times, count=3, html=True)

    def test_what_cannot_be_read_stays_and_nothing_is_kept(self) -> None:
        before = self.haul_of(TRACTOR).document
        for field, typed, words in (
            ("slope", "steepish", "Write a slope such as"),
            ("slope", "200 %", "steeper than 45 degrees"),
            ("foot_rise", "a bit", "a bit"),
            ("surface", "moon", "Choose what the outfit stands on."),
        ):
            with self.subTest(field=field, typed=typed):
                page = self.site(**{field: typed})
                self.assertEqual(422, page.status_code)
                self.assertContains(page, words, status_code=422)
        self.assertEqual(before, self.haul_of(TRACTOR).document)

    def test_changed_in_between_is_said_and_nothing_is_kept(self) -> None:
        page = self.site(base=0, slope="5 %")
        self.assertEqual(422, page.status_code)
        self.assertContains(page, "Somebody changed this haul in between", status_code=422)
        self.assertEqual(0, self.haul_of(TRACTOR).document["site"]["slope"])

    def test_without_script_it_comes_back_to_the_page(self) -> None:
        haul = self.haul_of(TRACTOR)
        answer = self.client.post(
            f"/hauls/{haul.pk}/on-and-off/place/",
            {"base": haul.revision, "surface": "ice", "uphill": "1", "at": "unloading"},
        )
        self.assertRedirects(answer, f"/hauls/{haul.pk}/on-and-off/?at=unloading")

    def test_a_driver_looks_and_changes_nothing(self) -> None:
        self.client.force_login(User.objects.get(username="demo-driver"))
        page = self.look(TRACTOR, "on-and-off/")
        self.assertContains(page, "The tongue lifts by")
        self.assertNotContains(page, "Keep this place")
        self.assertEqual(403, self.site(slope="5 %").status_code)

    def test_another_yard_gets_404(self) -> None:
        self.client.force_login(self.stranger)
        self.assertEqual(404, self.site().status_code)
        pk = self.haul_of(TRACTOR).pk
        self.assertEqual(404, self.client.get(f"/hauls/{pk}/on-and-off/").status_code)


class DoingAMeasure(ClimbCase):
    def test_each_measure_is_told_by_what_it_would_give(self) -> None:
        page = self.look(TRACTOR, "on-and-off/")
        for words in (
            "Engage four-wheel drive",
            "Chock the trailer&#x27;s wheels",
            "Drop the stands",
            "Turn the machine round",
            "no attachment",
        ):
            self.assertContains(page, words)
        # what would make nothing better is not offered
        self.assertNotContains(page, "Move to level ground")
        self.assertNotContains(page, "with forks")
        self.assertNotContains(self.look(FINE, "on-and-off/"), "What would change it")

    def test_doing_one_changes_place_verdict_and_step(self) -> None:
        page = self.send(TRACTOR, "do", do="chocks")
        haul = self.haul_of(TRACTOR)
        self.assertEqual(haul.document["site"]["held_trailer_axles"], [1, 2])
        self.assertContains(page, "chocks at axles 1 and 2 hold on wet grass")
        self.assertNotContains(page, 'value="chocks"')
        self.assertEqual(haul.steps.last().what, "chock the trailer's wheels")  # type: ignore[union-attr]

    def test_turning_round_stands_it_at_its_best_place_that_way(self) -> None:
        self.send(TRACTOR, "do", do="turn")
        placement = self.haul_of(TRACTOR).document["items"][0]["placement"]
        self.assertEqual(placement["facing"], "backward")

    def test_another_configuration_takes_its_link_along(self) -> None:
        haul = self.haul_of(TRACTOR)
        link = haul.links.get()
        assert link.machine is not None
        bare = link.machine.configurations.get(name="no attachment")
        self.send(TRACTOR, "do", do=f"as-{bare.pk}")
        link.refresh_from_db()
        self.assertEqual(link.configuration, bare)
        self.assertIn("no attachment", self.haul_of(TRACTOR).document["items"][0]["name"])

    def two_machines(self) -> Haul:
        """A light machine ahead and a heavy one behind it, each of which drives on."""
        haul = self.haul_of(TRACTOR)
        heavy = haul.document["items"][0]
        light = json.loads(json.dumps(heavy)) | {"id": "light", "name": "Light", "mass": 1500}
        heavy["placement"]["reference"] = 118
        light |= {"front": 30, "rear": 30, "contacts": [{"ahead": 15}, {"ahead": -15}]}
        light["cg"] = {"ahead": 0, "height": 20}
        light["underside"] = [{"ahead": 15, "clearance": 14}, {"ahead": -15, "clearance": 14}]
        light["placement"] = {"reference": 205}
        haul.document["items"].append(light)
        haul.save()
        return haul

    def test_of_several_one_is_put_on_last_and_a_gentler_order_is_found(self) -> None:
        haul = self.two_machines()
        page = self.look(TRACTOR, "on-and-off/")
        self.assertContains(page, "Put it on last")
        self.assertContains(page, "Light first, then Harrow 48")
        before = [item["placement"]["reference"] for item in haul.document["items"]]
        self.send(TRACTOR, "do", do="last")
        after = [item["placement"]["reference"] for item in self.haul_of(TRACTOR).document["items"]]
        self.assertGreater(after[0], before[0])
        self.assertLess(after[1], before[1])
        heavy = haul.document["items"][0]["id"]
        self.assertNotContains(self.look(TRACTOR, "on-and-off/", item=heavy), "Put it on last")

    def test_blocks_that_clear_what_scrapes(self) -> None:
        haul = self.haul_of(SCRAPES)
        haul.document["items"][0]["underside"] = [
            {"ahead": -104, "clearance": 38},
            {"ahead": 0, "clearance": 13},
        ]
        haul.save()
        page = self.look(SCRAPES, "on-and-off/")
        self.assertContains(page, "Blocks or a bank under the foot")
        self.send(SCRAPES, "do", do="blocks")
        done = self.look(SCRAPES, "on-and-off/")
        self.assertNotContains(done, "scrapes by")

    def test_what_is_not_there_to_do_is_said(self) -> None:
        for code in ("level", "dance", "as-999", ""):
            revision = self.haul_of(TRACTOR).revision
            page = self.send(TRACTOR, "do", do=code)
            self.assertEqual(200, page.status_code)
            self.assertEqual(revision, self.haul_of(TRACTOR).revision)

    def test_changed_in_between_nothing_is_done(self) -> None:
        page = self.send(TRACTOR, "do", do="chocks", base=0)
        self.assertEqual(422, page.status_code)
        self.assertEqual([], self.haul_of(TRACTOR).document["site"]["held_trailer_axles"])


class Around(ClimbCase):
    def test_which_way_round_with_the_reason(self) -> None:
        page = self.look(TRACTOR, "on-and-off/")
        self.assertContains(page, "Drive on forward (now)")
        self.assertContains(page, "Better ")
        self.assertContains(page, "Heavy end uphill")

    def test_loader_up_takes_load_off_the_uphill_wheels(self) -> None:
        page = self.look(TRACTOR, "on-and-off/").content.decode()
        found = re.search(
            r"Low as it is reckoned, ([\d.]+) % .*? it is\s+([\d.]+) %", page, re.DOTALL
        )
        assert found is not None
        self.assertGreater(float(found[1]), float(found[2]))

    def test_ramps_are_set_to_the_wheels(self) -> None:
        page = self.look(TRACTOR, "on-and-off/")
        self.assertContains(page, "Set the ramps 54 in apart, middle to middle")

    def test_bucket_over_the_headboard_and_what_stands_up_behind(self) -> None:
        haul = self.haul_of(TRACTOR)
        haul.document["items"][0]["placement"]["reference"] = 110
        haul.document["trailer"]["deck"]["front_overhang"] = 12
        haul.save()
        page = self.look(TRACTOR, "on-and-off/")
        self.assertContains(page, "reaches 8 in over the headboard")
        self.assertContains(page, "The ramps stand up behind it with")

    def test_wider_than_the_deck_it_does_not_pass_the_fenders(self) -> None:
        haul = self.haul_of(TRACTOR)
        haul.document["items"][0]["width"] = 90
        haul.save()
        page = self.look(TRACTOR, "on-and-off/")
        self.assertContains(page, "does not pass between the fenders")

    def test_winch_pulls_by_layer_block_and_roll(self) -> None:
        page = self.look(TRACTOR, "on-and-off/", roll="dragged", layer="3")
        self.assertContains(page, "on layer 3 the winch pulls 4,000 lb")
        doubled = self.look(TRACTOR, "on-and-off/", roll="tracks", layer="1", doubled="1")
        self.assertContains(doubled, "on layer 1 the winch pulls 5,000 lb")
        wrong = self.look(TRACTOR, "on-and-off/", roll="tracks", hook="high")
        self.assertEqual(422, wrong.status_code)
        self.assertContains(wrong, 'value="high"', status_code=422)

    def test_without_a_winch_it_says_where_to_put_one(self) -> None:
        page = self.look(FINE, "on-and-off/")
        self.assertContains(page, "page has room for its winch")

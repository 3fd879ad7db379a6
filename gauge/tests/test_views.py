"""The gauge's pages: live, frozen, kept, and the yard's list."""

from __future__ import annotations

import json
import socket
import time
from dataclasses import replace
from typing import Any

from django.test import Client, override_settings

from book.models import Ticket
from gauge import coaching
from gauge.coaching import Coach, aim_of, distance
from gauge.hub import HubThread
from gauge.management.commands.gauge_hub import known
from gauge.models import Gauge
from gauge.wire import Facts
from hauls.models import Haul
from hauls.tests.yard_case import YardCase
from measures import UnitSystem
from mechanics.coach import Gauge as GaugeFacts
from mechanics.units import KG_PER_LB

STEP = GaugeFacts(step_kg=20 * KG_PER_LB)


def event(*pounds: float, now: float = 10.0, **more: Any) -> dict[str, Any]:
    """What the hub tells after such readings, ten a second up to now."""
    past = [[10.0 - (len(pounds) - 1 - n) / 10, p * KG_PER_LB, False] for n, p in enumerate(pounds)]
    document = {
        "connected": True,
        "now": now,
        "unit": "lb",
        "step_kg": 20 * KG_PER_LB,
        "lag_s": 0.0,
        "rating_kg": None,
        "dropped": {},
        "lying": False,
        "past": past,
    }
    if past:
        document |= dict(zip(("at", "kg", "full"), past[-1], strict=True))
    return document | more


class Panel(YardCase):
    def coach(self, name: str = "", unit: UnitSystem = UnitSystem.US, **more: Any) -> Coach:
        """A coach for a haul of the demo yard, with no reading kept."""
        Ticket.objects.filter(method="gauge").delete()
        haul = Haul.objects.get(name=name) if name else self.haul
        return Coach(aim_of(haul, 0, STEP), unit, **more)

    def panel(self, told: dict[str, Any], **more: Any) -> coaching.Panel:
        coach = self.coach(**more)
        coach.see(told)
        return coach.panel(told)

    def test_heavy_tongue_backs_up_light_tongue_pulls_ahead(self) -> None:
        heavy = self.panel(event(*[1400] * 20), ramps_down=False)
        light = self.panel(event(*[500] * 20), ramps_down=False)
        self.assertEqual("1,400", heavy.figure)
        self.assertRegex(heavy.say, r"^Back up \d+ in$")
        self.assertRegex(light.say, r"^Pull ahead ")
        right = self.panel(event(*[1000] * 20), ramps_down=False)
        self.assertEqual(("Stop", "stop"), (right.say, right.move))

    def test_ramps_count_as_down_until_somebody_says_otherwise(self) -> None:
        right = self.panel(event(*[1000] * 20))
        self.assertEqual(("Stop. Put the ramps up", "ramps"), (right.say, right.move))
        self.assertRegex(self.panel(event(*[1400] * 20)).say, r"^Back up about \d+ in$")
        aim = self.coach().aim
        for tail, down, words in (
            ("open", False, "Stop"),
            ("gate", True, "Stop. Put the gate up"),
            ("tilts", True, "Stop. Let the deck down and latch it"),
            ("", True, "Stop. Put the ramps or the gate up"),
        ):
            with self.subTest(tail=tail):
                coach = Coach(replace(aim, tail=tail), UnitSystem.US)
                self.assertEqual(down, coach.ramps_down)
                panel = coach.read_dial(1000 * KG_PER_LB)
                self.assertEqual(words, panel.say)
                self.assertEqual(down, "ramps" in dict(panel.notes))

    def test_a_figure_off_a_dial(self) -> None:
        coach = self.coach(ramps_down=False)
        target = coach.aim.band.target_kg
        assert target is not None
        panel = coach.read_dial(target + 8 * 26.75 * KG_PER_LB)
        self.assertEqual("Back up 8 in", panel.say)
        self.assertFalse(panel.stale)

    def test_the_inches_are_the_difference_over_what_an_inch_is_worth(self) -> None:
        """5,350 lb on a 200 in lever: 26.75 lb an inch."""
        coach = self.coach(ramps_down=False)
        target = coach.aim.band.target_kg
        assert target is not None
        coach.see(event(*[target / KG_PER_LB + 8 * 26.75] * 20))
        self.assertEqual("Back up 8 in", coach.panel(event(now=10.0)).say)

    def test_a_machine_that_faces_back_and_one_without_wheels(self) -> None:
        coach = self.coach("Plough out behind the half-ton")
        coach.see(event(*[300] * 20))
        words = coach.panel(event(now=10.0)).say
        self.assertTrue(words.startswith(("Move it", "No place", "Stop")), words)
        turned = self.haul.document["items"][0]["placement"]
        turned["facing"] = "backward"
        Haul.objects.filter(pk=self.haul.pk).update(document=self.haul.document)
        panel = self.panel(event(*[1500] * 20))
        self.assertTrue(panel.say.startswith("Pull ahead"), panel.say)

    def test_it_goes_grey_when_readings_stop(self) -> None:
        told = event(*[1000] * 20, now=11.4)
        self.assertFalse(self.panel(told).stale)
        silent = self.panel(event(*[1000] * 20, now=13.0))
        self.assertTrue(silent.stale)
        self.assertEqual("wait", silent.move)
        self.assertIn("No reading for 3 s", silent.silence)
        gone = self.panel(event(*[1000] * 20, now=15.0, connected=False))
        self.assertIn("gone for 5 s", gone.silence)
        self.assertIn("not connected", self.panel(event(connected=False)).silence)

    def test_what_keeps_it_from_being_trusted_is_said(self) -> None:
        down = dict(self.panel(event(*[1000] * 20)).notes)
        self.assertIn("Put the ramps up before you trust this", down["ramps"])
        carried = self.panel(event(*[1000] * 20), ramps_down=False, down_kg=1100 * KG_PER_LB)
        notes = dict(carried.notes)
        # deck ends 292 in behind the ball: 100 lb on the tongue is 217 lb at the tail
        self.assertIn("the tail carried about 217 lb", notes["carried"])
        # a machine on the move stands elsewhere than it did
        moving = event(*[1000 + 20 * n for n in range(20)])
        still_less = self.panel(moving, ramps_down=False, down_kg=2100 * KG_PER_LB)
        self.assertNotIn("carried", dict(still_less.notes))
        lying = self.panel(event(*[1000] * 20, lying=True, dropped={"unit": 12}))
        self.assertIn("between pounds and kilograms", dict(lying.notes)["lying"])
        self.assertEqual(["12 in another unit than said"], lying.dropped)
        far = self.panel(event(*[9000] * 20))
        self.assertIn("other unit", dict(far.notes)["unit"])

    def test_metric(self) -> None:
        panel = self.panel(event(*[1400] * 20), unit=UnitSystem.METRIC, ramps_down=False)
        self.assertEqual("635", panel.figure)
        self.assertRegex(panel.say, r"^Back up \d+ cm$")

    def test_distances_as_they_are_called_out(self) -> None:
        for inches, words in ((0.2, "1/2 in"), (1.4, "1 1/2 in"), (7.2, "7 in"), (27, "2 ft 3 in")):
            self.assertEqual(words, distance(inches * 0.0254, UnitSystem.US))

    def test_readings_before_a_gap_say_nothing(self) -> None:
        coach = self.coach()
        coach.see(event(*[1400] * 20))
        coach.see(event(now=15.0, at=15.0, kg=450.0, full=False))
        self.assertEqual(1, len(coach.recent()))


class HubCase(YardCase):
    """The yard with the service that gauges send to."""

    def setUp(self) -> None:
        super().setUp()
        self.gauge = Gauge.objects.get(name="Hitch gauge")
        # a thread of its own may not ask the test's database
        facts = known(self.gauge.key)
        self.hub = HubThread({self.gauge.key: facts}.get)
        self.enterContext(self.hub)
        self.enterContext(override_settings(GAUGE_HOST="127.0.0.1", GAUGE_PORT=self.hub.port))


class Pages(HubCase):
    def setUp(self) -> None:
        super().setUp()
        self.wire = socket.create_connection(("127.0.0.1", self.hub.port), timeout=5)
        self.addCleanup(self.wire.close)

    def send(self, *loads: float) -> None:
        """Readings of the gauge, and a moment for the hub."""
        if loads and not getattr(self, "greeted", False):
            hello = {"eyebolt_gauge": 1, "key": self.gauge.key, "unit": "lb"}
            self.wire.sendall(json.dumps(hello).encode() + b"\n")
            self.wire.makefile("rb").readline()
            self.greeted = True
        for load in loads:
            self.wire.sendall(json.dumps({"load": load}).encode() + b"\n")
        time.sleep(0.15)

    def at(self, path: str) -> str:
        return f"/hauls/{self.haul.pk}/gauge/{path}"

    def test_the_page_and_the_figure_once(self) -> None:
        self.assertContains(self.client.get(self.at("")), "Harrow 48 tractor with loader")
        self.assertContains(self.client.get(self.at("now/")), "not connected")
        self.send(1120)
        self.assertContains(self.client.get(self.at("now/")), "1,120")

    def test_the_stream_tells_as_it_comes(self) -> None:
        self.send(1120)
        answer = self.client.get(self.at("stream/"))
        self.assertEqual("text/event-stream", answer["Content-Type"])
        parts = iter(answer.streaming_content)
        self.assertIn("1,120", next(parts).decode())
        self.send(1180)
        heard = "".join(next(parts).decode() for _ in range(3))
        self.assertIn("1,180", heard)
        self.assertTrue(heard.startswith("event: panel\ndata: "))
        told = [
            json.loads(part.split("data: ", 1)[1])
            for part in heard.split("event: ")
            if part.startswith("reading")
        ]
        self.assertAlmostEqual(1180 * KG_PER_LB, told[-1]["kg"])
        answer.close()

    def test_too_many_streams_and_no_hub_are_told(self) -> None:
        with self.settings(GAUGE_PORT=1):
            told = self.client.get(self.at("stream/"))
            self.assertEqual("text/event-stream", told["Content-Type"])
            self.assertContains(told, "not running")
            self.assertContains(self.client.get(self.at("now/")), "not running")
        # the refused ones gave their places back
        streams = [self.client.get(self.at("stream/")) for _ in range(20)]
        self.assertEqual({200}, {s.status_code for s in streams})
        self.assertEqual(503, self.client.get(self.at("stream/")).status_code)
        for one in streams:
            one.close()
        last = self.client.get(self.at("stream/"))
        self.assertEqual(200, last.status_code)
        last.close()

    def test_frozen_and_kept_it_corrects_the_coach(self) -> None:
        Ticket.objects.filter(method="gauge").delete()
        self.send(*[1240] * 12)
        frozen = self.client.post(self.at("freeze/"))
        self.assertContains(frozen, "1,240 lb")
        kept = self.client.post(
            self.at("save/"),
            {"reading": "1,240", "reference": "12 ft 2 in", "aboard": "on", "ramps": "up"},
        )
        self.assertEqual(302, kept.status_code)
        ticket = Ticket.objects.get(method="gauge")
        self.assertEqual("1240 lb", str(ticket.tongue_mass))
        load = ticket.loads.filter(kind="item").get()
        self.assertEqual("146 in", str(load.reference))
        self.assertEqual(self.haul, ticket.of_haul.haul)
        self.assertContains(self.client.get(self.at("")), "Corrected by 1 reading")

    def test_readings_that_cannot_all_be_right_correct_nothing(self) -> None:
        stony = Haul.objects.get(name="Compact loader to the Stony Bank culvert")
        page = self.client.get(f"/hauls/{stony.pk}/gauge/")
        self.assertContains(page, "cannot all be right: the coach goes by the plan")
        planned = stony.draft.plan
        self.assertEqual(planned, aim_of(stony, 0, STEP).plan)

    def test_bad_input_to_a_frozen_reading(self) -> None:
        for typed, words in (
            ({"reading": "a lot", "reference": "150", "aboard": "on", "ramps": "up"}, "not a mass"),
            ({"reading": "1,000", "aboard": "on", "ramps": "up"}, "Tape where its mark stands"),
            (
                {"reading": "1000", "reference": "150", "aboard": "on", "ramps": "down"},
                "Put the ramps up first",
            ),
        ):
            with self.subTest(typed=typed):
                answer = self.client.post(self.at("save/"), typed)
                self.assertContains(answer, words, status_code=422)
        empty = self.client.post(self.at("freeze/"))
        self.assertContains(empty, "not connected")

    def test_trust(self) -> None:
        self.send(1120, 1120, 508)
        self.assertContains(self.client.get(self.at("now/")), "It is right as it is")
        self.assertEqual(204, self.client.post(self.at("trust/")).status_code)
        time.sleep(0.1)
        self.send(508)
        self.assertContains(self.client.get(self.at("now/")), "508")

    def test_drivers_use_it_and_another_yard_sees_nothing(self) -> None:
        driver, other = Client(), Client()
        driver.login(username="demo-driver", password="fernbeck-demo")
        other.force_login(self.stranger)
        self.assertEqual(200, driver.get(self.at("")).status_code)
        self.assertEqual(403, driver.get("/gauges/").status_code)
        for path in ("", "stream/", "now/"):
            self.assertEqual(404, other.get(self.at(path)).status_code)
        for path in ("freeze/", "save/", "trust/", "dial/"):
            self.assertEqual(404, other.post(self.at(path)).status_code)
        for path in ("", "set-up/"):
            self.assertEqual(404, other.get(f"/gauges/{self.gauge.pk}/{path}").status_code)
            self.assertEqual(403, driver.get(f"/gauges/{self.gauge.pk}/{path}").status_code)
        self.assertEqual(404, self.client.get(self.at("") + "?gauge=9999").status_code)

    def test_the_yards_list(self) -> None:
        added = self.client.post(
            "/gauges/", {"name": "Old hitch", "unit": "kg", "step": "10 kg", "lag": "0.3"}
        )
        gauge = Gauge.objects.get(name="Old hitch")
        set_up = f"/gauges/{gauge.pk}/set-up/"
        self.assertRedirects(added, set_up)
        self.assertContains(self.client.get(set_up), gauge.key)
        self.assertContains(self.client.get(set_up), "http://testserver/gauges/send/")
        figures = self.client.get(f"/gauges/{gauge.pk}/")
        self.assertNotContains(figures, gauge.key)
        self.assertContains(figures, set_up)
        with self.settings(GAUGE_PORT=0):
            self.assertNotContains(self.client.get(set_up), gauge.key)
        self.assertEqual(
            Facts(unit="kg", step_kg=10.0, rating_kg=None, lag_s=0.3, yard=gauge.yard_id),
            known(gauge.key),
        )
        for typed, words in (
            ({"name": "Old hitch", "unit": "kg", "lag": "0"}, "already"),
            ({"name": "=x", "unit": "kg", "lag": "0"}, "formula"),
            ({"name": "New", "unit": "kg", "lag": "9"}, "between 0 and 5"),
            ({"name": "New", "unit": "st", "lag": "0"}, "not one of"),
        ):
            with self.subTest(typed=typed):
                self.assertContains(self.client.post("/gauges/", typed), words, status_code=422)
        typed = {"name": "Old hitch", "unit": "kg", "lag": "0.3", "version": "1"}
        self.assertEqual(302, self.client.post(f"/gauges/{gauge.pk}/", typed).status_code)
        late = self.client.post(f"/gauges/{gauge.pk}/", {**typed, "lag": "0.9"})
        self.assertContains(late, "Somebody changed this gauge", status_code=409)
        self.assertContains(late, 'value="0.9"', status_code=409)
        gauge.refresh_from_db()
        self.assertEqual("0.3", str(gauge.lag))
        self.client.post(f"/gauges/{gauge.pk}/remove/")
        self.assertIsNone(known(gauge.key))

    def test_a_yard_without_a_gauge_and_a_haul_without_a_load(self) -> None:
        self.haul.document |= {"items": [], "securing": {"ties": []}}
        self.haul.save()
        self.assertContains(self.client.get(self.at("")), "nothing on the deck")
        self.assertEqual(404, self.client.get(self.at("now/")).status_code)
        Gauge.objects.all().delete()
        crew = Haul.objects.get(name="Drain crew to the Long Drain")
        page = self.client.get(f"/hauls/{crew.pk}/gauge/")
        self.assertContains(page, "Show what to do")
        self.assertNotContains(page, "data-stream")
        self.assertEqual(404, self.client.post(self.at("dial/"), {"dial": "1000"}).status_code)

    def test_a_dial_is_typed_in_and_kept_without_any_gauge_in_the_list(self) -> None:
        Ticket.objects.filter(method="gauge").delete()
        Gauge.objects.all().delete()
        htmx = {"HTTP_HX_REQUEST": "true"}
        down = self.client.post(self.at("dial/"), {"dial": "1,400"}, **htmx)
        self.assertContains(down, "Put the ramps up, read it again")
        self.assertContains(down, 'value="635.03"')
        self.assertNotContains(down, "Keep it")
        typed = {"dial": "1,240", "ramps": "up", "down_kg": "635.03"}
        up = self.client.post(self.at("dial/"), typed, **htmx)
        self.assertRegex(up.content.decode(), r"Back up \d+ in")
        self.assertContains(up, "the tail carried about")
        self.assertContains(up, "Keep it")
        whole = self.client.post(self.at("dial/"), typed)
        self.assertContains(whole, "<h1")
        self.assertContains(whole, "Keep it")
        kept = {"reading": "1,240", "reference": "12 ft 2 in", "aboard": "on", "typed": "1"}
        refused = self.client.post(self.at("save/"), kept)
        self.assertContains(refused, "Put the ramps up first", status_code=422)
        self.assertEqual(
            302, self.client.post(self.at("save/"), kept | {"ramps": "up"}).status_code
        )
        ticket = Ticket.objects.get(method="gauge")
        self.assertEqual(("1240 lb", ""), (str(ticket.tongue_mass), ticket.place))
        self.assertContains(self.client.get(self.at("")), "Corrected by 1 reading")
        self.assertContains(self.client.get(f"/weigh/tickets/{ticket.pk}/"), "1,240 lb")

    def test_what_is_no_mass_is_said_and_stays_in_the_box(self) -> None:
        for typed in ("a lot", "", "-5", "7.000", "nan"):
            with self.subTest(typed=typed):
                answer = self.client.post(self.at("dial/"), {"dial": typed, "ramps": "up"})
                self.assertContains(answer, 'role="alert"', status_code=422)
                self.assertContains(answer, f'value="{typed}"' if typed else "", status_code=422)


class Posted(HubCase):
    """Readings that come by HTTP, from a gauge without a session."""

    def setUp(self) -> None:
        super().setUp()
        self.sender = Client(enforce_csrf_checks=True)

    def post(self, body: Any, **more: Any) -> tuple[int, dict[str, Any]]:
        sent = body if isinstance(body, (str, bytes)) else json.dumps(body)
        answer = self.sender.post("/gauges/send/", sent, "application/json", **more)
        return answer.status_code, answer.json()

    def now(self) -> str:
        return self.client.get(f"/hauls/{self.haul.pk}/gauge/now/").content.decode()

    def test_one_reading_reaches_the_page(self) -> None:
        self.assertEqual(
            (200, {"ok": True, "taken": 1, "dropped": {}}),
            self.post({"key": self.gauge.key, "unit": "lb", "n": 6, "load": 1120}),
        )
        self.assertIn("1,120", self.now())

    def test_several_readings_at_once(self) -> None:
        readings = [{"n": n + 1, "load": 1180, "ago": 0.4 - n / 10} for n in range(5)]
        answer = self.post({"key": self.gauge.key, "readings": readings})
        self.assertEqual((200, 5), (answer[0], answer[1]["taken"]))
        self.assertIn("1,180", self.now())
        apart = [one.at_s for one in self.hub.hub.channels[self.gauge.key].readings]
        self.assertAlmostEqual(0.4, apart[-1] - apart[0], delta=0.05)

    def test_what_cannot_be_right_is_dropped_and_told(self) -> None:
        self.post({"key": self.gauge.key, "n": 5, "load": 1120})
        for readings, dropped in (
            ([{"n": 5, "load": 1120}], {"old": 1}),
            ([{"load": "much"}, 7, None, {"load": 1e999}], {"rubbish": 4}),
            ([{"load": 1120, "ago": -1}, {"load": 1120, "ago": 60}], {"rubbish": 2}),
            ([{"load": 508}], {"unit": 1}),
            ([{"load": 1120, "x": "y" * 9000}], {"rubbish": 1}),
        ):
            with self.subTest(readings=str(readings)[:60]):
                status, answer = self.post({"key": self.gauge.key, "readings": readings})
                self.assertEqual((200, 0, dropped), (status, answer["taken"], answer["dropped"]))

    def test_a_gauge_switched_on_again_counts_from_one(self) -> None:
        self.post({"key": self.gauge.key, "n": 500, "load": 1120})
        channel = self.hub.hub.channels[self.gauge.key]
        assert channel.posted_at is not None
        channel.posted_at -= 60
        answer = self.post({"key": self.gauge.key, "n": 1, "load": 1120})
        self.assertEqual(1, answer[1]["taken"])

    def test_bodies_that_are_none(self) -> None:
        key = self.gauge.key
        for body, status, words in (
            ("not json", 400, "JSON object"),
            (b"\xff\xfe", 400, "JSON object"),
            ("[" * 9000, 400, "JSON object"),
            ([1], 400, "JSON object"),
            ({"load": 1}, 403, "key"),
            ({"key": "nobody-has-this-key", "load": 1}, 403, "key"),
            ('{"key": "\\ud800", "load": 1}', 403, "key"),
            ({"key": key, "readings": []}, 400, "1 to 50"),
            ({"key": key, "readings": [{"load": 1}] * 51}, 400, "1 to 50"),
            ({"key": key, "unit": "kg", "load": 1}, 400, "unit"),
            ({"key": key, "step": "x", "load": 1}, 400, "step"),
            ("x" * 20_000, 413, "16,384 bytes"),
        ):
            with self.subTest(body=str(body)[:50]):
                answer = self.post(body)
                self.assertEqual(status, answer[0])
                self.assertIn(words, answer[1]["no"])
        self.assertEqual(405, self.sender.get("/gauges/send/").status_code)
        with self.settings(GAUGE_PORT=1):
            self.assertEqual(503, self.post({"key": key, "load": 1})[0])

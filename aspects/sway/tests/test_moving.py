"""What is tried on the page of how it tows, and what the page plays."""

from __future__ import annotations

import re

from aspects.sway.moving_view import moving_view
from aspects.sway.run import Run, shifts
from aspects.sway.speeds import SPEEDS_IN
from hauls.last_time import last_time, really_stood
from hauls.models import Haul
from hauls.tests.yard_case import AspectCase
from measures import UnitSystem
from measures.quantity import Quantity
from mechanics.motion import Course, Push
from mechanics.sway import swings, towing_of
from road.models import Stopped, StoppedLoad

US = UnitSystem.US


class Runs(AspectCase):
    def test_what_is_sent_is_brought_within_what_there_is(self) -> None:
        plan = self.haul.draft.plan
        low, high = shifts(plan, US)
        self.assertLess(low, 0)
        self.assertGreater(high, 0)
        run = Run.of({"shift": "999", "rack": "-3", "tires": "flat", "push": "storm"}, plan, US)
        self.assertEqual((run.shift, run.rack, run.tires, run.push), (high, 0, "mid", Push.GUST))
        run = Run.of({"shift": "-999", "rack": "99", "course": "faster"}, plan, US)
        self.assertEqual((run.shift, run.rack, run.course), (low, 16, Course.FASTER))

    def test_a_load_further_back_and_a_rack_behind_the_tail_calm_less(self) -> None:
        plan = self.haul.draft.plan
        speed = 55 * SPEEDS_IN[US].m_s

        def half(run: Run) -> float:
            found = swings(towing_of(run.plan(plan, US)), speed)[1].half_life_s
            assert found is not None
            return found

        here, back, hung = (
            half(Run(speed=55, shift=shift, rack=rack)) for shift, rack in ((0, 0), (4, 0), (0, 6))
        )
        self.assertLess(here, back)
        self.assertLess(here, hung)
        # the rack weighs what it says, and nothing else has changed
        tried = Run(speed=55, rack=6).plan(plan, US)
        self.assertAlmostEqual(tried.items[-1].mass_kg, 300 * 0.45359237)
        self.assertEqual(tried.items[:-1], plan.items)

    def test_frames_are_where_the_motion_is(self) -> None:
        view = moving_view(self.haul.draft, Run(speed=55, push=Push.LANE), US)
        scene = view.scene
        assert scene is not None
        self.assertEqual(len(scene.strip["truck"]), 12 * 60 + 1)
        places = [float(re.findall(r"[-\d.]+", one)[1]) for one in scene.strip["truck"]]
        lane = scene.lanes[1] - scene.lanes[0]
        # the truck ends about a lane further left, which is further down
        self.assertAlmostEqual(places[-1] - places[0], lane, delta=lane * 0.25)
        self.assertEqual(sum(scene.strip["gust"]), 0)
        gust = moving_view(self.haul.draft, Run(speed=55), US).scene
        assert gust is not None
        self.assertEqual(sum(gust.strip["gust"]), 45)
        self.assertEqual([one.shown for one in gust.curves], [False, True, False])
        self.assertIn("5.0 s, 55 mph", gust.strip["words"][300])
        slower = moving_view(self.haul.draft, Run(speed=55, course=Course.SLOWER), US).scene
        assert slower is not None
        self.assertIn("44 mph", slower.strip["words"][-1])

    def test_metric_pages_say_nothing_in_miles(self) -> None:
        self.user.units = "metric"
        self.user.save()
        page = self.client.get(f"/hauls/{self.haul.pk}/sway/?shift=2&rack=3")
        self.assertContains(page, "200 mm further back")
        self.assertContains(page, "75 kg")
        self.assertNotContains(page, "mph")


class LastTime(AspectCase):
    def done_before(self) -> Haul:
        """The same loads on the same outfit, driven the day before."""
        other = Haul.objects.create(
            yard=self.haul.yard,
            name="The time before",
            document=self.haul.document,
            truck=self.haul.truck,
            hitch=self.haul.hitch,
            trailer=self.haul.trailer,
            state=Haul.State.BACK,
            day=self.haul.day,
        )
        for link in self.haul.links.all():
            link.pk, link.haul = None, other
            link.save()
        return other

    def test_the_last_time_is_compared_as_it_stopped(self) -> None:
        self.assertIsNone(last_time(self.haul))
        other = self.done_before()
        item = self.haul.draft.plan.items[0]
        found = last_time(self.haul)
        assert found is not None
        self.assertEqual(found, (other, self.haul.draft.plan))
        stopped = Stopped.objects.create(haul=other, revision=1, tongue_kg=400)
        back = item.placement.reference_m + 0.4
        StoppedLoad.objects.create(
            stopped=stopped,
            item_id=item.id,
            name="it",
            mark=Quantity.nearest(back, "in"),
            planned_m=item.placement.reference_m,
        )
        found = last_time(self.haul)
        assert found is not None
        self.assertAlmostEqual(found[1].items[0].placement.reference_m, back, delta=0.01)
        page = self.client.get(f"/hauls/{self.haul.pk}/sway/")
        self.assertContains(page, "The last time (The time before): it")
        self.assertIsNone(really_stood(self.haul))
        # another load is another haul
        other.links.all().delete()
        self.assertIsNone(last_time(self.haul))

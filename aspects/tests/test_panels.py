"""The planner's side panels, made of plans that no yard has."""

from __future__ import annotations

from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given, settings

from aspects.frame.panel import FramePanel
from aspects.frame.words import along_frame, bending_words, frame_words
from aspects.level.panel import LevelPanel
from aspects.level.words import ride_words
from aspects.on_off.panel import ClimbPanel
from aspects.registry import Ground, Panel, panels
from hauls.models import Haul
from measures import UnitSystem
from mechanics.attitude import attitude
from mechanics.item import Contact
from mechanics.plan import Plan
from mechanics.report import evaluate
from mechanics.site import Surface
from mechanics.tests.climbing import climbing_plan
from mechanics.tests.outfits import example_plan, inch, lb, plans
from mechanics.truck import Ride
from planfile.draft import Draft

US, METRIC = UnitSystem.US, UnitSystem.METRIC


def with_heights(ball_in: float, coupler_in: float = 22) -> Plan:
    """The example with what its attitude needs: springs, ball and coupler height."""
    plan = example_plan()
    ride = Ride(
        ball_height_m=inch(ball_in), rear_rate_kg_per_m=lb(700) / inch(1), front_rate_kg_per_m=None
    )
    trailer = replace(
        plan.trailer,
        coupler_height_m=inch(coupler_in),
        axle_height_m=inch(15),
        deck=replace(plan.trailer.deck, height_m=inch(24)),
    )
    item = replace(plan.items[0], cg=replace(plan.items[0].cg, height_m=inch(34)))
    return replace(plan, truck=replace(plan.truck, ride=ride), trailer=trailer, items=(item,))


def ground(plan: Plan, unit: UnitSystem = US, times: int = 1) -> Ground:
    """What panels of a plan are made of, without anything stored."""
    bare = {
        "units": {"mass": "kg", "length": "m"},
        "trailer": {},
        "items": [{"id": item.id} for item in plan.items],
    }
    return Ground(
        haul=Haul(pk=7),
        draft=Draft(bare, plan),
        report=evaluate(plan),
        riding=attitude(plan),
        unit=unit,
        times=times,
    )


class Panels(SimpleTestCase):
    def test_getting_on_and_off_in_a_word(self) -> None:
        found = self.it(climbing_plan(surface=Surface.GRASS_WET), "on_off/_panel.html")
        assert isinstance(found, ClimbPanel)
        self.assertEqual(found.word, "Slides")
        self.assertEqual(found.place, "Parking brake alone, on wet grass.")
        unknown = self.it(example_plan(), "on_off/_panel.html")
        assert isinstance(unknown, ClimbPanel)
        self.assertEqual((unknown.word, unknown.status), ("Cannot say", "unknown"))

    @given(plan=plans)
    @settings(max_examples=25)
    def test_any_plan_has_all_and_each_can_be_kept(self, plan: Plan) -> None:
        found = panels(ground(plan))
        self.assertEqual(
            [panel.template for panel in found],
            [
                "level/_panel.html",
                "on_off/_panel.html",
                "tied_down/_panel.html",
                "frame/_panel.html",
                "sway/_panel.html",
            ],
        )
        self.assertEqual(len({hash(panel) for panel in found}), 5)

    def it(self, plan: Plan, template: str, **more: int) -> object:
        made: list[Panel] = panels(ground(plan, **more))
        return next(panel.it for panel in made if panel.template == template)

    def test_how_often_the_tilt_is_drawn_is_marked(self) -> None:
        it = self.it(with_heights(22), "level/_panel.html", times=5)
        assert isinstance(it, LevelPanel)
        self.assertEqual([times for times, _, here in it.tilts if here], [5])

    def test_without_heights_there_is_no_tilt_to_draw(self) -> None:
        it = self.it(example_plan(), "level/_panel.html")
        assert isinstance(it, LevelPanel)
        self.assertEqual(it.tilts, ())
        self.assertIn("Taken as level", it.ride.line)
        self.assertTrue(it.ride.missing)

    def test_an_empty_deck_bends_nothing(self) -> None:
        it = self.it(replace(example_plan(), items=()), "frame/_panel.html")
        assert isinstance(it, FramePanel)
        self.assertEqual((it.frame.line, it.frame.status), ("Nothing on it.", "ok"))


class RideInWords(SimpleTestCase):
    def said(self, ball_in: float, unit: UnitSystem = US) -> tuple[str, str]:
        plan = with_heights(ball_in)
        words = ride_words(plan, attitude(plan), unit)
        return words.line, words.advice

    def test_a_ball_too_high_is_dropped_and_one_too_low_raised(self) -> None:
        high, down = self.said(30)
        low, up = self.said(16)
        self.assertIn("high as loaded", high)
        self.assertTrue(down.startswith("Drop"), down)
        self.assertIn("low as loaded", low)
        self.assertTrue(up.startswith("Raise"), up)

    def test_in_the_units_of_whoever_looks(self) -> None:
        self.assertIn(" in ", self.said(30)[0])
        self.assertIn(" mm ", self.said(30, METRIC)[0])
        self.assertNotIn(" lb", self.said(30, METRIC)[0])


class FrameInWords(SimpleTestCase):
    def on(self, *contacts: tuple[float, float]) -> Plan:
        plan = example_plan()
        feet = tuple(Contact(ahead_m=inch(a), length_m=inch(long)) for a, long in contacts)
        return replace(plan, items=(replace(plan.items[0], contacts=feet),))

    def test_where_it_stands_on_the_floor_is_asked_for_until_it_is_known(self) -> None:
        self.assertIn("is not known", frame_words(self.on(), US).spread)
        self.assertEqual(frame_words(self.on((0, 10), (80, 10)), US).spread, "")

    def test_without_the_trailers_rating_it_cannot_say(self) -> None:
        plan = self.on((0, 10), (80, 10))
        axles = tuple(replace(axle, gawr_kg=None) for axle in plan.trailer.axles)
        bare = replace(plan, trailer=replace(plan.trailer, gvwr_kg=None, axles=axles))
        words = frame_words(bare, US)
        self.assertEqual(words.status, "unknown")
        self.assertEqual(words.share, "")

    def test_places_are_said_from_the_headboard(self) -> None:
        self.assertEqual(along_frame(inch(150), US), "12 ft 6 in behind the headboard")
        self.assertEqual(along_frame(-0.25, METRIC), "250 mm ahead of the headboard")

    def test_a_moment_in_both_systems(self) -> None:
        self.assertEqual(bending_words(lb(1000) * 0.3048 * 2, US), "2,000 lb ft")
        self.assertIn("kg m", bending_words(500, METRIC))

"""What is done at the coupling, from the outfit itself."""

from __future__ import annotations

from typing import Any

from django.test import SimpleTestCase

from hauls.hookup import hookup
from measures import UnitSystem
from planfile.draft import Draft
from planfile.tests.test_reading import example


class HookUp(SimpleTestCase):
    def lines(self, hitch: str = "ball", unit: UnitSystem = UnitSystem.US, **trailer: Any) -> str:
        """The lines of the example coupled so, one under the other."""
        document = example()
        document["hitch"] = {"type": hitch}
        document["trailer"] |= trailer
        return "\n".join(hookup(Draft.read(document), unit))

    def test_every_kind_of_coupling_has_its_own_words(self) -> None:
        for hitch, words in (
            ("ball", "hand under the ball"),
            ("gooseneck", "ball in the bed"),
            ("fifth_wheel", "Jaws round the pin"),
            ("pintle", "Eye in the pintle"),
        ):
            with self.subTest(hitch=hitch):
                said = self.lines(hitch)
                self.assertIn(words, said)
                self.assertIn("Plug in", said)
                self.assertIn("spare with air", said)
        self.assertIn("Chains crossed under the tongue, breakaway cable on", self.lines())
        self.assertNotIn("Chains", self.lines("fifth_wheel"))
        self.assertIn("Breakaway cable on", self.lines("fifth_wheel"))

    def test_the_ball_is_named_as_it_is_stamped(self) -> None:
        self.assertIn("2 5/16 in read on ball and coupler", self.lines(coupler_size=2.3125))
        self.assertIn(
            "50 mm read on ball and coupler",
            self.lines(coupler_size=1.9685, unit=UnitSystem.METRIC),
        )
        document = example()
        document["hitch"] = {"type": "ball"}
        document["trailer"].pop("coupler_size", None)
        said = hookup(Draft.read(document), UnitSystem.US)[0]
        self.assertEqual(said, "Ball and coupler of one size: read it on both")
        self.assertNotIn("read on ball", self.lines("pintle", coupler_size=2.3125))

    def test_a_trailer_without_brakes_has_no_breakaway(self) -> None:
        said = self.lines(extra={"brakes": "none"})
        self.assertIn("Chains crossed under the tongue\n", said)
        self.assertNotIn("reakaway", said)
        self.assertIn("brake lights", said)

    def test_the_tail_is_closed_as_it_is_made(self) -> None:
        for tail, words in (
            ("gate", "Gate shut and pinned"),
            ("ramps", "Ramps up and pinned"),
            ("tilts", "Deck down and locked"),
        ):
            self.assertIn(words, self.lines(extra={"drawn": {"tail": tail}}))
        self.assertNotIn("pinned\nLights", self.lines(extra={"drawn": {"tail": "open"}}))

    def test_spring_bars_are_hung(self) -> None:
        document = example()
        document["hitch"]["weight_distribution"] = {"front_axle_restoration": 0.5}
        lines = hookup(Draft.read(document), UnitSystem.US)
        self.assertIn("Spring bars hung and pinned", lines)

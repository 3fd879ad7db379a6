"""A haul against the scale."""

from __future__ import annotations

import re

from hauls.tests.yard_case import AspectCase


class AgainstTheScale(AspectCase):
    GOOD = "Orchard tractor to the Quarry Lane block"

    def test_planned_beside_read(self) -> None:
        page = self.look(self.GOOD, "scale/", steer="3920", drive="2140 kg", trailer="7,600")
        self.assertContains(page, ">as planned<", count=2)
        self.assertContains(page, "+ 479 lb")
        self.assertContains(page, "6.7 % more than planned")

    def test_a_practice_ticket_is_the_same_for_the_same_number(self) -> None:
        def ticket() -> list[str]:
            page = self.look(self.GOOD, "scale/", practice="7")
            self.assertContains(page, "practice=8")
            return re.findall(r'id="pad-\w+" name="\w+" value="([\d,]+ lb)"', page.content.decode())

        self.assertEqual(3, len(ticket()))
        self.assertEqual(ticket(), ticket())

    def test_what_is_no_mass_is_said_and_kept(self) -> None:
        page = self.look(self.GOOD, "scale/", steer="heavy")
        self.assertContains(page, "is not a mass", status_code=422)
        self.assertContains(page, 'value="heavy"', status_code=422)

"""A yard's rules of the road in its file; photos of the road stay behind."""

from __future__ import annotations

from typing import Any

from book.services.photos import attach
from book.yardfile import YardFileError
from demo.plate import plate_photo
from exchange.taking_in import load_whole
from exchange.yard_file import dump_whole
from hauls.road_rules import ListRules, RoadRules
from hauls.tests.yard_case import YardCase
from road.models import Defect
from yards.models import Yard

RULES = RoadRules(two_people=True, law="uk", lists={"load": ListRules(own=("Key back",))})


class RoadInFile(YardCase):
    def file(self, **more: Any) -> dict[str, Any]:
        """The demo yard's file with nothing in it but its rules."""
        self.yard.road = RULES.own()
        whole = dump_whole(self.yard, photos=True)
        return {key: whole[key] for key in ("format", "version", "name", "road")} | more

    def test_rules_go_out_and_come_in(self) -> None:
        defect = Defect.objects.filter(yard=self.yard).first()
        attach(defect, plate_photo(("TIRE",)), caption="tire", user=self.user)
        fresh = Yard.objects.create(name="Fresh")
        load_whole(self.file(), yard=fresh, user=self.user)
        fresh.refresh_from_db()
        self.assertEqual(RoadRules.of(fresh), RULES)

    def test_what_is_no_rule_is_said(self) -> None:
        for odd, ok in (([], False), ({"first_minutes": "x"}, True)):
            fresh = Yard.objects.create(name="Fresh")
            try:
                load_whole(self.file(road=odd), yard=fresh, user=self.user)
            except YardFileError as error:
                self.assertFalse(ok)
                self.assertIn("road: expected an object", " ".join(error.problems))
            else:
                self.assertTrue(ok)
                self.assertEqual(RoadRules.of(fresh), RoadRules())

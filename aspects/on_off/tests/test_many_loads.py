"""Many loads, and loads on top of each other: every view of such a haul is answered."""

from __future__ import annotations

import copy
from typing import Any

from django.urls import reverse

from aspects.registry import aspects
from hauls.models import Haul
from hauls.tests.yard_case import YardCase


class ManyLoads(YardCase):
    def opened(self, items: list[dict[str, Any]]) -> None:
        """Every view of the haul with these loads is answered, with a page or kindly."""
        document = copy.deepcopy(self.haul.document) | {"items": items}
        # ties run to loads that are not there now
        document.pop("securing", None)
        haul = Haul.objects.create(yard=self.yard, name="Many", document=document)
        for aspect in aspects():
            with self.subTest(view=aspect.slug):
                status = self.client.get(reverse(aspect.address, args=[haul.pk])).status_code
                self.assertIn(status, (200, 503))

    def test_forty_in_one_place(self) -> None:
        item = self.haul.document["items"][0]
        self.opened([{**copy.deepcopy(item), "id": f"i{n}"} for n in range(40)])

    def test_two_in_one_place(self) -> None:
        item = self.haul.document["items"][0]
        self.opened([copy.deepcopy(item), {**copy.deepcopy(item), "id": "other"}])

    def test_none_has_a_name(self) -> None:
        document = copy.deepcopy(self.haul.document)
        for part in (document["truck"], document["trailer"], *document["items"]):
            part.pop("name", None)
        self.haul.document = document
        self.haul.save()
        self.opened(document["items"])
        self.assertEqual(self.client.get("/").status_code, 200)

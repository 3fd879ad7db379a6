"""The demo yard under test, with its person signed in."""

from __future__ import annotations

from typing import Any

from django.test import Client, TestCase

from demo.tests.planted import plant_demo_yard
from hauls.models import Haul
from yards.models import Membership, User, Yard

CREW = "Drain crew to the Long Drain"


class YardCase(TestCase):
    """The demo yard with its person signed in, and a stranger's yard."""

    @classmethod
    def setUpTestData(cls) -> None:
        plant_demo_yard()
        cls.user = User.objects.get(username="demo")
        cls.yard = Yard.objects.get(members=cls.user)
        cls.stranger = User.objects.create_user("stranger", password="elsewhere-1")
        other = Yard.objects.create(name="Another yard")
        Membership.objects.create(yard=other, user=cls.stranger)
        cls.haul = Haul.objects.get(name="Orchard tractor to the Quarry Lane block")

    def setUp(self) -> None:
        self.client.force_login(self.user)

    def act(self, do: str, base: int | None = None, **fields: Any) -> Any:
        """One action as the page sends it, saved."""
        self.haul.refresh_from_db()
        place = self.haul.document["items"][0]["placement"]
        data = {
            "do": do,
            "commit": "1",
            "base": self.haul.revision if base is None else base,
            "count": 1,
            "selected": 0,
            "id-0": self.haul.document["items"][0]["id"],
            "reference-0": place["reference"],
            "facing-0": place.get("facing", "forward"),
            "left-0": 0,
            **fields,
        }
        return self.client.post(
            f"/hauls/{self.haul.pk}/change/", data, headers={"HX-Request": "true"}
        )

    def reference(self) -> float:
        """Where the mark is stored, in inches."""
        self.haul.refresh_from_db()
        return float(self.haul.document["items"][0]["placement"]["reference"])


class AspectCase(YardCase):
    def look(self, name: str, view: str = "", **query: Any) -> Any:
        """A view of a haul."""
        haul = Haul.objects.get(name=name)
        return self.client.get(f"/hauls/{haul.pk}/{view}", query)


class CrewCase(YardCase):
    """The haul with three loads, held as the page holds it."""

    def setUp(self) -> None:
        super().setUp()
        self.haul = Haul.objects.get(name=CREW)

    def fields(self, **more: Any) -> dict[str, Any]:
        """What the page sends of the haul as it is stored."""
        self.haul.refresh_from_db()
        items = self.haul.document["items"]
        data: dict[str, Any] = {"base": self.haul.revision, "count": len(items), "selected": 0}
        for n, item in enumerate(items):
            place = item["placement"]
            data |= {
                f"id-{n}": item["id"],
                f"reference-{n}": place["reference"],
                f"facing-{n}": place.get("facing", "forward"),
                f"left-{n}": place.get("left", 0),
            }
        return data | {"commit": "1"} | more

    def change(self, do: str, client: Client | None = None, **more: Any) -> Any:
        """One action, as the page sends it."""
        return (client or self.client).post(
            f"/hauls/{self.haul.pk}/change/",
            self.fields(do=do, **more),
            headers={"HX-Request": "true"},
        )

    def names(self) -> list[str]:
        """What is on the deck, in the list's order."""
        self.haul.refresh_from_db()
        return [item["name"] for item in self.haul.document["items"]]

    def place(self, index: int) -> dict[str, Any]:
        """Where one item is stored."""
        self.haul.refresh_from_db()
        placement: dict[str, Any] = self.haul.document["items"][index]["placement"]
        return placement

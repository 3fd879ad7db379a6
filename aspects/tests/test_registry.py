"""Views of a haul register themselves; one that is added is in every place at once."""

from __future__ import annotations

import importlib
from collections.abc import Iterator
from contextlib import contextmanager

from django.test import SimpleTestCase, modify_settings
from django.urls import NoReverseMatch, clear_url_caches, reverse

import aspects.urls
import eyebolt.urls
from aspects.registry import aspects as every_aspect
from aspects.registry import figures
from hauls.tests.yard_case import YardCase
from yards.models import User


def _addresses_anew() -> None:
    """Read the addresses of the installed apps again."""
    importlib.reload(aspects.urls)
    importlib.reload(eyebolt.urls)
    clear_url_caches()


@contextmanager
def one_more_aspect() -> Iterator[None]:
    """The application with the example installed: one line in the settings."""
    try:
        with modify_settings(INSTALLED_APPS={"append": "aspects.tests.example"}):
            _addresses_anew()
            yield
    finally:
        _addresses_anew()


class Registry(SimpleTestCase):
    def test_views_come_in_their_order_and_each_has_a_slug_of_its_own(self) -> None:
        found = every_aspect()
        row = [aspect.slug for aspect in found if not aspect.menu]
        first = ["place", "arrange", "level", "frame", "what_if"]
        self.assertEqual(first, [slug for slug in row if slug in first])
        slugs = [aspect.slug for aspect in found]
        self.assertEqual(len(slugs), len(set(slugs)))
        self.assertTrue({"scale", "gauge", "export", "figures", "outfit"} <= set(slugs))

    def test_every_page_and_every_address_to_look_at_is_there(self) -> None:
        for aspect in every_aspect():
            with self.subTest(slug=aspect.slug):
                self.assertIn("/hauls/7/", reverse(aspect.address, args=[7]))
                for look in aspect.looks:
                    self.assertIn("/hauls/7/", reverse(look, args=[7]))

    def test_figures_have_codes_of_their_own(self) -> None:
        codes = [figure.code for figure in figures()]
        self.assertEqual(len(codes), len(set(codes)))
        self.assertIn("figure.level", codes)
        self.assertIn("figure.frame", codes)


class OneMore(YardCase):
    def test_without_it_nothing_is_there(self) -> None:
        with self.assertRaises(NoReverseMatch):
            reverse("haul_straps", args=[self.haul.pk])
        self.assertNotContains(self.client.get(f"/hauls/{self.haul.pk}/"), "Straps")

    def test_it_stands_in_the_head_beside_the_planner_and_among_the_figures(self) -> None:
        with one_more_aspect():
            address = f"/hauls/{self.haul.pk}/straps/"
            planner = self.client.get(f"/hauls/{self.haul.pk}/")
            self.assertContains(
                planner, f'<a class="nav-link" href="{address}">Straps</a>', html=True
            )
            self.assertContains(planner, "1 to strap down")
            page = self.client.get(address)
            self.assertContains(
                page,
                f'<a class="nav-link active" href="{address}" aria-current="page">Straps</a>',
                html=True,
            )
            shown = self.client.get(f"/hauls/{self.haul.pk}/figures/")
            self.assertContains(shown, "1 straps")
            opened = self.act("open figure.straps")
            self.assertContains(opened, "1 straps")

    def test_its_rights_are_in_the_registry(self) -> None:
        with one_more_aspect():
            self.assertIn("haul_straps", {look for one in every_aspect() for look in one.looks})
            self.client.force_login(User.objects.get(username="demo-driver"))
            self.assertEqual(200, self.client.get(f"/hauls/{self.haul.pk}/straps/").status_code)
            self.client.force_login(self.stranger)
            self.assertEqual(404, self.client.get(f"/hauls/{self.haul.pk}/straps/").status_code)

"""What is kept of stored things: made once for the same rows, and anew for any other."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.db import models, transaction
from django.test import TestCase

from book.kinds import KINDS
from book.models import Machine, Thing, Trailer
from book.stored import made_of
from demo.tests.planted import plant_demo_yard

made: list[tuple[str, ...]] = []


def names(things: Sequence[Thing], mark: str) -> tuple[str, ...]:
    """The things' names, told every time they are made."""
    found = tuple(f"{mark} {thing.name}" for thing in things)
    made.append(found)
    return found


def renaming(things: Sequence[Thing], mark: str) -> tuple[str, ...]:
    """Somebody else changes one of them while this is made."""
    found = names(things, mark)
    Machine.objects.filter(pk=things[0].pk).update(notes=f"changed at {len(made)}")
    return found


class Kept(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        plant_demo_yard()

    def setUp(self) -> None:
        made.clear()

    def of(self, slug: str, mark: str) -> tuple[str, ...]:
        kind = KINDS[slug]
        return made_of(kind.model._default_manager.all(), kind.prefetch, names, mark)

    def test_the_same_rows_are_made_of_once(self) -> None:
        first = self.of("machines", "once")
        self.assertIs(self.of("machines", "once"), first)
        self.assertEqual(len(made), 1)
        self.assertIn("once Ridge R5 roller", first)

    def test_what_is_given_beside_them_counts_too(self) -> None:
        self.assertNotEqual(self.of("machines", "b"), self.of("machines", "c"))

    def test_a_row_less_on_any_path_has_it_made_anew(self) -> None:
        """Some of the tables are of several kinds of thing: one row at least is of these."""
        for slug, kind in KINDS.items():
            for path in kind.prefetch:
                model: Any = kind.model
                for step in path.split("__"):
                    model = model._meta.get_field(step).related_model
                    with self.subTest(kind=slug, path=path, step=step):
                        self.assertTrue(any(self.seen(slug, row) for row in model.objects.all()))

    def seen(self, slug: str, row: models.Model) -> bool:
        """Whether the list is made anew once that row alone is gone."""
        self.of(slug, "seen")
        before = len(made)
        with transaction.atomic():
            type(row)._default_manager.filter(pk=row.pk)._raw_delete("default")  # type: ignore[attr-defined]
            self.of(slug, "seen")
            transaction.set_rollback(True)
        return len(made) > before

    def test_nothing_found_is_nothing_made_of_nothing(self) -> None:
        none = Trailer.objects.filter(name="no such trailer")
        self.assertEqual(made_of(none, KINDS["trailers"].prefetch, names, "a"), ())

    def test_what_changes_while_it_is_made_is_shown_and_not_kept(self) -> None:
        machines, paths = Machine.objects.all(), KINDS["machines"].prefetch
        first = made_of(machines, paths, renaming, "d")
        self.assertEqual(len(first), machines.count())
        made_of(machines, paths, renaming, "d")
        self.assertEqual(len(made), 2)

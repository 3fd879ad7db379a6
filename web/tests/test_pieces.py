"""Pieces that a page has already are named, never lost and never mistaken."""

from __future__ import annotations

from django.template import Context, Template
from django.test import RequestFactory, SimpleTestCase

from web.pieces import HEADER, HELD, LEAST, MOST_NAMED, held, marked, name_of

LONG = "<p>" + "figure " * LEAST + "</p>"


class Pieces(SimpleTestCase):
    def test_a_piece_is_named_once_the_page_has_it(self) -> None:
        name = name_of(LONG)
        first = marked(LONG, name, frozenset())
        self.assertEqual(first, f"<!--+{name}-->{LONG}<!--/{name}-->")
        self.assertEqual(marked(LONG, name, {name}), f"<!--={name}-->")
        self.assertEqual(marked("<p>7 lb</p>", name, {name}), "<p>7 lb</p>")

    def test_another_figure_is_another_piece(self) -> None:
        names = {name_of(LONG.replace("figure", f"{n} lb", 1)) for n in range(500)}
        self.assertEqual(len(names), 500)
        self.assertEqual({len(name) for name in names}, {12})

    def test_what_a_page_says_it_has(self) -> None:
        ask = RequestFactory()
        self.assertIsNone(held(ask.get("/")))
        names = [name_of(str(n)) for n in range(MOST_NAMED + 5)]
        for said, expected in (
            ("", frozenset()),
            (",".join(names[:3]), frozenset(names[:3])),
            ("²,<script>,short", frozenset()),
            (",".join(names), frozenset(names[:MOST_NAMED])),
        ):
            self.assertEqual(held(ask.get("/", headers={HEADER: said})), expected)

    def test_a_page_that_says_nothing_gets_no_marks(self) -> None:
        template = Template('{% load web %}{% kept "web/_pages.html" it %}')
        plain = template.render(Context({"it": 1}))
        self.assertNotIn("<!--", plain)
        self.assertEqual(template.render(Context({"it": 1, HELD: None})), plain)

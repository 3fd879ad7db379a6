"""What templates are given: options of a list, kept partials, room's styles, figures."""

from __future__ import annotations

from django.template import Context, Template
from django.test import SimpleTestCase

from measures import Quantity
from web.templatetags.web import mark, options, room_styles, svg


class Options(SimpleTestCase):
    def test_the_one_that_is_chosen_is_marked_and_no_other(self) -> None:
        written = options([("a", "First"), ("ab", "Second"), (3, "Third")], "ab")
        self.assertHTMLEqual(
            written,
            '<option value="a">First</option><option value="ab" selected>Second</option>'
            '<option value="3">Third</option>',
        )

    def test_a_number_is_chosen_by_its_digits_and_nothing_by_the_empty_entry(self) -> None:
        self.assertIn('value="3" selected', options([(3, "Third"), (33, "More")], 3))
        self.assertIn('value="" selected', options([("", "None"), ("x", "X")], None))
        self.assertNotIn("selected", options([("x", "X")], "y"))

    def test_groups_keep_their_headings(self) -> None:
        written = options([("Machines", [("m1", "Loader")]), ("Bulk", [("b1", "Gravel")])], "b1")
        self.assertHTMLEqual(
            written,
            '<optgroup label="Machines"><option value="m1">Loader</option></optgroup>'
            '<optgroup label="Bulk"><option value="b1" selected>Gravel</option></optgroup>',
        )

    def test_what_people_typed_is_escaped_wherever_it_stands(self) -> None:
        nasty = '"><script>alert(1)</script>'
        written = options([(nasty, nasty), (nasty, [(nasty, nasty)])], nasty)
        self.assertNotIn("<script", written)
        self.assertEqual(written.count(" selected"), 1)

    def test_the_same_list_with_another_choice_is_not_the_one_kept(self) -> None:
        choices = [("a", "A"), ("b", "B")]
        self.assertIn('value="a" selected', options(choices, "a"))
        self.assertNotIn('value="a" selected', options(choices, "b"))


class Shown(SimpleTestCase):
    def test_every_status_has_its_shape(self) -> None:
        for status in ("over", "near", "ok", "unknown"):
            self.assertIn(f"#sign-{status}", mark(status))

    def test_a_place_in_a_drawing_is_written_to_a_tenth(self) -> None:
        self.assertEqual(svg(12.3456), "12.3")
        self.assertEqual(svg(-0.04), "-0.0")

    def test_a_figure_is_shown_in_the_units_of_whoever_looks(self) -> None:
        page = Template("{% load web %}{% given weight %}|{% given nothing %}")
        shown = page.render(Context({"weight": Quantity.parse("1 t"), "nothing": None}))
        self.assertEqual(shown, "2,205 lb (1 t)|")

    def test_rooms_bring_their_styles_and_those_without_are_not_asked_for(self) -> None:
        links = room_styles()
        self.assertIn("place/place.css", links)
        self.assertIn("weighing/weighing.css", links)
        self.assertNotIn("exchange/exchange.css", links)

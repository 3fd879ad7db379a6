"""One measure typed on a drawing: saved by itself, judged as on the page."""

from __future__ import annotations

from typing import Any

from book.history import changes_of
from book.models import Hitch, Machine, Trailer, Truck
from hauls.tests.yard_case import YardCase


class OnTheDrawing(YardCase):
    def send(self, slug: str, pk: int, box: str, typed: str, version: int | None = None) -> Any:
        """Type a length on a thing's drawing."""
        model: Any = {"trailers": Trailer, "machines": Machine, "trucks": Truck}[slug]
        if version is None:
            version = model.objects.get(pk=pk).version
        return self.client.post(
            f"/book/{slug}/{pk}/measure/", {"box": box, "typed": typed, "version": version}
        )

    def test_a_length_is_saved_as_it_was_typed_and_drawn_anew(self) -> None:
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        answer = self.send("trailers", trailer.pk, "deck_start", "4 ft 6")
        self.assertContains(answer, "4 ft 6 in to deck")
        self.assertEqual(answer["Eyebolt-Entered"], "54 in")
        self.assertEqual(answer["Eyebolt-Version"], str(trailer.version + 1))
        trailer.refresh_from_db()
        self.assertEqual(str(trailer.deck_start), "54 in")
        self.assertEqual(changes_of(trailer)[0].why, "typed on the drawing")

    def test_axles_and_hitches_have_boxes_of_their_own(self) -> None:
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        self.assertEqual(200, self.send("trailers", trailer.pk, "axle-2", "218").status_code)
        self.assertEqual(str(trailer.axles.all()[1].position), "218 in")
        hitch = Hitch.objects.filter(truck__name="Work truck 3")[0]
        self.send("trucks", hitch.truck_id, f"hitch-{hitch.pk}", "52")
        hitch.refresh_from_db()
        self.assertEqual(str(hitch.offset), "52 in")

    def test_taken_away_it_is_asked_for_and_estimated(self) -> None:
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        answer = self.send("trailers", trailer.pk, "deck_start", "")
        self.assertContains(answer, "? to deck")
        self.assertContains(answer, "dim-asked")
        truck = Truck.objects.get(name="Work truck 3")
        self.assertContains(self.send("trucks", truck.pk, "wheelbase", ""), "wheelbase ?")

    def test_what_is_wrong_is_said_and_nothing_changes(self) -> None:
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        machine = Machine.objects.get(name="Harrow 48 tractor with loader")
        for slug, pk, box, typed, status, words in (
            ("trailers", trailer.pk, "deck_start", "a bit", 422, "is not a length"),
            ("trailers", trailer.pk, "deck_length", "-5 ft", 422, "more than zero"),
            ("trailers", trailer.pk, "deck_length", "0", 422, "more than zero"),
            ("machines", machine.pk, "balance_ahead", "40 ft", 422, "outside the machine"),
            ("trailers", trailer.pk, "name", "4", 404, "not in the book any more"),
            ("trailers", trailer.pk, "axle-9", "4", 404, "not in the book any more"),
            ("trailers", trailer.pk, "axle-²", "4", 404, "not in the book any more"),
            ("trailers", trailer.pk, "hitch-1", "4", 404, "not in the book any more"),
            ("trucks", Truck.objects.all()[0].pk, "hitch-99999", "4", 404, "not in the book"),
        ):
            with self.subTest(box=box, typed=typed):
                answer = self.send(slug, pk, box, typed)
                self.assertContains(answer, words, status_code=status)
        before = trailer.deck_length
        trailer.refresh_from_db()
        self.assertEqual(trailer.deck_length, before)

    def test_on_an_old_page_nothing_is_overwritten(self) -> None:
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        answer = self.send("trailers", trailer.pk, "deck_start", "60", version=0)
        self.assertContains(answer, "Somebody saved this trailer", status_code=409)
        trailer.refresh_from_db()
        self.assertEqual(str(trailer.deck_start), "52 in")

    def test_what_parts_make_of_a_machine_is_not_typed(self) -> None:
        machine = Machine.objects.get(name="Harrow 60 backhoe tractor")
        page = self.client.get(f"/book/machines/{machine.pk}/")
        self.assertNotContains(page, 'data-measure="balance_ahead"')

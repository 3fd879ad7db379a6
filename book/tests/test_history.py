"""Who changed what, when and why; hauls that the book has moved on from; photos."""

from __future__ import annotations

import io

from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from book.history import changes_of, latest_changes
from book.models import HitchPart, Machine, Photo, Trailer, Truck
from book.services.photos import MAX_PHOTOS, PhotoError, encoded
from book.tests.pages import HITCH, MACHINE, TRUCK, formset
from hauls.models import Haul
from hauls.news import books_news
from hauls.tests.yard_case import YardCase
from measures import Quantity, UnitSystem


class History(YardCase):
    def test_who_when_before_after_and_why(self) -> None:
        machine = Machine.objects.get(name="Trench plough")
        data = MACHINE | {
            "name": "Trench plough",
            "shape": "implement",
            "mass": "1,540",
            "mass_known": "weighed",
            "version": machine.version,
            "why": "stood on the mill's scale",
        }
        self.client.post(f"/book/machines/{machine.pk}/", data)
        newest, first = changes_of(machine)
        self.assertEqual((newest.who, newest.why), ("Ida Fern", "stood on the mill's scale"))
        found = {d.what: (d.before, d.after) for d in newest.differences}
        self.assertEqual(found["mass"], ("1,450 lb", "1,540 lb"))
        self.assertEqual(found["mass is"], ("Brochure", "Weighed"))
        self.assertTrue(first.first)
        self.assertEqual(first.why, "Read off the plates and stickers")
        page = self.client.get(f"/book/machines/{machine.pk}/history/")
        for words in ("1,450 lb", "1,540 lb", "Ida Fern", "stood on the mill"):
            self.assertContains(page, words)
        self.assertContains(self.client.get("/book/"), "stood on the mill")

    def test_inner_lists_are_part_of_the_history(self) -> None:
        truck = Truck.objects.get(name="Old half-ton")
        load = truck.loads.get()
        rows = formset(
            "loads",
            {
                "id": load.pk,
                "name": "Driver",
                "mass": "182",
                "ahead_of_rear_axle": "62",
                "mass_tolerance": "10",
            },
            {"name": "Dog", "mass": "31 kg", "ahead_of_rear_axle": "50"},
            initial=1,
        )
        data = TRUCK | rows | {"name": truck.name, "version": truck.version}
        self.client.post(f"/book/trucks/{truck.pk}/", data)
        found = {d.what: (d.before, d.after) for d in changes_of(truck)[0].differences}
        self.assertEqual(found["Driver: mass"], ("170 lb", "182 lb"))
        self.assertEqual(found["Dog: mass"], ("", "68 lb (31 kg)"))

    def test_a_hitch_and_its_parts_are_part_of_the_trucks_history(self) -> None:
        truck = Truck.objects.get(name="Old half-ton")
        ball = HitchPart.objects.get(name="Big ball")
        data = HITCH | {"parts_on": [ball.pk], "version": truck.version, "why": "front mount"}
        self.client.post(f"/book/trucks/{truck.pk}/hitches/new/", data)
        newest = changes_of(truck)[0]
        found = {d.what: (d.before, d.after) for d in newest.differences}
        self.assertEqual(newest.why, "front mount")
        self.assertEqual(found["Front ball: behind the rear axle"], ("", "−3 ft 10 in"))
        self.assertIn(("", "Big ball"), found.values())
        hitch = truck.hitches.get(name="Front ball")
        truck.refresh_from_db()
        self.client.post(
            f"/book/trucks/{truck.pk}/hitches/{hitch.pk}/remove/", {"version": truck.version}
        )
        found = {d.what: (d.before, d.after) for d in changes_of(truck)[0].differences}
        self.assertEqual(found["Front ball: behind the rear axle"], ("−3 ft 10 in", ""))

    def test_saving_without_a_change_adds_no_line(self) -> None:
        before = len(changes_of(Machine.objects.get(name="Ridge R5 roller")))
        self.assertEqual(before, 2)
        machine = Machine.objects.get(name="Ridge R5 roller")
        data = {
            "name": machine.name,
            "shape": machine.shape,
            "built": "axles",
            "running": "wheels",
            "mass_known": "guess",
            "balance_known": "guess",
            "mark_name": "rear axle",
            "front_axle_mass": "2,620 lb",
            "rear_axle_mass": "1,960 lb",
            "reach_front": "88 in",
            "reach_rear": "26 in",
            "width": "54 in",
            "height": "92 in",
            "wheelbase": "68 in",
            "balance_height": "28 in",
            "track_width": "40 in",
            "tire_width": "54 in",
            "belly_clearance": "12 in",
            "tail_clearance": "22 in",
            "nose_clearance": "14 in",
            "version": machine.version,
            **formset("parts"),
            **formset("points"),
        }
        answer = self.client.post(f"/book/machines/{machine.pk}/", data)
        self.assertEqual(answer.status_code, 302)
        self.assertEqual(len(changes_of(machine)), before)

    def test_the_demo_yards_roller_was_weighed_again_and_why(self) -> None:
        newest, first = changes_of(Machine.objects.get(name="Ridge R5 roller"))
        self.assertIn("water in the drum", newest.why)
        self.assertGreater((newest.when - first.when).days, 100)

    def test_a_removal_is_recorded_with_who_and_when(self) -> None:
        plough = Machine.objects.get(name="Trench plough")
        self.client.post(f"/book/machines/{plough.pk}/remove/", {"version": plough.version})
        self.assertFalse(Machine.objects.filter(pk=plough.pk).exists())
        revision, _ = latest_changes(self.yard, 1)[0]
        self.assertEqual(revision.comment, "Trench plough removed from the book")
        self.assertEqual(revision.user, self.user)
        self.assertContains(self.client.get("/book/"), "Trench plough removed from the book")

    def test_changes_of_another_yard_are_not_listed(self) -> None:
        self.assertTrue(latest_changes(self.yard, 5))
        other = self.stranger.yards.get()
        self.assertEqual(latest_changes(other, 5), [])


class MovedOn(YardCase):
    def test_a_haul_keeps_its_numbers_and_says_what_the_book_says_now(self) -> None:
        haul = Haul.objects.get(name__startswith="Roller to the Ash Lane")
        news = books_news(haul, UnitSystem.US)
        self.assertEqual([n.name for n in news], ["Ridge R5 roller"])
        self.assertIn("mass 4,340 lb → 4,580 lb", news[0].changes)
        page = self.client.get(f"/hauls/{haul.pk}/")
        self.assertContains(page, "The book has moved on for Ridge R5 roller")
        self.assertContains(page, "mass 4,340 lb → 4,580 lb")
        self.client.post(f"/hauls/{haul.pk}/book/", {"base": haul.revision})
        haul.refresh_from_db()
        self.assertEqual(haul.document["items"][0]["mass"], 4580)
        self.assertEqual(books_news(haul, UnitSystem.US), [])

    def test_figures_of_every_section_are_told_in_the_persons_units(self) -> None:
        Truck.objects.filter(name="Work truck 3").update(payload=Quantity.parse("1200 kg"))
        Trailer.objects.filter(name="20 ft equipment trailer").update(
            gvwr=None, deck_length=Quantity.parse("6 m")
        )
        HitchPart.objects.filter(name="Big ball").update(ball_size=Quantity.parse("2 in"))
        news = {n.name: n.changes for n in books_news(self.haul, UnitSystem.METRIC)}
        self.assertIn("payload 1,225 kg → 1,200 kg", news["Work truck 3"])
        self.assertIn("GVWR 4,536 kg → not known", news["20 ft equipment trailer"])
        self.assertIn("deck length 6,096 mm → 6,000 mm", news["20 ft equipment trailer"])
        self.assertIn("ball diameter 59 mm → 51 mm", news["hitch"])

    def test_parts_and_axles_that_come_and_go(self) -> None:
        trailer = Trailer.objects.get(name="20 ft equipment trailer")
        trailer.axles.last().delete()
        truck = Truck.objects.get(name="Work truck 3")
        truck.loads.create(
            name="Dog", mass=Quantity.parse("70 lb"), ahead_of_rear_axle=Quantity.parse("60 in")
        )
        told = " ".join(c for n in books_news(self.haul, UnitSystem.US) for c in n.changes)
        self.assertIn("axle 2 is gone", told)
        self.assertIn("Dog is new", told)

    def test_a_thing_that_lacks_figures_by_now(self) -> None:
        Machine.objects.filter(name="Harrow 48 tractor with loader").update(mass=None)
        self.assertContains(self.client.get(f"/hauls/{self.haul.pk}/"), "lacks mass by now")
        answer = self.client.post(
            f"/hauls/{self.haul.pk}/book/", {"base": self.haul.revision}, follow=True
        )
        self.assertContains(answer, "Enter it in the book, then plan again")

    def test_nothing_moved_nothing_said(self) -> None:
        self.assertEqual(books_news(self.haul, UnitSystem.US), [])
        self.assertNotContains(self.client.get(f"/hauls/{self.haul.pk}/"), "has moved on")


def picture(kind: str = "JPEG", size: tuple[int, int] = (400, 300), **more: object) -> bytes:
    """A picture file."""
    out = io.BytesIO()
    Image.new("RGB", size, "#888").save(out, kind, **more)
    return out.getvalue()


class Photos(YardCase):
    def send(self, data: bytes, name: str = "plate.jpg") -> str:
        """What the page says after a photo was sent."""
        thing = Machine.objects.get(name="Trench plough")
        file = SimpleUploadedFile(name, data)
        answer = self.client.post(
            f"/book/machines/{thing.pk}/photos/", {"file": file, "caption": "Plate"}, follow=True
        )
        return str(answer.content.decode())

    def test_a_photo_is_encoded_anew_without_place_and_time(self) -> None:
        exif = Image.Exif()
        exif[0x010F], exif[0x9003] = "Some camera", "2026:11:01 10:00:00"
        exif.get_ifd(0x8825)[1] = "N"
        self.assertIn("The photo is kept", self.send(picture(exif=exif, size=(4000, 3000))))
        kept = Photo.objects.get(caption="Plate")
        answer = self.client.get(f"/book/photos/{kept.pk}/")
        self.assertEqual(answer["Content-Type"], "image/jpeg")
        data = b"".join(answer.streaming_content)
        opened = Image.open(io.BytesIO(data))
        self.assertEqual(opened.size, (1800, 1350))
        self.assertEqual(dict(opened.getexif()), {})
        self.assertNotIn(b"Some camera", data)
        self.client.post(f"/book/photos/{kept.pk}/remove/")
        self.assertFalse(Photo.objects.filter(pk=kept.pk).exists())
        self.assertEqual(self.client.get(f"/book/photos/{kept.pk}/").status_code, 404)

    def test_turned_by_its_own_note_it_stands_upright(self) -> None:
        exif = Image.Exif()
        exif[0x0112] = 6
        data = picture(exif=exif, size=(400, 300))
        made = Image.open(io.BytesIO(encoded(SimpleUploadedFile("p.jpg", data))))
        self.assertEqual(made.size, (300, 400))

    def test_see_through_pictures_come_out_on_white(self) -> None:
        out = io.BytesIO()
        Image.new("RGBA", (9, 9), (0, 0, 0, 0)).save(out, "PNG")
        made = Image.open(io.BytesIO(encoded(SimpleUploadedFile("p.png", out.getvalue()))))
        self.assertEqual(made.getpixel((4, 4)), (255, 255, 255))

    def test_what_is_no_photo_is_told_and_nothing_kept(self) -> None:
        before = Photo.objects.count()
        for data, words in (
            (b"GVWR 10000", "That is not a JPEG, PNG or WebP picture"),
            (b"", "The submitted file is empty"),
            (picture("GIF"), "That is not a JPEG, PNG or WebP picture"),
            (picture()[:200], "damaged or cut off"),
            (picture("PNG", size=(9000, 7000)), "no more than 25 million"),
            (b"\xff\xd8" + b"0" * 12_000_001, "larger than 12 MB"),
        ):
            with self.subTest(words=words):
                self.assertIn(words, self.send(data))
        self.assertEqual(Photo.objects.count(), before)

    def test_a_thing_keeps_so_many_and_no_more(self) -> None:
        thing = Machine.objects.get(name="Trench plough")
        for n in range(MAX_PHOTOS):
            Photo.objects.create(yard=self.yard, thing=thing, file=f"photos/{n}.jpg")
        self.assertIn(f"has {MAX_PHOTOS} photos", self.send(picture()))

    def test_another_yard_sees_no_photo(self) -> None:
        kept = Photo.objects.first()
        assert kept is not None
        self.client.force_login(self.stranger)
        self.assertEqual(self.client.get(f"/book/photos/{kept.pk}/").status_code, 404)
        self.assertEqual(self.client.post(f"/book/photos/{kept.pk}/remove/").status_code, 404)

    def test_a_file_that_is_gone_is_not_found(self) -> None:
        lost = Photo.objects.create(
            yard=self.yard, thing=Machine.objects.first(), file="photos/lost.jpg"
        )
        self.assertEqual(self.client.get(f"/book/photos/{lost.pk}/").status_code, 404)

    def test_the_error_is_the_bases_own(self) -> None:
        with self.assertRaises(PhotoError):
            encoded(SimpleUploadedFile("x.jpg", b"no"))

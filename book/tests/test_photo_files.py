"""Files of photos: there before their rows, gone after them, swept where nobody names them."""

from __future__ import annotations

import io
from datetime import timedelta
from unittest.mock import patch

from django.core.files.base import ContentFile
from django.core.files.storage import InMemoryStorage, default_storage
from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import call_command
from PIL import Image

from book.models import Machine, Photo
from book.services.photos import (
    FOLDER,
    LONGEST_SIDE,
    MAX_SIDE,
    PhotoError,
    attach,
    detach,
    encoded,
    sweep,
)
from hauls.tests.yard_case import YardCase

NOW = timedelta(0)


def picture(size: tuple[int, int], kind: str = "JPEG", mode: str = "RGB") -> SimpleUploadedFile:
    out = io.BytesIO()
    Image.new(mode, size).save(out, kind)
    return SimpleUploadedFile("p", out.getvalue())


class PhotoFiles(YardCase):
    def setUp(self) -> None:
        super().setUp()
        self.machine = Machine.objects.filter(yard=self.yard).first()

    def kept(self) -> Photo:
        return attach(self.machine, picture((30, 20)), caption="", user=self.user)

    def test_the_row_goes_first_and_then_the_file(self) -> None:
        photo = self.kept()
        name = photo.file.name
        with self.captureOnCommitCallbacks() as later:
            detach(photo)
            self.assertTrue(default_storage.exists(name))
            self.assertFalse(Photo.objects.filter(file=name).exists())
        for callback in later:
            callback()
        self.assertFalse(default_storage.exists(name))

    def test_a_file_that_cannot_be_removed_is_swept_later(self) -> None:
        photo = self.kept()
        name = photo.file.name
        with (
            patch.object(InMemoryStorage, "delete", side_effect=OSError(30, "read-only")),
            self.assertLogs("book.services.photos", "WARNING"),
            self.captureOnCommitCallbacks(execute=True),
        ):
            detach(photo)
        self.assertTrue(default_storage.exists(name))
        self.assertGreaterEqual(sweep(older=NOW), 1)
        self.assertFalse(default_storage.exists(name))

    def test_a_full_disk_leaves_nothing_and_says_so(self) -> None:
        before = Photo.objects.count()
        with (
            patch.object(InMemoryStorage, "save", side_effect=OSError(28, "full")),
            self.assertRaisesMessage(PhotoError, "no room for it"),
        ):
            self.kept()
        self.assertEqual(Photo.objects.count(), before)

    def test_a_row_that_cannot_be_stored_leaves_no_file(self) -> None:
        files = set(default_storage.listdir(FOLDER)[1])
        with patch.object(Photo, "save", side_effect=RuntimeError), self.assertRaises(RuntimeError):
            self.kept()
        self.assertEqual(set(default_storage.listdir(FOLDER)[1]), files)

    def test_the_sweep_leaves_what_is_named_and_what_is_new(self) -> None:
        photo = self.kept()
        orphan = default_storage.save(f"{FOLDER}/orphan.jpg", ContentFile(b"x"))
        call_command("sweep", stdout=io.StringIO())
        self.assertTrue(default_storage.exists(orphan))
        sweep(older=NOW)
        self.assertFalse(default_storage.exists(orphan))
        self.assertTrue(default_storage.exists(photo.file.name))


class Pictures(YardCase):
    def test_a_side_and_an_area_have_a_bound(self) -> None:
        for size in ((MAX_SIDE + 1, 10), (10, MAX_SIDE + 1), (5100, 5000)):
            with self.subTest(size=size), self.assertRaisesMessage(PhotoError, "million in all"):
                encoded(picture(size, "PNG", "1"))

    def test_a_large_jpeg_is_decoded_small(self) -> None:
        whole: list[tuple[int, int]] = []
        plain = Image.Image.thumbnail

        def thumbnail(self: Image.Image, size: tuple[int, int]) -> None:
            whole.append(self.size)
            plain(self, size)

        with patch("PIL.Image.Image.thumbnail", thumbnail):
            data = encoded(picture((5000, 4000)))
        self.assertLessEqual(max(max(size) for size in whole), 2 * LONGEST_SIDE)
        with Image.open(io.BytesIO(data)) as made:
            self.assertEqual(max(made.size), LONGEST_SIDE)

    def test_every_kind_of_pixels(self) -> None:
        for kind, mode in (
            ("PNG", "P"), ("PNG", "1"), ("PNG", "LA"), ("PNG", "I;16"), ("JPEG", "CMYK"),
            ("WEBP", "RGBA"), ("JPEG", "L"),
        ):  # fmt: skip
            with self.subTest(kind=kind, mode=mode):
                data = encoded(picture((2400, 30), kind, mode))
                with Image.open(io.BytesIO(data)) as made:
                    self.assertEqual((made.mode, made.size[0]), ("RGB", LONGEST_SIDE))

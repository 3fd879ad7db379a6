"""Photos of plates: checked, encoded anew, stripped of everything but the picture."""

from __future__ import annotations

import io
import logging
import uuid
import warnings
from collections.abc import Collection
from datetime import timedelta
from typing import Any, Final, Protocol

from django.core.files.base import ContentFile
from django.core.files.storage import Storage, default_storage
from django.core.files.uploadedfile import UploadedFile
from django.db import transaction
from django.utils import timezone
from PIL import Image, ImageOps, UnidentifiedImageError

from book.models import Photo
from yards.models import User, Yard

MAX_BYTES: Final = 12_000_000
MAX_PIXELS: Final = 25_000_000
MAX_SIDE: Final = 10_000
"""Pixels of a picture, and of either side: phones take fewer, and more would fill the memory."""

LONGEST_SIDE: Final = 1800
"""Pixels of the longer side that are kept; a stamped figure reads well at that."""

QUALITY: Final = 82
FORMATS: Final = ("JPEG", "PNG", "WEBP")
SMOOTH: Final = ("RGB", "RGBA", "L", "CMYK", "YCbCr")
"""Kinds of pixels that can be made smaller without becoming ragged."""

MAX_PHOTOS: Final = 12

FOLDER: Final = "photos"
"""Where the files lie."""

NEW: Final = timedelta(hours=1)

log = logging.getLogger(__name__)


class PhotoError(ValueError):
    """A file that is no photo that can be kept; the message is for the person."""


def refuse_size(picture: Image.Image) -> None:
    """Nothing, where a picture is small enough to be decoded.

    Raises:
        PhotoError: it has too many pixels.
    """
    if picture.width * picture.height > MAX_PIXELS or max(picture.size) > MAX_SIDE:
        raise PhotoError(
            f"The picture is {picture.width} by {picture.height} pixels. Take it at no more than "
            f"{MAX_PIXELS // 1_000_000} million in all and {MAX_SIDE:,} a side."
        )


def encoded(file: UploadedFile) -> bytes:
    """The picture as a JPEG without metadata, upright, at most 1,800 pixels long.

    Raises:
        PhotoError: too large, not a picture, or one that cannot be read to its end.
    """
    if file.size is None or file.size > MAX_BYTES:
        raise PhotoError(
            f"The file is larger than {MAX_BYTES // 1_000_000} MB. Take the photo at a lower "
            "resolution, or crop it to the plate."
        )
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("error", Image.DecompressionBombWarning)
            with Image.open(file, formats=FORMATS) as opened:
                refuse_size(opened)
                # a JPEG is decoded at a half, a quarter or an eighth where that is enough
                opened.draft("RGB", (LONGEST_SIDE, LONGEST_SIDE))
                picture = opened if opened.mode in SMOOTH else opened.convert("RGBA")
                # made small first: whatever comes then takes little memory
                picture.thumbnail((LONGEST_SIDE, LONGEST_SIDE))
                upright = ImageOps.exif_transpose(picture)
                # a new picture: nothing of the file but its pixels comes along
                clean = Image.new("RGB", upright.size, "white")
                rgba = upright.convert("RGBA")
                clean.paste(rgba, mask=rgba.getchannel("A"))
    except PhotoError:
        raise
    except UnidentifiedImageError:
        raise PhotoError(
            "That is not a JPEG, PNG or WebP picture. Take a photo, or save it as one of these."
        ) from None
    except (
        Image.DecompressionBombError,
        Image.DecompressionBombWarning,
        OSError,
        SyntaxError,
        ValueError,
    ):
        raise PhotoError(
            "The picture is damaged or cut off. Send it again, or take a new one."
        ) from None
    out = io.BytesIO()
    clean.save(out, "JPEG", quality=QUALITY, optimize=True)
    return out.getvalue()


class Photographed(Protocol):
    """What photos are kept with."""

    @property
    def yard(self) -> Yard:
        """Whose it is."""

    @property
    def name(self) -> str:
        """What it is called."""

    @property
    def photos(self) -> Any:
        """Its photos, as a relation."""


def attach(thing: Photographed, file: UploadedFile, *, caption: str, user: User) -> Photo:
    """Keep a photo with a thing or a ticket.

    Raises:
        PhotoError: the file cannot be kept, or there are enough.
    """
    refuse_more(thing)
    return attach_encoded(thing, encoded(file), caption=caption, user=user)


def refuse_more(thing: Photographed) -> None:
    """Nothing, while the thing may have one more.

    Raises:
        PhotoError: there are enough.
    """
    if thing.photos.count() >= MAX_PHOTOS:
        raise PhotoError(f"{thing.name} has {MAX_PHOTOS} photos. Remove one first.")


def attach_encoded(thing: Photographed, data: bytes, *, caption: str, user: User) -> Photo:
    """The same of a picture that :func:`encoded` made already.

    The file is there before its row: whatever ends the server in between leaves a file without
    a row, which is swept, and never a row without a file.

    Raises:
        PhotoError: there is no room for it.
    """
    photo = Photo(yard=thing.yard, thing=thing, caption=caption, added_by=user)
    try:
        photo.file.save(f"{uuid.uuid4().hex}.jpg", ContentFile(data), save=False)
    except OSError as error:
        raise PhotoError(
            "The server has no room for it. Ask whoever runs it, then send it again."
        ) from error
    try:
        photo.save()
    except Exception:
        photo.file.delete(save=False)
        raise
    return photo


def detach(photo: Photo) -> None:
    """Remove a photo: its row, and once that is certain, its file."""
    storage, name = photo.file.storage, photo.file.name
    photo.delete()
    transaction.on_commit(lambda: _let_go(storage, name))


def _let_go(storage: Storage, name: str | None) -> None:
    try:
        if name:
            storage.delete(name)
    except OSError:
        # the row is gone; the file is swept another time
        log.warning("the file of a removed photo is still there: %s", name)


def sweep(*, older: timedelta = NEW, kept: Collection[str] = ()) -> int:
    """Remove files of photos that no row names; how many. Files of the last hour stay: their
    rows may be on the way. So do those ``kept`` for what can be brought back.

    Raises:
        OSError: the folder cannot be read.
    """
    storage = default_storage
    if not storage.exists(FOLDER):
        return 0
    known = {*Photo.objects.values_list("file", flat=True), *kept}
    gone = 0
    for file in storage.listdir(FOLDER)[1]:
        name = f"{FOLDER}/{file}"
        if name not in known and storage.get_modified_time(name) < timezone.now() - older:
            storage.delete(name)
            gone += 1
    return gone

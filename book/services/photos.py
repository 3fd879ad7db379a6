"""Photos of plates: checked, encoded anew, stripped of everything but the picture."""

from __future__ import annotations

import io
import uuid
import warnings
from typing import Final

from django.core.files.base import ContentFile
from django.core.files.uploadedfile import UploadedFile
from PIL import Image, ImageOps, UnidentifiedImageError

from book.models import Photo, Thing, Ticket
from yards.models import User

MAX_BYTES: Final = 12_000_000
MAX_PIXELS: Final = 60_000_000
LONGEST_SIDE: Final = 1800
"""Pixels of the longer side that are kept; a stamped figure reads well at that."""

QUALITY: Final = 82
FORMATS: Final = ("JPEG", "PNG", "WEBP")
MAX_PHOTOS: Final = 12


class PhotoError(ValueError):
    """A file that is no photo that can be kept; the message is for the person."""


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
                if opened.width * opened.height > MAX_PIXELS:
                    raise PhotoError(
                        "The picture has more than 60 million pixels. Take it at a lower "
                        "resolution."
                    )
                opened.load()
                upright = ImageOps.exif_transpose(opened)
                upright.thumbnail((LONGEST_SIDE, LONGEST_SIDE))
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


def attach(thing: Thing | Ticket, file: UploadedFile, *, caption: str, user: User) -> Photo:
    """Keep a photo with a thing or a ticket.

    Raises:
        PhotoError: the file cannot be kept, or there are enough.
    """
    if thing.photos.count() >= MAX_PHOTOS:
        raise PhotoError(f"{thing.name} has {MAX_PHOTOS} photos. Remove one first.")
    data = encoded(file)
    photo = Photo(yard=thing.yard, thing=thing, caption=caption, added_by=user)
    photo.file.save(f"{uuid.uuid4().hex}.jpg", ContentFile(data), save=True)
    return photo


def detach(photo: Photo) -> None:
    """Remove a photo and its file."""
    photo.file.delete(save=False)
    photo.delete()

"""Photos of plates for the demo yard: drawn, since the yard is invented."""

from __future__ import annotations

import io
from collections.abc import Sequence

from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image, ImageDraw, ImageFont

SIZE = (900, 560)


def plate_photo(lines: Sequence[str]) -> SimpleUploadedFile:
    """A stamped plate on a painted panel."""
    picture = Image.new("RGB", SIZE, "#6d7468")
    draw = ImageDraw.Draw(picture)
    draw.rounded_rectangle(
        (90, 70, 810, 490), radius=18, fill="#c9c6bb", outline="#8d897c", width=4
    )
    for x, y in ((122, 102), (778, 102), (122, 458), (778, 458)):
        draw.ellipse((x - 12, y - 12, x + 12, y + 12), fill="#96928a", outline="#6f6b62", width=2)
    font = ImageFont.load_default(size=54)
    for n, line in enumerate(lines):
        y = 130 + n * 78
        draw.text((152, y + 2), line, font=font, fill="#e8e5da")
        draw.text((150, y), line, font=font, fill="#33312c")
    out = io.BytesIO()
    picture.save(out, "JPEG", quality=88)
    return SimpleUploadedFile("plate.jpg", out.getvalue(), content_type="image/jpeg")

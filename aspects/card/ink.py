"""The card's lines in black on white, for a printer that knows nothing of styles."""

from __future__ import annotations

import xml.etree.ElementTree as ET
from typing import Final

from django.template.loader import render_to_string

from aspects.card.picture import CardPicture

SVG: Final = "{http://www.w3.org/2000/svg}"

LINE: Final = {"fill": "none", "stroke": "#000000"}
SOLID: Final = {"fill": "#ffffff", "stroke": "#000000", "stroke-width": "1.6"}

INK: Final = {
    "tyre": {"fill": "#555555", "stroke": "#000000", "stroke-width": "1.4"},
    "hub": {"fill": "#ffffff", "stroke": "#000000", "stroke-width": "1"},
    "frame": {**SOLID, "fill": "#dddddd"},
    "mach": {**SOLID, "fill": "#eeeeee"},
    "arm": {**SOLID, "fill": "#dddddd"},
    "ball": {"fill": "#000000", "stroke": "none"},
    "post": {**LINE, "stroke-width": "4"},
    "gate": {**LINE, "stroke-width": "2"},
    "ground": {**LINE, "stroke-width": "1.4"},
    "card-drop": {**LINE, "stroke-width": "1", "stroke-dasharray": "4 3"},
    "card-dimension": {**LINE, "stroke-width": "1.4"},
}
"""By the style of a shape; any other is white with a black outline."""


def inked(picture: CardPicture) -> str:
    """The picture as an SVG file that stands by itself, without its words."""
    lines = render_to_string("card/_lines.html", {"it": picture})
    root = ET.fromstring(  # noqa: S314  our own template's
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="{picture.view_box}">{lines}</svg>'
    )
    for shape in root.iter():
        if shape.tag in (f"{SVG}path", f"{SVG}circle", f"{SVG}rect"):
            for name, value in INK.get(shape.get("class", ""), SOLID).items():
                shape.set(name, value)
    ET.register_namespace("", SVG.strip("{}"))
    return ET.tostring(root, encoding="unicode")

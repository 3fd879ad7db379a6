"""Reading what people type: ``7,000``, ``3.5 t``, ``12' 6 1/2"``, ``12-6.5``, ``3,82 m``."""

from __future__ import annotations

import re
from decimal import Decimal, InvalidOperation
from fractions import Fraction
from typing import Final

from measures.quantity import DENSITY_UNITS, Quantity, could_be_two

LARGEST = Decimal(10) ** 9

_MASS_WORDS = {
    "lb": "lb",
    "lbs": "lb",
    "pound": "lb",
    "pounds": "lb",
    "#": "lb",
    "kg": "kg",
    "kgs": "kg",
    "kilo": "kg",
    "kilos": "kg",
    "t": "t",
    "tonne": "t",
    "tonnes": "t",
    "ton": "ton",
    "tons": "ton",
}
_LENGTH_WORDS = {
    "in": "in",
    "ins": "in",
    "inch": "in",
    "inches": "in",
    '"': "in",
    "ft": "ft",
    "foot": "ft",
    "feet": "ft",
    "'": "ft",
    "mm": "mm",
    "cm": "cm",
    "m": "m",
    "metre": "m",
    "metres": "m",
    "meter": "m",
    "meters": "m",
}
_VOLUME_WORDS = {
    "gal": "gal",
    "gals": "gal",
    "gallon": "gal",
    "gallons": "gal",
    "l": "L",
    "litre": "L",
    "litres": "L",
    "liter": "L",
    "liters": "L",
    "m3": "m3",
    "m³": "m3",
    "cubic metres": "m3",
    "cubic meters": "m3",
    "yd3": "yd3",
    "yd³": "yd3",
    "yd": "yd3",
    "yard": "yd3",
    "yards": "yd3",
    "cubic yard": "yd3",
    "cubic yards": "yd3",
    "ft3": "ft3",
    "ft³": "ft3",
    "cubic feet": "ft3",
    "cubic foot": "ft3",
}
_ROAD_WORDS = {
    "distance": {
        **dict.fromkeys(("mi", "mile", "miles"), "mi"),
        **dict.fromkeys(("km", "kms", "kilometre", "kilometres", "kilometer", "kilometers"), "km"),
    },
    "speed": {
        **dict.fromkeys(("mph", "mi/h", "miles an hour"), "mph"),
        **dict.fromkeys(("km/h", "kph", "kmh", "kilometres an hour"), "km/h"),
    },
    "pressure": {
        **dict.fromkeys(("psi", "lb/in2", "pounds"), "psi"),
        **dict.fromkeys(("kpa",), "kPa"),
        **dict.fromkeys(("bar", "bars"), "bar"),
    },
}
_PER = re.compile(r"(?P<mass>[a-z#]+)\s*(?:/|per)\s*(?P<volume>[a-z]+(?: [a-z]+)?[3³]?)")
_WITH_WORDS = re.compile(
    r"(?P<number>\d[\d,. ]*(?:\s+\d+/\d+)?|\d+/\d+|\.\d+)\s*(?P<unit>[a-z#].*)?"
)
_NUMBER = r"\d[\d,. ]*(?:\s+\d+/\d+)?|\d+/\d+|\.\d+"
_SINGLE = re.compile(rf"(?P<number>{_NUMBER})\s*(?P<unit>[a-z#]+\.?|'|\")?")
_FEET_INCHES = re.compile(
    r"(?P<feet>\d[\d,]*)\s*(?P<by>'|-|(?:ft|foot|feet)(?![a-z])\.?)\s*-?\s*"
    r"(?P<inches>\d+(?:[.,]\d+)?(?:\s+\d+/\d+)?|\d+/\d+|\.\d+)\s*(?:\"|(?:in|ins|inch|inches)\b\.?)?"
)
_PRIMES = str.maketrans(
    {"′": "'", "’": "'", "‘": "'", "″": '"', "”": '"', "“": '"', "−": "-", "–": "-"}
)


US_UNITS: Final = (
    *("lb", "in", "ft", "ton", "gal", "yd3", "ft3", "lb/yd3", "lb/ft3", "lb/gal"),
    *("mi", "mph", "psi"),
)

MASS_LIKE: Final = ("7,000, 7,000 lb or 3.5 tons", "3,200, 3,200 kg or 3.2 t")
LENGTH_LIKE: Final = (
    "12 ft 6 1/2 in, 12' 6.5\", 12-6.5 or 150.5 in",
    "3,820, 3,820 mm or 3.82 m",
)
VOLUME_LIKE: Final = ("82 gal or 4 yd3", "310 L or 3 m3")
DENSITY_LIKE: Final = ("2,700 lb/yd3 or 10.7 lb/gal", "1,600 kg/m3 or 1.6 t/m3")
DISTANCE_LIKE: Final = ("42 or 42 mi", "68 or 68 km")
SPEED_LIKE: Final = ("55 or 55 mph", "80 or 80 km/h")
PRESSURE_LIKE: Final = ("50 or 50 psi", "350, 350 kPa or 3.5 bar")
"""How each kind is written, in the units of whoever types."""


def _like(examples: tuple[str, str], unit: str) -> str:
    return examples[0 if unit in US_UNITS else 1]


def _ask_which(text: str, number: str, unit: str) -> None:
    """Refuse a number that two people would read differently.

    ``7.000`` is seven to some and seven thousand to others; ``1,250 t`` likewise.

    Raises:
        ReadingError: it could be either; the message offers both.
    """
    if not could_be_two(number.strip(), unit):
        return
    whole, rest = re.split("[.,]", number.strip())
    thousands = f"{whole}{rest}"
    part = rest.rstrip("0")
    decimal = f"{whole}.{part}" if part else whole
    raise ReadingError(
        f"“{text.strip()[:40]}” could be {decimal} {unit} or {thousands} {unit}. Write one of them."
    )


class ReadingError(ValueError):
    """Text that is not a mass or a length; the message says what would be."""


def read_mass(text: str, default_unit: str) -> Quantity:
    """A mass such as ``7,000``, ``7000 lb`` or ``3.5 t``; a bare number is in ``default_unit``.

    Raises:
        ReadingError: the text is not a mass.
    """
    cleaned = _clean(text)
    match = _SINGLE.fullmatch(cleaned)
    unit = _MASS_WORDS.get((match["unit"] or default_unit).rstrip(".")) if match else None
    if match is None or unit is None:
        raise ReadingError(
            f"“{text.strip()[:40]}” is not a mass. Write it like {_like(MASS_LIKE, default_unit)}."
        )
    _ask_which(text, match["number"], unit)
    return _bounded(_number(match["number"]), unit, text)


def read_length(text: str, default_unit: str) -> Quantity:
    """A length the way a tape is read; a bare number is in ``default_unit``.

    Feet and inches together become inches; ``12-6.5`` is 12 ft 6.5 in. A minus in front
    makes all of it negative.

    Raises:
        ReadingError: the text is not a length.
    """
    cleaned = _clean(text)
    negative = cleaned.startswith("-")
    if negative:
        cleaned = cleaned[1:].lstrip()
    quantity: Quantity | None = None
    if match := _FEET_INCHES.fullmatch(cleaned):
        if match["by"] == "-" and "/" in match["inches"] and " " not in match["inches"].strip():
            feet, part = match["feet"], match["inches"].strip()
            raise ReadingError(
                f"“{text.strip()[:40]}” could be {feet} ft {part} in or {feet} {part} in. Write "
                "one of them."
            )
        inches = _number(match["inches"])
        if inches < 12:
            quantity = _bounded(12 * _number(match["feet"]) + inches, "in", text)
        else:
            raise ReadingError(
                f"“{text.strip()[:40]}” has {match['inches'].strip()} in beside the feet. "
                "Inches beside feet go up to 11 and a fraction."
            )
    elif match := _SINGLE.fullmatch(cleaned):
        unit = _LENGTH_WORDS.get((match["unit"] or default_unit).rstrip("."))
        if unit is not None:
            _ask_which(text, match["number"], unit)
            quantity = _bounded(_number(match["number"]), unit, text)
    if quantity is None:
        raise ReadingError(
            f"“{text.strip()[:40]}” is not a length. "
            f"Write it like {_like(LENGTH_LIKE, default_unit)}."
        )
    return Quantity(-quantity.value, quantity.unit) if negative else quantity


def read_volume(text: str, default_unit: str) -> Quantity:
    """A volume such as ``82 gal``, ``310 L`` or ``4 1/2 yd3``.

    Raises:
        ReadingError: the text is not a volume.
    """
    match = _WITH_WORDS.fullmatch(_clean(text))
    unit = _VOLUME_WORDS.get((match["unit"] or default_unit).rstrip(".").lower()) if match else None
    if match is None or unit is None:
        raise ReadingError(
            f"“{text.strip()[:40]}” is not a volume. "
            f"Write it like {_like(VOLUME_LIKE, default_unit)}."
        )
    _ask_which(text, match["number"], unit)
    return _bounded(_number(match["number"]), unit, text)


def read_density(text: str, default_unit: str) -> Quantity:
    """A density such as ``2,700 lb/yd3``, ``10.7 lb/gal`` or ``1.6 t/m3``.

    Raises:
        ReadingError: the text is not a density.
    """
    match = _WITH_WORDS.fullmatch(_clean(text))
    unit: str | None = None
    if match is not None:
        per = _PER.fullmatch((match["unit"] or default_unit).strip().lower())
        mass = _MASS_WORDS.get(per["mass"]) if per else None
        volume = _VOLUME_WORDS.get(per["volume"]) if per else None
        unit = f"{mass}/{volume}"
    if match is None or unit not in DENSITY_UNITS:
        raise ReadingError(
            f"“{text.strip()[:40]}” is not a density. "
            f"Write it like {_like(DENSITY_LIKE, default_unit)}."
        )
    _ask_which(text, match["number"], unit)
    return _bounded(_number(match["number"]), unit, text)


def read_distance(text: str, default_unit: str) -> Quantity:
    """A way that is driven: ``42``, ``42 mi``, ``68 km``.

    Raises:
        ReadingError: the text is not one.
    """
    return _read_road(text, default_unit, "distance", DISTANCE_LIKE)


def read_speed(text: str, default_unit: str) -> Quantity:
    """A speed: ``55``, ``55 mph``, ``80 km/h``.

    Raises:
        ReadingError: the text is not one.
    """
    return _read_road(text, default_unit, "speed", SPEED_LIKE)


def read_pressure(text: str, default_unit: str) -> Quantity:
    """A pressure: ``50``, ``50 psi``, ``3.5 bar``.

    Raises:
        ReadingError: the text is not one.
    """
    return _read_road(text, default_unit, "pressure", PRESSURE_LIKE)


def _read_road(text: str, default_unit: str, kind: str, like: tuple[str, str]) -> Quantity:
    match = _WITH_WORDS.fullmatch(_clean(text))
    words = (match["unit"] or default_unit).strip().rstrip(".").lower() if match else ""
    unit = _ROAD_WORDS[kind].get(words)
    if match is None or unit is None:
        raise ReadingError(
            f"“{text.strip()[:40]}” is not a {kind}. Write it like {_like(like, default_unit)}."
        )
    _ask_which(text, match["number"], unit)
    return _bounded(_number(match["number"]), unit, text)


READERS: Final = {
    "mass": read_mass,
    "length": read_length,
    "volume": read_volume,
    "density": read_density,
    "distance": read_distance,
    "speed": read_speed,
    "pressure": read_pressure,
}
"""How each kind of quantity is read: text and the unit of a bare number."""


def _clean(text: str) -> str:
    return re.sub(r"\s+", " ", text.translate(_PRIMES).replace("\u00a0", " ")).strip().lower()


def _number(text: str) -> Decimal:
    """``7,000``, ``7 000``, ``3,82``, ``6 1/2``, ``1/4``: exact."""
    whole, _, fraction = text.strip().rpartition(" ") if "/" in text else (text.strip(), "", "")
    total = Fraction(0)
    if fraction:
        top, bottom = fraction.split("/")
        if int(bottom) == 0:
            raise ReadingError(f"“{fraction}” divides by zero.")
        total += Fraction(int(top), int(bottom))
    if whole:
        total += Fraction(_plain(whole))
    return Decimal(total.numerator) / Decimal(total.denominator)


def _plain(text: str) -> Decimal:
    """A number with thousands set apart by commas or blanks, or a decimal comma."""
    if re.fullmatch(r"\d{1,3}(?:,\d{3})+(?:\.\d*)?", text):
        text = text.replace(",", "")
    elif re.fullmatch(r"\d{1,3}(?: \d{3})+(?:[.,]\d*)?", text):
        text = text.replace(" ", "").replace(",", ".")
    elif re.fullmatch(r"\d{1,3}(?:\.\d{3})+,\d+", text):
        text = text.replace(".", "").replace(",", ".")
    elif re.fullmatch(r"\d+,\d+", text):
        text = text.replace(",", ".")
    try:
        return Decimal(text)
    except InvalidOperation:
        raise ReadingError(f"“{text}” is not a number. Write it like 7,000 or 12.5.") from None


def _bounded(number: Decimal, unit: str, text: str) -> Quantity:
    if abs(number) > LARGEST:
        raise ReadingError(f"“{text.strip()[:40]}” is larger than anything that is hauled.")
    return Quantity(number, unit)

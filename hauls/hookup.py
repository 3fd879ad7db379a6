"""What has to be done at the coupling and looked at round the outfit, from this outfit."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Final

from book.tires import LOOK_AT_YEARS, OLD_YEARS
from hauls.premove import Chore
from measures.writing import UnitSystem, write_length
from mechanics.hitch import HitchType
from mechanics.plan import Plan
from planfile.draft import Draft
from wording.phrases import within

COUPLED: Final = {
    HitchType.BALL: "Latch closed and pinned; hand under the ball: no gap",
    HitchType.GOOSENECK: "Coupler latched and pinned on the ball in the bed, ball locked down",
    HitchType.FIFTH_WHEEL: "Jaws round the pin, handle in and pinned, no gap above the plate",
    HitchType.PINTLE: "Eye in the pintle, jaw closed, latched and pinned",
}
"""How each kind of coupling is looked over. Common practice, no source."""

BALLS: Final = (HitchType.BALL, HitchType.GOOSENECK)
"""Hitches that are a ball with a coupler over it."""

CHAINED: Final = {
    HitchType.BALL: "Chains crossed under the tongue",
    HitchType.GOOSENECK: "Chains to both rings of the bed",
    HitchType.PINTLE: "Chains crossed under the tongue",
}
"""Where the chains go; a pin that locks in jaws has none as a rule."""

TAILS: Final = {
    "gate": "Gate shut and pinned",
    "ramps": "Ramps up and pinned",
    "tilts": "Deck down and locked",
}
"""By how the tail is closed."""

TOGETHER: Final = (
    ("ball",),
    ("latch",),
    ("chains", "breakaway"),
    ("bars",),
    ("plug", "jack", "chocks"),
    ("tail",),
    ("lights", "bite"),
    ("tires", "nuts", "spare"),
)
"""Lines that stand as one on a card, by their keys."""


@dataclass(frozen=True, kw_only=True, slots=True)
class OfTheTrailer:
    """What a walk round a trailer goes by that its plan does not hold.

    ``pressure`` in words, ``years`` since its oldest tire was made, ``bed`` whether a dump bed is
    latched. What is not known is empty, or ``None``.
    """

    pressure: str = ""
    years: float | None = None
    bed: bool = False


def hookup(draft: Draft, unit: UnitSystem) -> tuple[str, ...]:
    """Both lists as a card has them: short, in the order of a walk from the ball back."""
    lines = (*hookup_chores(draft, unit), *round_chores(draft, OfTheTrailer()))
    by_key = {line.key: line.words for line in lines}
    return tuple(
        ", ".join((found[0], *(within(words) for words in found[1:])))
        for keys in TOGETHER
        if (found := [by_key[key] for key in keys if key in by_key])
    )


def hookup_chores(draft: Draft, unit: UnitSystem) -> tuple[Chore, ...]:
    """What is done at the coupling, from the ball back."""
    return tuple(_coupling(draft, draft.plan, unit))


def _coupling(draft: Draft, plan: Plan, unit: UnitSystem) -> Iterator[Chore]:
    kind = plan.hitch.type
    yield from _ball(plan, unit)
    yield Chore(key="latch", words=COUPLED[kind])
    if kind in CHAINED:
        yield Chore(key="chains", words=CHAINED[kind])
    if not draft.unbraked:
        yield Chore(
            key="breakaway",
            words="Breakaway cable on",
            detail="to the truck, not to the ball mount",
        )
    if plan.hitch.weight_distribution is not None:
        yield Chore(key="bars", words="Spring bars hung and pinned")
    yield Chore(key="plug", words="Plug in")
    yield Chore(key="jack", words="Jack all the way up")
    yield Chore(key="chocks", words="Chocks away")


def _ball(plan: Plan, unit: UnitSystem) -> Iterator[Chore]:
    """The size that has to be read on ball and coupler, where they meet on a ball."""
    if plan.hitch.type not in BALLS:
        return
    size = plan.trailer.coupler_size_m or plan.hitch.ball_diameter_m
    words = (
        "Ball and coupler of one size: read it on both"
        if size is None
        else f"{write_length(size, unit, step=16)} read on ball and coupler"
    )
    yield Chore(key="ball", words=words)


def round_chores(draft: Draft, trailer: OfTheTrailer) -> tuple[Chore, ...]:
    """What is looked at on a walk round, before it moves."""
    return tuple(_round(draft, trailer))


def _round(draft: Draft, trailer: OfTheTrailer) -> Iterator[Chore]:
    tail = TAILS.get(draft.look.tail)
    if tail:
        yield Chore(key="tail", words=tail)
    if trailer.bed:
        yield Chore(key="bed", words="Bed down and latched")
    yield Chore(key="lights", words="Lights on both sides, brake lights")
    if not draft.unbraked:
        yield Chore(key="bite", words="Brakes bite", detail="by the manual lever, at walking pace")
    plate = f"{trailer.pressure} on the plate" if trailer.pressure else "pressure not in the book"
    yield Chore(key="tires", words="Tires cold against the plate", detail=plate)
    yield Chore(key="tread", words="Tread and sidewalls", detail="no cord, bulge, cut or nail")
    yield from _age(trailer.years)
    yield Chore(key="nuts", words="Wheel nuts")
    yield Chore(key="hubs", words="Hubs", detail="no grease thrown, no play")
    yield Chore(key="spare", words="Spare with air", detail=trailer.pressure)
    yield Chore(key="mirrors", words="Mirrors", detail="both sides seen past the load")


def _age(years: float | None) -> Iterator[Chore]:
    if years is None:
        detail = "week and year on the sidewall; not in the book"
    elif years >= OLD_YEARS:
        detail = f"{int(years)} years old: not to be driven on from {OLD_YEARS}"
    elif years >= LOOK_AT_YEARS:
        detail = f"{int(years)} years old: look for fine cracks all round"
    else:
        return
    yield Chore(key="age", words="Age of the tires", detail=detail)


@dataclass(frozen=True, kw_only=True, slots=True)
class Weather:
    """A kind of weather: its key, its name, and what it adds to a walk round, by key."""

    key: str
    name: str
    adds: Sequence[Chore]


WEATHERS: Final = (
    Weather(key="dry", name="dry", adds=()),
    Weather(
        key="wet",
        name="rain",
        adds=(
            Chore(key="wiped", words="Lights, plate and mirrors wiped"),
            Chore(key="mud", words="Mud off deck, ramps and wheels"),
        ),
    ),
    Weather(
        key="frost",
        name="frost or snow",
        adds=(
            Chore(key="ice", words="Ice and snow off the load, the deck and the roof"),
            Chore(key="frozen", words="Every wheel turns", detail="brakes not frozen on"),
        ),
    ),
    Weather(
        key="wind",
        name="strong wind",
        adds=(Chore(key="lift", words="Nothing left to lift", detail="covers, lids, canopies"),),
    ),
    Weather(
        key="heat",
        name="heat",
        adds=(Chore(key="shade", words="Pressure read before the sun was on the tires"),),
    ),
    Weather(
        key="dark",
        name="dark",
        adds=(Chore(key="markers", words="Marker lights and reflectors", detail="all round"),),
    ),
)
"""What weather adds. Common practice, no source."""

NAMES: Final = {
    "ball": "Size of ball and coupler",
    "latch": "Latch and pin, hand under the ball",
    "chains": "Chains",
    "breakaway": "Breakaway cable",
    "bars": "Spring bars, where there are some",
    "plug": "Plug",
    "jack": "Jack",
    "chocks": "Chocks",
    "tail": "Gate, ramps or tilting deck",
    "bed": "Bed of a dump trailer",
    "lights": "Lights",
    "bite": "Brakes bite",
    "tires": "Pressure of the tires",
    "tread": "Tread and sidewalls",
    "age": "Age of the tires, where there is something to say",
    "nuts": "Wheel nuts",
    "hubs": "Hubs",
    "spare": "Spare",
    "mirrors": "Mirrors",
}
"""What each standard line is about, for whoever edits the lists."""

COUPLING: Final = ("ball", "latch", "chains", "breakaway", "bars", "plug", "jack", "chocks")
"""Lines of the hook-up, by their keys; all others are of the walk round."""

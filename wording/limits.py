"""Every limit's words: one entry for each family of codes.

A limit is named in a list, in the middle of a sentence, as what ends a window, as what
goes wrong past that end, as passed, and opened into its arithmetic. All of it stands in
:data:`WORDS`; whoever adds a limit adds one entry, and a test says if it is forgotten.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import lru_cache
from typing import Final

from measures.writing import (
    UnitSystem,
    write_excess,
    write_inches,
    write_length,
    write_mass,
    write_percent,
    write_share_against,
)
from mechanics.checks import Check
from mechanics.codes import Code, Family, read_code
from mechanics.limits import Sense
from mechanics.plan import Plan
from mechanics.report import Report
from wording import limit_arithmetic as sums
from wording.arithmetic import Why
from wording.phrases import Names, begun, tongue_word, within

END_LETTERS: Final = 25
"""Letters of a neighbour's name that have room beside the end of a window."""

_NO_NAMES: Final[Names] = {}


@dataclass(frozen=True, kw_only=True)
class Telling:
    """What words may depend on: what the hitch load is called, the school's range, the items'
    names, the units, what closes the deck, and how far a load may reach past its ends."""

    unit: UnitSystem
    names: Names = field(default_factory=dict)
    word: str = "tongue"
    least: float = 0.0
    greatest: float = 0.0
    tail: str = ""
    front_m: float = 0.0
    rear_m: float = 0.0

    @classmethod
    def of(cls, plan: Plan, unit: UnitSystem, names: Names = _NO_NAMES, tail: str = "") -> Telling:
        """What is to be known of a plan."""
        least, greatest = plan.share_range
        word = tongue_word(plan.hitch.type)
        deck = plan.trailer.deck
        return cls(
            unit=unit,
            names=names,
            word=word,
            least=least,
            greatest=greatest,
            tail=tail,
            front_m=deck.front_overhang_m,
            rear_m=deck.rear_overhang_m,
        )


Fault = Callable[[Check, Telling], str]
Arithmetic = Callable[[Check, Report, UnitSystem], Why]


def _excess(check: Check, telling: Telling) -> str:
    """By how much a rating is passed."""
    by = write_excess(check.margin or 0.0, telling.unit)
    return f"{label(check.code, unit=telling.unit)} is passed by {by}."


def _share_fault(check: Check, telling: Telling) -> str:
    limit = check.limit or 0.0
    verb = "lifts:" if check.value < 0 else "carries"
    bound = "least" if check.sense is Sense.AT_LEAST else "most"
    share = write_share_against(check.value, limit)
    return f"The {telling.word} {verb} {share}, and {limit * 100:g} % is the {bound}."


def _off_the_ground(check: Check, telling: Telling) -> str:
    return f"The {telling.word} lifts the truck's {check.about.which} axle off the ground."


def _wrong_ball(check: Check, telling: Telling) -> str:
    sizes = (write_length(m, telling.unit, step=16) for m in (check.value, check.limit or 0.0))
    ball, coupler = sizes
    return f"The ball is {ball} and the coupler is made for {coupler}: it can jump off."


def _past(where: str, may_m: float, check: Check, telling: Telling) -> str:
    """How far past an end, or past what the trailer lets reach over it."""
    by = write_inches(-(check.margin or 0.0), telling.unit)
    return f"It reaches {by} further {where} than it may." if may_m else f"It reaches {by} {where}."


def _past_front(check: Check, telling: Telling) -> str:
    return _past("past the front of the deck", telling.front_m, check, telling)


def _past_tail(check: Check, telling: Telling) -> str:
    into = "into the gate" if telling.tail == "gate" else "past the tail of the deck"
    return _past(into, telling.rear_m, check, telling)


def _overlap(check: Check, telling: Telling) -> str:
    other = telling.names.get(check.about.which, "its neighbour")
    here = telling.names.get(check.item or "", "It")
    return f"{here} and {other} overlap by {write_inches(-(check.margin or 0.0), telling.unit)}."


@dataclass(frozen=True, kw_only=True)
class LimitWords:
    """All that is said of one family of limits.

    In the texts ``{which}`` is the axle's number, the end, the side, the part or the
    neighbour, ``{Which}`` the same with a capital; ``{label}`` is the limit's name in the
    middle of a sentence and ``{Label}`` as it stands; ``{word}`` is what the load on the hitch
    is called, ``{least}`` and ``{greatest}`` the school's range in percent.
    """

    label: str
    arithmetic: Arithmetic
    metric_label: str = ""
    in_sentence: str = "{label}"
    end: str = "{label} full"
    beyond: str = "{Label} is passed"
    passed: str = "{Label} is passed"
    fault: Fault = _excess


WORDS: Final[Mapping[Family, LimitWords]] = {
    Family.TRAILER_GVWR: LimitWords(
        label="Trailer GVWR", metric_label="Trailer MAM", arithmetic=sums.trailer_plate
    ),
    Family.TRAILER_AXLE: LimitWords(label="Trailer axle {which}", arithmetic=sums.trailer_axle),
    Family.TRAILER_TIRES: LimitWords(
        label="Trailer axle {which} tires", arithmetic=sums.trailer_axle
    ),
    Family.TRAILER_SIDE: LimitWords(label="Trailer {which} side", arithmetic=sums.trailer_side),
    Family.TRUCK_AXLE: LimitWords(label="Truck {which} axle", arithmetic=sums.truck_axle),
    Family.TRUCK_TIRES: LimitWords(label="Truck {which} tires", arithmetic=sums.truck_axle),
    Family.TRUCK_LIGHT: LimitWords(
        label="Truck {which} axle on the ground",
        end="truck {which} axle lifts off",
        beyond="the truck's {which} axle lifts off",
        passed="the truck's {which} axle is off the ground",
        fault=_off_the_ground,
        arithmetic=sums.truck_axle,
    ),
    Family.TRUCK_GVWR: LimitWords(
        label="Truck GVWR", metric_label="Truck MAM", arithmetic=sums.truck_plate
    ),
    Family.TRUCK_PAYLOAD: LimitWords(label="Truck payload", arithmetic=sums.payload),
    Family.TOW_RATING: LimitWords(
        label="Tow rating", metric_label="Towing limit", arithmetic=sums.towed
    ),
    Family.TRUCK_TONGUE: LimitWords(
        label="Truck tongue limit", metric_label="Nose weight limit", arithmetic=sums.tongue
    ),
    Family.GCWR: LimitWords(
        label="Combination GCWR", metric_label="Gross train mass", arithmetic=sums.combination
    ),
    Family.BALL_SIZE: LimitWords(
        label="Ball in coupler", fault=_wrong_ball, arithmetic=sums.ball_size
    ),
    Family.PART_TRAILER: LimitWords(
        label="{Which}, trailer",
        in_sentence="the {which}'s trailer rating",
        arithmetic=sums.stamped,
    ),
    Family.PART_TONGUE: LimitWords(
        label="{Which}, tongue",
        in_sentence="the {which}'s tongue rating",
        arithmetic=sums.tongue,
    ),
    Family.SHARE_MIN: LimitWords(
        label="Least share",
        end="{word} falls to {least} %",
        beyond="the {word} falls below {least} %",
        passed="the share is below the least",
        fault=_share_fault,
        arithmetic=sums.share,
    ),
    Family.SHARE_MAX: LimitWords(
        label="Greatest share",
        end="{word} reaches {greatest} %",
        beyond="the {word} passes {greatest} %",
        passed="the share is above the most",
        fault=_share_fault,
        arithmetic=sums.share,
    ),
    Family.DECK_FRONT: LimitWords(
        label="Front of the deck",
        end="front of the deck",
        beyond="it runs past the front of the deck",
        fault=_past_front,
        arithmetic=sums.on_the_tape,
    ),
    Family.DECK_REAR: LimitWords(
        label="Tail of the deck",
        end="tail of the deck",
        beyond="it runs past the tail of the deck",
        fault=_past_tail,
        arithmetic=sums.on_the_tape,
    ),
    Family.DECK_WIDTH: LimitWords(label="Deck width", arithmetic=sums.on_the_tape),
    Family.DECK_LENGTH: LimitWords(label="Length of the deck", arithmetic=sums.on_the_tape),
    Family.CONCENTRATION: LimitWords(label="Load on one length", arithmetic=sums.concentration),
    Family.NEIGHBOUR: LimitWords(
        label="Clear of {which}",
        end="{Label}",
        beyond="it meets {which}",
        fault=_overlap,
        arithmetic=sums.on_the_tape,
    ),
}
"""The words of every family."""


def _which(about: Code, names: Names) -> str:
    return names.get(about.which, about.which) if about.family is Family.NEIGHBOUR else about.which


def label(code: str, names: Names = _NO_NAMES, unit: UnitSystem = UnitSystem.US) -> str:
    """The short name of a limit, as plates in those units call it.

    Raises:
        ValueError: no limit has such a code.
    """
    about = read_code(code)
    return _label(about.family, _which(about, names), unit)


@lru_cache(maxsize=2048)
def _label(family: Family, which: str, unit: UnitSystem) -> str:
    words = WORDS[family]
    metric = unit is UnitSystem.METRIC and words.metric_label
    return (metric or words.label).format(which=which, Which=begun(which))


def _told(text: str, code: str, telling: Telling) -> str:
    about = read_code(code)
    name = label(code, telling.names, telling.unit)
    return text.format(
        which=_which(about, telling.names),
        label=within(name),
        Label=name,
        word=telling.word,
        least=f"{telling.least * 100:g}",
        greatest=f"{telling.greatest * 100:g}",
    )


def in_sentence(code: str, unit: UnitSystem) -> str:
    """A limit in the middle of a sentence: ``the ball's trailer rating``."""
    about = read_code(code)
    words = WORDS[about.family].in_sentence
    return words.format(which=within(about.which), label=within(label(code, unit=unit)))


def end_words(code: str, telling: Telling) -> str:
    """What happens at the end of a window that a limit makes, short enough to stand beside it."""
    words = _told(WORDS[read_code(code).family].end, code, telling)
    if read_code(code).family is Family.NEIGHBOUR and len(words) > END_LETTERS:
        return f"{words[: END_LETTERS - 1].rstrip()}…"
    return words


def beyond_words(code: str, telling: Telling) -> str:
    """What goes wrong past the end that a limit makes."""
    return _told(WORDS[read_code(code).family].beyond, code, telling)


def passed_words(code: str, telling: Telling) -> str:
    """A limit that is passed, in the middle of a sentence."""
    return _told(WORDS[read_code(code).family].passed, code, telling)


def fault(check: Check, telling: Telling) -> str:
    """A limit that is passed, as a sentence."""
    return WORDS[check.about.family].fault(check, telling)


def why(check: Check, report: Report, unit: UnitSystem) -> Why:
    """The arithmetic of one limit with the numbers of this haul."""
    return WORDS[check.about.family].arithmetic(check, report, unit)


def light_words(check: Check, unit: UnitSystem) -> str:
    """What a truck axle has on the ground, beside what it carries unhitched."""
    unhitched = check.unhitched_kg
    part = write_percent(check.value / unhitched) if unhitched > 0 else "a part"
    return (
        f"truck {check.about.which} axle carries {write_mass(check.value, unit)}, {part} of what "
        "it carries unhitched."
    )

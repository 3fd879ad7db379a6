"""Words of getting on and off: the ground, what holds, and each finding along the way."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

from measures.writing import (
    UnitSystem,
    write_excess,
    write_inches,
    write_length,
    write_mass,
    write_number,
    write_percent,
)
from mechanics.checks import Status
from mechanics.loading import Finding, Subject, Way
from mechanics.plan import Plan
from mechanics.site import Site, Surface
from mechanics.tail import RampKind
from mechanics.truck import Drive
from wording.phrases import begun, some_inches, tongue_word

SURFACES: Final = {
    Surface.CONCRETE_DRY: "dry concrete",
    Surface.CONCRETE_WET: "wet concrete",
    Surface.GRAVEL: "gravel",
    Surface.GRASS_DRY: "dry grass",
    Surface.GRASS_WET: "wet grass",
    Surface.ICE: "ice",
}
"""What the outfit stands on."""


def holds_words(plan: Plan) -> str:
    """What holds the outfit: ``parking brake and chocks at axles 1 and 2``."""
    site = plan.site
    found = []
    if site.parking_brake:
        found.append("parking brake")
    if site.park_four_wheel and plan.truck.drive is not Drive.TWO_WHEEL:
        found.append("four-wheel drive in park")
    held = site.held_trailer_axles
    if held:
        which = " and ".join(str(number) for number in held)
        found.append(f"chocks at axle{'s' if len(held) > 1 else ''} {which}")
    if not found:
        return "nothing"
    if len(found) == 1:
        return f"{found[0]} alone" if found[0] == "parking brake" else found[0]
    return f"{', '.join(found[:-1])} and {found[-1]}"


def slope_words(site: Site) -> str:
    """``on the level``, or ``on a slope of 3 in 100, truck uphill``."""
    if abs(site.slope) < LEVEL:
        return "on the level"
    way = "uphill" if site.slope > 0 else "downhill"
    rise = write_number(abs(site.slope) * 100, 1).removesuffix(".0")
    return f"on a slope of {rise} in 100, truck {way}"


LEVEL: Final = 0.0005
"""A slope smaller than this is level: half a thousandth, less than any level shows."""


def ground_words(site: Site) -> str:
    """``on wet grass``, with the slope where there is one."""
    ground = f"on {SURFACES[site.surface]}"
    if site.friction is not None:
        ground = f"with a grip of {write_number(site.friction, 2)}"
    if abs(site.slope) < LEVEL:
        return ground
    return f"{ground} and {slope_words(site).removeprefix('on ')}"


RAMPS: Final = {
    RampKind.RAMPS: "Ramps of {}",
    RampKind.GATE: "A gate of {}",
    RampKind.TILT: "A deck that tilts {} ahead of its end",
}
"""What a machine is driven on over."""


def way_up_words(plan: Plan, unit: UnitSystem) -> str:
    """What it is driven on over and what stands at the tail, as the book has them; empty where
    that is not known."""
    trailer = plan.trailer
    if trailer.ramp is None:
        return ""
    found = [RAMPS[trailer.ramp.kind].format(write_length(trailer.ramp.length_m, unit))]
    if trailer.ramp.feet:
        found.append("on feet")
    if trailer.dovetail is not None:
        found.append(f"a dovetail that falls {write_inches(trailer.dovetail.drop_m, unit)}")
    if trailer.stands is not None:
        gap = trailer.stands.gap_m
        where = "on the ground" if gap == 0 else f"{write_inches(gap, unit)} above the ground"
        found.append(f"stands {where} once dropped")
    return f"{', '.join(found)}."


def hold_words(ratio: float | None) -> str:
    """How well it holds: ``holds 2.1 times the push``."""
    if ratio is None:
        return "nothing pushes"
    figure = write_number(ratio, 2)
    # a ratio never reads as one that it is not
    if ratio < 1 and figure == "1.00":
        figure = "0.99"
    return f"holds {figure} times the push" if ratio >= 1 else f"holds only {figure} of the push"


@dataclass(frozen=True, kw_only=True, slots=True)
class FindingWords:
    """One finding in a list: what it is about, what was found, what that means, and when."""

    label: str
    found: str
    note: str
    status: str
    when: str = ""


Say = Callable[[Finding, Plan, UnitSystem], tuple[str, str, str]]


def finding_words(finding: Finding, plan: Plan, unit: UnitSystem) -> FindingWords:
    """The words of one finding."""
    label, found, note = _SAY[finding.subject](finding, plan, unit)
    return FindingWords(label=label, found=found, note=note, status=finding.status.value)


def _rear(finding: Finding, plan: Plan, unit: UnitSystem) -> tuple[str, str, str]:
    value = finding.value or 0.0
    if value <= 0:
        by = write_mass(-value, unit)
        return "Truck's rear axle", f"off the ground, {by} short", "The outfit cannot stay so."
    return (
        "Truck's rear axle",
        f"keeps {write_mass(value, unit)}",
        "Less than half of what it carries unhitched: it steers and brakes little."
        if finding.status is Status.NEAR
        else "",
    )


def _tongue(finding: Finding, plan: Plan, unit: UnitSystem) -> tuple[str, str, str]:
    value, word = finding.value or 0.0, begun(tongue_word(plan.hitch.type))
    if value < 0:
        return (
            word,
            f"lifts by {write_excess(-value, unit)}",
            "The coupler hangs on its latch: pin it, and stand clear.",
        )
    return word, f"keeps {write_mass(value, unit)}", ""


def _hold(finding: Finding, plan: Plan, unit: UnitSystem) -> tuple[str, str, str]:
    note = ""
    if finding.status is Status.OVER:
        note = "It slides: hold it otherwise before anyone climbs on."
    elif finding.status is Status.NEAR:
        note = "Little to spare for a jerk at the clutch."
    return "Hold", hold_words(finding.value), note


def _rated(label: str) -> Say:
    def say(finding: Finding, plan: Plan, unit: UnitSystem) -> tuple[str, str, str]:
        value, limit = finding.value or 0.0, finding.limit or 0.0
        found = f"{write_mass(value, unit)} of {write_mass(limit, unit)}"
        note = f"{write_excess(value - limit, unit)} too much." if value > limit else ""
        return label.format(finding.which), found, note

    return say


def _axle(finding: Finding, plan: Plan, unit: UnitSystem) -> tuple[str, str, str]:
    label, found, note = _rated("Trailer axle {}")(finding, plan, unit)
    if note:
        note = f"{note} At a crawl it will bear that; it is not a load to drive with."
    return label, found, note


def _tip(finding: Finding, plan: Plan, unit: UnitSystem) -> tuple[str, str, str]:
    if finding.value is None:
        return "Tipping", "never off the level", ""
    if finding.value <= 0:
        return "Tipping", "tips over backwards", "Nothing is left on its uphill wheels."
    found = f"{write_percent(finding.value)} of it stays on the uphill wheels"
    note = "Near tipping: heavy end uphill, loader low." if finding.status is Status.NEAR else ""
    return "Tipping", found, note


def _clearance(finding: Finding, plan: Plan, unit: UnitSystem) -> tuple[str, str, str]:
    if finding.value is None:
        return "Clearance", "cannot say", "Clearances at nose, belly and tail are not known."
    if finding.value < 0:
        return "Clearance", f"scrapes by {some_inches(-finding.value, unit)}", ""
    note = "Tires give about as much." if finding.status is Status.NEAR else ""
    return "Clearance", f"{some_inches(finding.value, unit)} to spare", note


def _angle(finding: Finding, plan: Plan, unit: UnitSystem) -> tuple[str, str, str]:
    degrees = finding.value or 0.0
    steep = "Steeper than most people like: 15 degrees is a common bound."
    return (
        "Ramp",
        f"{write_number(degrees, 1)}°",
        steep if finding.status is Status.NEAR else "",
    )


def _bed(finding: Finding, plan: Plan, unit: UnitSystem) -> tuple[str, str, str]:
    if finding.status is Status.OVER:
        return (
            "Dump bed",
            "lifts about its hinge",
            "Latch it, prop the tail, or come on from further ahead.",
        )
    return "Dump bed", "stays down", ""


def _tilt(finding: Finding, plan: Plan, unit: UnitSystem) -> tuple[str, str, str]:
    value = finding.value or 0.0
    if finding.status is Status.OVER:
        short = some_inches(-value, unit)
        return "Tilting deck", "stays down at the mark", f"It balances {short} behind the hinge."
    return "Tilting deck", f"comes up {some_inches(value, unit)} before the mark", ""


_SAY: Final[dict[Subject, Say]] = {
    Subject.TRUCK_REAR: _rear,
    Subject.TONGUE: _tongue,
    Subject.HOLD: _hold,
    Subject.STAND: _rated("Stands"),
    Subject.RAMP: _rated("Ramps carry"),
    Subject.AXLE: _axle,
    Subject.TIP: _tip,
    Subject.CLEARANCE: _clearance,
    Subject.ANGLE: _angle,
    Subject.BED: _bed,
    Subject.TILT: _tilt,
}
"""What is said of each subject: its name, what was found, what that means."""


def usual_clearance_status(least_m: float, most_m: float) -> Status:
    """What a clearance comes to that is only known by what is usual for a kind: likely clear is
    ok, likely scraping calls for a look, and between the two nothing can be said."""
    if least_m >= 0:
        return Status.OK
    return Status.NEAR if most_m < 0 else Status.UNKNOWN


def usual_clearance(least_m: float, most_m: float, unit: UnitSystem) -> FindingWords:
    """What is likely of a clearance that is only known by what is usual for a kind."""
    status = usual_clearance_status(least_m, most_m)
    low, high = write_inches(least_m, unit), write_inches(most_m, unit)
    return FindingWords(
        label="Clearance",
        found=LIKELY[status],
        note=f"An estimate: machines of its kind have from {low} to {high} to spare here. Tape "
        "the lowest points of nose, belly and tail.",
        status=status.value,
    )


LIKELY: Final = {
    Status.OK: "likely clear",
    Status.NEAR: "likely scrapes",
    Status.UNKNOWN: "cannot say",
}
"""What is said of an estimated clearance."""

WRONG: Final = (
    (Subject.TRUCK_REAR, "lifts the truck"),
    (Subject.TIP, "tips over"),
    (Subject.BED, "bed lifts"),
    (Subject.HOLD, "slides"),
    (Subject.STAND, "stands overloaded"),
    (Subject.RAMP, "ramps overloaded"),
    (Subject.CLEARANCE, "scrapes"),
    (Subject.TILT, "deck stays down"),
)
"""What goes wrong, the worst first, in a word or two."""


def climb_word(way: Way, usual: tuple[float, float] | None) -> str:
    """A way in a word or two: what goes wrong, or that it holds."""
    if way.missing:
        return "cannot say"
    for subject, word in WRONG:
        finding = way.finding(subject)
        if finding is not None and finding.status is Status.OVER:
            return word
    if usual is not None and usual_clearance_status(*usual) is not Status.OK:
        return "likely scrapes" if usual[1] < 0 else "holds, may scrape"
    clearance = way.finding(Subject.CLEARANCE)
    if usual is None and clearance is not None and clearance.status is Status.UNKNOWN:
        return "holds, may scrape"
    hold = way.finding(Subject.HOLD)
    if hold is not None and hold.status is Status.NEAR:
        return "just holds"
    tongue = way.finding(Subject.TONGUE)
    lifts = tongue is not None and (tongue.value or 0.0) < 0
    return "holds, tongue lifts" if lifts else "holds"
